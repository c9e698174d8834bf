"""What the API takes and says about the laboratory."""

from dataclasses import dataclass

from oilward_core.debris import LevelWord
from workshop.shapes import upto

MOST_TEXT = 12_000_000


@dataclass(frozen=True, kw_only=True)
class NewSample:
    """A sample of what is in a reservoir now, or of fresh oil (``fluid``, and no bike). ``id`` is the
    client's."""

    id: str
    bike: str = upto(40, blank=True, default="")
    reservoir: str = upto(40, blank=True, default="")
    fluid: str = upto(80, blank=True, default="")


@dataclass(frozen=True, kw_only=True)
class SampleLine:
    """A sample, whose it is, and whether its report has come."""

    id: str
    label: str
    what: str
    bike_id: str
    reservoir: str
    taken_on: str
    by: str
    answered: bool


@dataclass(frozen=True)
class NewLabFile:
    """A laboratory's file: a table with a heading, or a document of the open format. ``id`` is the
    client's."""

    id: str
    text: str = upto(MOST_TEXT)


@dataclass(frozen=True)
class FaultLine:
    """What cannot be taken in, by line, and what to do about it."""

    line: int
    field: str
    said: str


@dataclass(frozen=True, kw_only=True)
class LabProgress:
    """How far a file has been taken in. ``refused``: why none of it is."""

    id: str
    lines: int
    done: int
    taken: int
    faults: list[FaultLine]
    refused: str
    finished: bool


@dataclass(frozen=True)
class RemarkLine:
    level: LevelWord
    text: str


@dataclass(frozen=True)
class ElementRate:
    """An element above fresh oil, mg/kg per 1000 km, and what it usually means."""

    element: str
    rate: float
    means: str


@dataclass(frozen=True, kw_only=True)
class LabPoint:
    """A report on the axis of distance."""

    label: str
    on: str
    km: float
    at: str
    laboratory: str
    simulated: bool
    rates: list[ElementRate]
    particles: str
    remarks: list[RemarkLine]


@dataclass(frozen=True, kw_only=True)
class ElementSeries:
    """One element over distance with its moving average and limits."""

    element: str
    means: str
    values: list[float | None]
    smooth: list[float | None]
    high: float | None
    outside: list[int]


@dataclass(frozen=True)
class LabHistory:
    """What laboratories said of one reservoir, oldest first. ``newest`` is the report that counts now:
    the last measured one, or where none was, the last simulated one."""

    points: list[LabPoint]
    newest: LabPoint | None
    elements: list[ElementSeries]
