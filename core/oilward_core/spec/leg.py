"""What a sheet says of a fork leg besides its oil."""

from dataclasses import dataclass
from decimal import Decimal

from ..codes.suspension import GapRod, GapSpring, LegFunction, LegKind
from ..guard import Sound


@dataclass(frozen=True, kw_only=True)
class LegSpec(Sound):
    """A fork leg. Lengths in mm, ``outer`` chamber in ml, ``rate`` in N/mm, ``pressure`` in kPa at 20 °C;
    settings in clicks or turns from closed, ``preload`` in turns or lines. None: it does not say."""

    kind: LegKind | None = None
    function: LegFunction | None = None
    outer: Decimal | None = None
    gap_spring: GapSpring | None = None
    gap_rod: GapRod | None = None
    bore: Decimal | None = None
    rod: Decimal | None = None
    seal: Decimal | None = None
    travel: Decimal | None = None
    height: Decimal | None = None
    rate: Decimal | None = None
    spring_new: Decimal | None = None
    spring_limit: Decimal | None = None
    compression: Decimal | None = None
    rebound: Decimal | None = None
    preload: Decimal | None = None
    pressure: Decimal | None = None

    @property
    def split(self) -> bool:
        """Whether the sheet gives it a function that is not the whole of a leg's."""
        return self.function not in (None, LegFunction.ALL)


NOTHING_SAID = LegSpec()
