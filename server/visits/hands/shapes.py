"""A second pair of hands that is called for, as every screen in the house is told."""

from dataclasses import dataclass


@dataclass(frozen=True, kw_only=True)
class CalledHands:
    """Who needs a hand since when, in which visit of which bike."""

    visit: str
    bike: str
    by: str
    who: str
    since: str
