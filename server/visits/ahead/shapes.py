"""When a visit will be through, as the API says it."""

from dataclasses import dataclass


@dataclass(frozen=True)
class NextJob:
    """A job that comes next, and how many minutes it can wait: 0, and every minute lost at it makes the
    whole later."""

    label: str
    spare: int


@dataclass(frozen=True, kw_only=True)
class Finish:
    """``at`` is when, ``minutes`` from ``worked_out``, ``hands_on`` of them work; ``less`` how many
    minutes shorter it might still be (0: this is the shortest); ``then`` what to do to keep it,
    soonest first, for so many ``people``. Empty ``at``: it is being worked out."""

    at: str
    minutes: int
    hands_on: int
    less: int
    then: list[NextJob]
    people: int
    worked_out: str


NOT_YET = Finish(at="", minutes=0, hands_on=0, less=0, then=[], people=0, worked_out="")
