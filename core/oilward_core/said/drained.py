"""What is said of what came out."""

from ..codes.options import Stood
from ..guard import whole_table

STOOD: dict[Stood, str] = whole_table(
    Stood,
    {
        Stood.LOW: "below low",
        Stood.BELOW_HALF: "lower half",
        Stood.ABOVE_HALF: "upper half",
        Stood.HIGH: "above high",
        Stood.TOPPED_UP: "was below low, topped up first",
    },
)
_LESS: dict[Stood, str] = whole_table(
    Stood,
    {
        Stood.LOW: "It stood low as it came: burnt or leaked.",
        Stood.BELOW_HALF: "It had gone down as it came: burnt or leaked.",
        Stood.ABOVE_HALF: "Yet the level was right as it came: not all out yet?",
        Stood.HIGH: "Yet it stood high as it came: not all out yet?",
        Stood.TOPPED_UP: "It stood low as it came: burnt or leaked.",
    },
)
_MORE: dict[Stood, str] = {
    Stood.LOW: "Yet it stood low as it came: is all of it this oil?",
    Stood.HIGH: "It stood high as it came: overfilled, water or fuel.",
}
LESS_OUT_OF_LEG = "Leaked past a seal, underfilled, or not all out yet."
MORE_OUT_OF_LEG = "Overfilled, or water."
_LESS_ALONE = "Burnt, leaked or underfilled."
_MORE_ALONE = "Overfilled, water or fuel."
MILKY = "It is milky: water or coolant."
FUEL = "It smells of fuel."
NO_RECORD = "Nothing on record to compare with."


def why(short: bool, stood: Stood | None) -> str:
    """What less or more may come from, by how the level stood as the bike came."""
    table, alone = (_LESS, _LESS_ALONE) if short else (_MORE, _MORE_ALONE)
    return table.get(stood, alone) if stood else alone


def rates(now: int, before: list[str]) -> str:
    """How much goes missing on the way: ``90 ml per 1000 km are gone; 60 and 40 before``."""
    several = [", ".join(before[:-1]), before[-1]] if before[1:] else before
    then = f"; {' and '.join(several)} before" if before else ""
    return f" {now:d} ml per 1000 km are gone{then}."


def as_expected(put: str, gives_back: str, rates: str) -> str:
    """It is what should come out; ``gives_back``: what this bike usually gives, once that is known."""
    learned = f", and this bike gives back {gives_back} of it" if gives_back else " last time"
    return f"As expected: {put} went in{learned}.{rates}"


def otherwise(off: float, put: str, gives_back: str, why: str, rates: str) -> str:
    """Less or more than should come out, by this share."""
    more = "less" if off < 0 else "more"
    than = f"the {gives_back} this bike gives back of {put}" if gives_back else f"the {put} put in"
    return f"{abs(off):.0%} {more} than {than}. {why}{rates}"
