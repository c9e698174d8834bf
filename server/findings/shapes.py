"""What the API takes about findings."""

from dataclasses import dataclass

from workshop.shapes import upto


@dataclass(frozen=True)
class NewAnswer:
    """What came of looking into a finding: one of its outcomes, and a word on it. ``id`` is the
    client's."""

    id: str
    outcome: str = upto(40)
    words: str = upto(500, blank=True, default="")


@dataclass(frozen=True)
class NewOverruling:
    """What a lead takes a finding for instead, and why. ``id`` is the client's."""

    id: str
    level: str = upto(12)
    reason: str = upto(500, blank=True, default="")


@dataclass(frozen=True)
class PictureKept:
    """A picture that has been kept, by the id it was sent with."""

    id: str
