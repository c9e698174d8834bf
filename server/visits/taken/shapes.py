"""What a visit took from shelf and drawer, to be looked over when it is signed."""

from dataclasses import dataclass


@dataclass(frozen=True, kw_only=True)
class TakenLine:
    """So much out of a bottle, or so many of a part: ``what`` by the bottle's id or the part's name,
    ``words`` what it is called, ``amount`` as it can be typed, ``keeps`` what stays there."""

    what: str
    words: str
    amount: str
    keeps: str


@dataclass(frozen=True, kw_only=True)
class Taken:
    """What is to be taken off the shelf, and in sentences what is not there to be taken."""

    bottles: list[TakenLine]
    parts: list[TakenLine]
    short: list[str]
