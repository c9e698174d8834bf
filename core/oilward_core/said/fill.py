"""What the fill coach says."""

from decimal import Decimal

from ..codes.fill import Cause, LeftFor
from ..guard import whole_table

CAUSES: dict[Cause, str] = whole_table(
    Cause,
    {
        Cause.OLD_OIL: "Old oil left in: was everything drained?",
        Cause.ATTITUDE: "Bike in the wrong attitude for the gauge.",
        Cause.TOO_SOON: "Read too soon: oil still running down.",
        Cause.LEAK: "Leak, or the drain plug is not in.",
        Cause.CAPACITY: "Wrong capacity or unit on the spec sheet.",
        Cause.NOT_COUNTED: "Filter not counted, or amount typed wrong.",
        Cause.AMOUNT: "Amount poured typed wrong.",
        Cause.MISREAD: "Gauge misread, or dipstick seated differently.",
        Cause.NOT_AS_ASKED: "Bike not standing as the spec sheet asks.",
        Cause.GAUGE: "The gauge is right: a lead stands by it.",
        Cause.UNREADABLE: "The gauge cannot be read, by the book: {words}",
        Cause.ELSE: "{words}",
    },
)


LEFT: dict[LeftFor, str] = whole_table(
    LeftFor,
    {
        LeftFor.BETWEEN: "the manual says between the marks",
        LeftFor.HOT: "hot, it will rise",
        LeftFor.RIDE: "checked after the ride",
        LeftFor.OWNER: "the owner tops up",
    },
)


def left(code: LeftFor | None) -> str:
    """That it is left where it stands, and why; or that it is not, after all."""
    return f"left here: {LEFT[code]}" if code else "not left here after all"


def cause(code: Cause, words: str = "") -> str:
    """What was found behind it; ``words`` of somebody's own."""
    return CAUSES[code].format(words=words)


def learned(takes: list[float]) -> str:
    """What it took before."""
    return f"It took {', '.join(f'{take:.0f}' for take in takes)} ml before; the median counts."


def of_model(takes: float, fillings: int, bikes: int) -> str:
    """What other bikes of the model took."""
    return (
        f"Never filled here by its gauge. Other bikes of this model took {takes:.0f} ml "
        f"({fillings} fillings of {bikes} bikes)."
    )


EDGE_DRY = "Dry at its edge: it takes more than is in."
EDGE_RUNS = "Oil runs out at its edge: it takes no more than is in."


def edge_measured(ran_out: str, takes: str) -> str:
    """What ran out was measured."""
    return f"{ran_out} ml ran out at its edge: it took {takes} ml."


def marks_assumed(between: str) -> str:
    """How far apart marks are taken to be."""
    return f"{between} (assumed)"


def marks_seen(between: str) -> str:
    """How far apart they are by what was poured between two readings."""
    return f"{between} (as the readings told)"


def falls(ml: str, spread: str, starts: int) -> str:
    """How far the level will fall at the first start."""
    times = "once" if starts == 1 else f"{starts} times"
    return f"At the first start the level falls by {ml} ± {spread} ml; seen {times} before."


def what_came_out(ml: float) -> str:
    """Only so much came out, and goes back."""
    return f"Its plug was closed early: {ml:.0f} ml go back, the rest is still in."


def book(capacity: float) -> str:
    """What the book says, and what stays in."""
    return f"Book capacity {capacity:.0f} ml; about 3 % old oil stays in."


BELOW = "Nothing in the glass: it takes at least the target's worth more."
BEFORE_START = "The engine has not run: filter and galleries still take their share."
ABOVE = "Glass full to the top: too much is in."


def reading(position: float, added: float, between: float, measured: float, spread: float) -> str:
    """What a reading comes to."""
    return (
        f"Read {position:.2f} of the glass with {added:.0f} ml in; marks are {between:.0f} ml apart, so "
        f"it looks like {measured:.0f} ± {spread:.0f} ml in all."
    )


def cause_found(code: Cause, words: str) -> str:
    """That somebody found out why gauge and book disagree."""
    return f"Cause found: {cause(code, words)}"


def gap(expected: float, safe: float, initial: str) -> str:
    """How much is missing, and how much of it is safe to pour."""
    first = f" The manual starts with {initial} ml." if initial else ""
    return (
        f"Expected gap {expected:.0f} ml; up to {safe:.0f} ml stays below the high mark in 99 of "
        f"100.{first}"
    )


def exact(capacity: str) -> str:
    """An exact quantity."""
    return f"Measure out all of {capacity} ml; no level to read."


DRAIN_AGAIN = "Drain it again, all of it, then fill anew."
OVERFILLED = "Above the target: take the excess out."
DISAGREE = "Stop. Gauge and book disagree."


def disagree(added: str, book: str) -> str:
    """Both numbers in sight."""
    return f"{DISAGREE} {added} is in, and it should take {book}."


ONE_BOTTLE, HALF_A_BOTTLE = "1 bottle", "half of it"


def all_but(rest: str) -> str:
    """A bottle, but for what stays in it."""
    return f"all but {rest}"


def done(took: str) -> str:
    """The level is right."""
    return f"Level is right. It took {took}."


def read(added: str, runs: bool) -> str:
    """What is in is to be read; ``runs``: it is enough to run on."""
    then = "Run it, let it settle, read the level." if runs else "Read the level again."
    return f"{added} is in. {then}"


def settle(added: str) -> str:
    """What is in is to be read without a run."""
    return f"{added} is in. Let it settle, read the level."


def look(added: str, runs: bool) -> str:
    """Before the first start, with so much in."""
    then = ", or shut the filler and run it" if runs else ""
    return f"{added} is in. Look at the gauge before it runs{then}."


def move(pours: bool, amount: str, own: str, of_bottle: str) -> str:
    """How much to pour or to take out, in the person's unit and in bottles as well."""
    in_unit = f" ({own})" if own else ""
    bottle = f": {of_bottle}" if of_bottle else ""
    return f"{'Pour' if pours else 'Take out'} {amount}{in_unit}{bottle}."


def _percent(share: Decimal) -> str:
    return f"{share * 100:.1f}\u00a0%"


def old_oil(once: Decimal, twice: Decimal) -> str:
    """How much old oil stays in a case: after this change, and after one more."""
    return f"{_percent(once)} of the old oil stays, {_percent(twice)} after another change."


def flush(once: Decimal) -> str:
    """What is left of spoilt oil spoils the new."""
    return f"{_percent(once)} of the spoilt oil stays. Flush it: fill, run it warm, drain it again."


def drain_again(amount: str) -> str:
    """Everything has to come out once more."""
    return f"Drain it again, all of it: about {amount}, and what was left in it."


def all_of(amount: str) -> str:
    """An exact quantity."""
    return f"All of {amount}, measured."


def belief(mean: str, spread: str, unit: str) -> str:
    """What is believed: ``I expect 2.62 ± 0.06 l in all.``"""
    return f"I expect {mean} ± {spread} {unit} in all."
