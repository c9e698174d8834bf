"""What an amount is held against, and what far less or more would mean."""

from decimal import Decimal

from ..codes.bench import Basis
from ..guard import whole_table
from ..quantity import show

BASES: dict[Basis, str] = whole_table(
    Basis,
    {
        Basis.LAST: "{amount} went in last time",
        Basis.LAST_AND_SINCE: "{amount} went in last time and since",
        Basis.BOOK: "{amount} is the book capacity",
        Basis.COACH_POURS: "the coach says pour {amount}",
        Basis.COACH_WAITS: "the coach says no more goes in now",
        Basis.COACH_REMOVES: "the coach says take out {amount}",
        Basis.IS_IN: "{amount} was in",
        Basis.HOLDS: "{amount} is all it holds",
        Basis.FILTER: "about {amount} is what the sheet gives a filter",
        Basis.AIM: "{amount} is aimed at",
        Basis.OTHER_LEG: "the other leg has {amount}",
        Basis.SHEET: "{amount} is what the sheet wants",
        # as an earlier release put it, in words nobody knows any more
        Basis.EARLIER: "{amount}",
    },
)
LESS_OUT = "Burnt, leaked, under-filled last time, or not all out yet."
LESS_OUT_OF_LEG = "Leaked past a seal, under-filled last time, or not all out yet."
MORE_OUT_OF_LEG = "Over-filled last time, or water in it."
MORE_OUT = "Over-filled last time, or water or fuel in it."
THEN_OVERFULL, THEN_LOW = "Then it stays over-full.", "Then it is low again."
WOULD_OVERFILL, MORE_THAN_IT_HOLDS = "That would over-fill it.", "That is more than it holds."
NO_FILTER_HOLDS = "No filter holds that much."
NOT_TORQUED = "Nothing is tight at that: pull again."
FAR_OVER = "That much can hurt the thread: take it out and look at it."
MORE_THAN_WAS_IN = "No more can have run out than was in."
LEGS_ALIKE = "Two legs that are not alike pull to one side."
ANOTHER_LEG = "Another leg's amount, or another unit?"
ANOTHER_AIR = "Another chamber, or bar for psi?"
ANOTHER_GAP = "Collapsed, spring out? Gauge from the tube's edge?"


def too_much(amount: str, more: bool) -> str:
    """How much oil has to come out of a leg, or go into it."""
    if more:
        return f"{amount} too much: draw it out, and read again."
    return f"{amount} too little: pour it in, stroke, and read again."


PAN, JUG = "a drain pan", "a measuring jug"


def expected(basis: Basis, amount: str) -> str:
    """``3.4 l went in last time``."""
    return BASES[basis].format(amount=amount)


def it_stands(basis: Basis, amount: str) -> str:
    """What was expected of something that stands all the same."""
    return expected(basis, amount)


def went_in(last: bool, since: bool) -> Basis:
    """Whether it is what went in, with what was topped up, or the book's."""
    if not last:
        return Basis.BOOK
    return Basis.LAST_AND_SINCE if since else Basis.LAST


def ml(value: Decimal) -> str:
    """An amount, in ml."""
    return show(value, "ml")
