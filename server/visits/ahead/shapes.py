"""When a visit will be through, as the API says it."""

from dataclasses import dataclass


@dataclass(frozen=True)
class Finish:
    """``at`` is when, ``minutes`` from now, ``hands_on`` of them work; ``less`` how many minutes
    shorter it might still be (0: this is the shortest); ``then`` what to do to keep it, soonest first,
    for so many ``people``."""

    at: str
    minutes: int
    hands_on: int
    less: int
    then: list[str]
    people: int
