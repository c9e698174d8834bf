"""What the API says of odometer readings."""

from dataclasses import dataclass, field

from workshop.shapes import upto


@dataclass(frozen=True, kw_only=True)
class NewReading:
    """What the odometer shows. ``new_shows``: a new one was fitted and shows this. ``sure``: the
    answers to earlier questions whether it is right."""

    id: str
    odometer: str = upto(200, blank=True)
    hours: str = upto(100, blank=True, default="")
    new_shows: str = upto(200, blank=True, default="")
    sure: list[str] = field(default_factory=list)


@dataclass(frozen=True, kw_only=True)
class ReadingCorrection:
    """What the odometer really showed. ``seen`` is the id of the reading that stood when this was
    typed; empty ``hours`` stay as they are."""

    id: str
    seen: str
    odometer: str = upto(200, blank=True)
    reason: str = upto(200, blank=True)
    hours: str = upto(100, blank=True, default="")
    sure: list[str] = field(default_factory=list)


@dataclass(frozen=True, kw_only=True)
class ReadingLine:
    """A reading that stands; ``before`` is what it said until it was corrected, newest first."""

    id: str
    read_on: str
    odometer: str
    hours: str
    by: str
    replaced: bool
    reason: str
    before: list[str]


@dataclass(frozen=True, kw_only=True)
class Readings:
    bike: str
    unit: str
    counts_hours: bool
    now: str
    lines: list[ReadingLine]
    may_correct: bool
