"""What the coach hears of: what is to be filled, what was poured and read, and what was found."""

from dataclasses import dataclass
from decimal import Decimal
from typing import Literal

from ..codes.fill import Cause, Start
from ..guard import Sound, guarded
from ..spec import IDLING, FillRule, ReservoirKind, ReservoirSpec

Sight = Literal["seen", "below", "above"]


@dataclass(frozen=True)
class Gauge(Sound):
    """A sight glass or dipstick: ml between its marks, and the target as a share of them. ``assumed``:
    nobody knows how far apart they are, until two readings tell."""

    between_marks: Decimal
    target: Decimal
    assumed: bool = False

    @property
    def surely(self) -> Decimal:
        """So many ml are between the marks for sure: half of what is only assumed [our definition]."""
        return self.between_marks / 2 if self.assumed else self.between_marks


@dataclass(frozen=True)
class Drop(Sound):
    """By how many ml the level falls at the first start, while filter and galleries fill: mean and
    standard deviation; ``starts``: how often that was seen, on this bike and others of its model."""

    mean: Decimal
    sd: Decimal
    starts: int = 0


@dataclass(frozen=True)
class Fell(Sound):
    """By how many ml the level fell at a first start, a pre-filled filter counted as empty, and how
    surely that was seen: standard deviation."""

    ml: Decimal
    sd: Decimal


@dataclass(frozen=True)
class Share(Sound):
    """A share of the book capacity as it is believed: mean and standard deviation."""

    mean: float
    sd: float


@dataclass(frozen=True, kw_only=True)
class OfModel(Sound):
    """What a model's other bikes did, ``bikes`` of them in so many ``fillings``: what one ``takes``, and
    how far its level falls at the first start, seen at so many ``starts``; None where too little is
    known."""

    takes: Share | None = None
    drop: Share | None = None
    bikes: int = 0
    fillings: int = 0
    starts: int = 0


@dataclass(frozen=True, kw_only=True)
class Before(Sound):
    """What is known before a filling: what this bike ``took``, newest last, how far its level ``fell`` at
    the first starts, ml, and what its ``model``'s other bikes did."""

    took: tuple[Decimal, ...] = ()
    fell: tuple[Fell, ...] = ()
    model: OfModel = OfModel()


@dataclass(frozen=True, kw_only=True)
class FillCase(Sound):
    """What is to be filled: book ``capacity`` of the variant, gauge (None: exact quantity), the
    sheet's ``initial`` amount if it names one, what this bike ``took`` before, newest last, and what its
    ``model``'s other bikes did.

    ``start``: what the first start does to its level; ``drop``: how far it falls then, where a look
    before it can be used; ``part``: only so much came out, the rest is still in; ``edge``: it has no
    gauge but an edge that oil runs over."""

    capacity: Decimal
    gauge: Gauge | None
    initial: Decimal | None = None
    took: tuple[Decimal, ...] = ()
    model: OfModel = OfModel()
    start: Start = Start.NONE
    drop: Drop | None = None
    part: bool = False
    edge: bool = False


@guarded
def start_of(spec: ReservoirSpec) -> Start:
    """What the first start does to its level. It is read after a run where its sheet says so; a tank
    drains back, and one that is read while it idles is never read before."""
    level = spec.level
    if spec.fill_rule != FillRule.LEVEL or level is None or not level.run_minutes:
        return Start.NONE
    tank = spec.kind == ReservoirKind.ENGINE_DRY or level.engine == IDLING
    return Start.TANK if tank else Start.SUMP


@dataclass(frozen=True)
class Poured(Sound):
    """Oil put in (above zero) or taken out (below zero), ml. A pre-filled filter counts too, but
    nothing is read after it."""

    ml: Decimal
    prefill: bool = False


@dataclass(frozen=True)
class LevelReading(Sound):
    """A reading of the gauge. ``position`` counts only when ``sight`` is *seen*; a reading that is
    not ``valid`` (wrong attitude, too soon) is kept and not used. ``unsure``: how much less sure it is
    than by eye, as a share of what is between the marks."""

    sight: Sight
    position: Decimal
    valid: bool
    unsure: Decimal = Decimal(0)


@dataclass(frozen=True)
class Lost(Sound):
    """So many ml ran out, at a leak or while a full case was opened again."""

    ml: Decimal


@dataclass(frozen=True)
class FilterAnew(Sound):
    """Another new filter went on after the first start, with so many ml in it; the old one, which had
    been pre-filled with ``was``, took along what it had filled itself with."""

    ml: Decimal
    was: Decimal


@dataclass(frozen=True)
class Ran(Sound):
    """The engine ran for the first time on what was poured: filter and galleries are full from here."""


@dataclass(frozen=True)
class CauseFound:
    """The technician found why gauge and book disagree, in ``words`` of their own where no code says
    it: from here the gauge is believed alone."""

    cause: Cause
    words: str = ""


@dataclass(frozen=True)
class Left(Sound):
    """It is left where it stands, inside its marks, for a reason; or taken back: it does not stay."""

    stays: bool = True


@dataclass(frozen=True)
class EdgeRead(Sound):
    """A look at a level plug or an overflow's edge: oil ``runs`` out of it, so many ``ml`` where that was
    measured, or it is dry. One that is not ``valid`` tells nothing; what ran out is gone all the same."""

    runs: bool
    ml: Decimal | None
    valid: bool


@dataclass(frozen=True)
class WrongOil:
    """An oil went in that is refused there: all of it is drained again."""


FillEvent = (
    EdgeRead | WrongOil | Poured | LevelReading | CauseFound | Ran | Lost | FilterAnew | Left
)
