"""What a plug, a pan, a filter and the oil show, as somebody saw it."""

from dataclasses import dataclass
from decimal import Decimal

from ..codes.debris import Form, Matter, OilLook, Place
from ..errors import CoreError
from ..guard import Sound
from ..spec import ReservoirKind

FORM_WEIGHT = {
    Form.PASTE: 1,
    Form.SPECKS: 3,
    Form.FUZZ: 3,
    Form.SLIVERS: 10,
    Form.FLAKES: 30,
    Form.CHIPS: 100,
    Form.FRAGMENTS: 300,
}
PASTY = (Form.PASTE, Form.FUZZ, Form.SPECKS)  # what is no piece one could take between two fingers
SMELLS = (OilLook.FUEL, OilLook.BURNT)


@dataclass(frozen=True, kw_only=True)
class Part(Sound):
    """One kind of debris: its share of the magnet face (0–1), a count where it can be counted,
    the largest piece in mm, whether the magnet holds it (None: not tested), where it was, and how high
    it stood on the magnet in mm."""

    form: Form
    matter: Matter
    share: Decimal
    largest_mm: Decimal | None = None
    count: int | None = None
    magnetic: bool | None = None
    place: Place = Place.PLUG
    pile_mm: Decimal | None = None

    def __post_init__(self) -> None:
        """Raises CoreError ``finding.share`` outside 0–1, ``finding.largest`` and ``finding.pile``
        below zero."""
        super().__post_init__()
        if not 0 <= self.share <= 1:
            raise CoreError("finding.share", field="share")
        if self.largest_mm is not None and self.largest_mm < 0:
            raise CoreError("finding.largest", field="largest")
        if self.pile_mm is not None and self.pile_mm < 0:
            raise CoreError("finding.pile", field="pile")


@dataclass(frozen=True, kw_only=True)
class Observation(Sound):
    """What one service showed on one reservoir's plug and in its oil.

    ``km_since_wiped`` is how far the bike ran since the magnet was last clean;
    ``first_service`` marks running-in (also taken below 1500 km on the odometer);
    ``fine_last_time``: the last finding showed as much fine steel (D2); ``wet_clutch``: a clutch runs
    in this oil; ``dipstick_flakes``: its plating was seen to flake, and ``excused``: that has lowered
    a verdict before (D14); ``pan_clean``: None where nobody said (D16); ``seal_missing``: a piece of the
    old seal is not there (D13); ``no_magnet``: there is none, and nothing is told by it.
    """

    reservoir: ReservoirKind
    parts: tuple[Part, ...]
    oil: frozenset[OilLook]
    km_since_wiped: Decimal
    first_service: bool
    fine_last_time: bool = False
    wet_clutch: bool = False
    dipstick_flakes: bool = False
    excused: bool = False
    pan_clean: bool | None = None
    seal_missing: bool = False
    no_magnet: bool = False
