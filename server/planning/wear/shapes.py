"""What findings come to over time: of one reservoir, and over the workshop."""

from dataclasses import dataclass

from findings.mapping import Plug
from oilward_bench import PlugPart
from oilward_core.debris import LevelWord, Matter

from planning.shapes import Ask


@dataclass(frozen=True, kw_only=True)
class WearPoint:
    """A finding on the axis of distance: ``km`` in the bike's unit, ``at`` the same in words; the
    ``chance`` that a fault was growing in per cent; ``anew``: a new baseline begins with it."""

    id: str
    on: str
    km: float
    at: str
    level: LevelWord
    parts: list[PlugPart]
    chance: float | None
    chance_words: str
    by: str
    run_in: bool
    anew: bool


@dataclass(frozen=True, kw_only=True)
class WearBand:
    """What others of the kind show: where eight in ten lie, of so many findings."""

    low: float
    middle: float
    high: float
    n: int


@dataclass(frozen=True, kw_only=True)
class WearSeries:
    """The wear index of one matter, a value for each point; its moving average with limits, which
    points lie outside, and which way it leans, in words."""

    matter: Matter
    values: list[float]
    smooth: list[float]
    low: float | None
    high: float | None
    outside: list[int]
    band: WearBand | None
    leans: str


@dataclass(frozen=True, kw_only=True)
class OilPoint:
    """A service on the axis: what came out and what went in, ml; ``changed``: another oil than before."""

    on: str
    km: float
    at: str
    drained: float | None
    took: float | None
    fluid: str


@dataclass(frozen=True, kw_only=True)
class Mark:
    """Something else that happened, on the axis, in its ``lane``: another oil, a part that went on new,
    a fault put right."""

    lane: str
    on: str
    at: str
    km: float
    words: str


@dataclass(frozen=True, kw_only=True)
class WearHistory:
    """One reservoir over distance, oldest first, up to where the bike is ``now``; ``owner`` says the
    newest finding in plain words."""

    bike: str
    bike_id: str
    reservoir: str
    label: str
    unit: str
    now: float
    points: list[WearPoint]
    plugs: list[Plug]
    series: list[WearSeries]
    oil: list[OilPoint]
    marks: list[Mark]
    owner: str


@dataclass(frozen=True, kw_only=True)
class LedgerAsked:
    """What of the ledger is wanted."""

    page: int = 1
    level: str = ""
    matter: str = ""
    kind: str = ""
    model: str = ""
    fluid: str = ""
    grader: str = ""
    school: str = ""


@dataclass(frozen=True, kw_only=True)
class FindingLine:
    """A finding in the ledger. ``fluid`` is the oil it was found in; ``look``: no plug was read."""

    id: str
    on: str
    bike: str
    bike_id: str
    model: str
    reservoir: str
    kind: str
    level: LevelWord
    look: bool
    parts: list[PlugPart]
    words: str
    chance: str
    fluid: str
    by: str


@dataclass(frozen=True)
class BikeAsks:
    """What findings of a bike ask for until they are answered."""

    bike: str
    bike_id: str
    asks: list[Ask]


@dataclass(frozen=True, kw_only=True)
class Changed:
    """A reservoir whose newest finding is graver than the one before; ``look``: no plug was read."""

    bike: str
    bike_id: str
    reservoir: str
    on: str
    was: LevelWord
    now: LevelWord
    look: bool
    parts: list[PlugPart]


@dataclass(frozen=True, kw_only=True)
class LedgerChoices:
    """What can be filtered by."""

    levels: list[LevelWord]
    matters: list[Matter]
    kinds: list[str]
    models: list[str]
    fluids: list[str]
    graders: list[str]
    schools: list[str]


@dataclass(frozen=True, kw_only=True)
class FindingsLedger:
    """The workshop's findings: what asks first, what got worse in the last month, then all, newest
    first."""

    asking: list[BikeAsks]
    changed: list[Changed]
    lines: list[FindingLine]
    count: int
    page: int
    pages: int
    choices: LedgerChoices


@dataclass(frozen=True, kw_only=True)
class GroupClaim:
    """What may be said of the wear with one fluid beside the others in one kind of reservoir."""

    kind: str
    name: str
    ratio: float | None
    low: float | None
    high: float | None
    bikes: int
    findings: int
    words: str


@dataclass(frozen=True, kw_only=True)
class EyeLine:
    """How somebody reads plugs of a kind beside the others."""

    name: str
    kind: str
    graded: int
    words: str


@dataclass(frozen=True)
class Comparisons:
    """Wear by fluid and by how often it is changed, and how eyes differ: one's own, and everybody's to a
    lead."""

    fluids: list[GroupClaim]
    schools: list[GroupClaim]
    eyes: list[EyeLine]
