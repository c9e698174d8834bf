"""A typed amount a little less or more: for gloves, one tap instead of a keyboard."""

from dataclasses import dataclass
from decimal import Decimal

from ..guard import guarded
from .display import convert
from .grammar import Measure

# what one tap changes, small and large, by unit
_STEPS = {
    "ml": (Decimal(10), Decimal(50)),
    "l": (Decimal("0.01"), Decimal("0.05")),
    "qt": (Decimal("0.1"), Decimal("0.25")),
    "fl oz": (Decimal("0.5"), Decimal(2)),
    "N·m": (Decimal("0.5"), Decimal(1)),
    "lbf·ft": (Decimal("0.5"), Decimal(1)),
    "lbf·in": (Decimal(1), Decimal(5)),
}


@dataclass(frozen=True)
class Nudge:
    """What a tap is called (``−10 ml``), and the amount it comes to, as it would be typed."""

    label: str
    text: str


@guarded
def nudges(measure: Measure) -> tuple[Nudge, ...]:
    """An amount two steps down and two steps up, in the unit it was said in; none for ranges, for
    units nobody measures by, and none below zero."""
    steps = _STEPS.get(measure.unit)
    if steps is None or measure.low != measure.high:
        return ()
    small, large = steps
    number = convert(measure.low, measure.unit)
    return tuple(
        Nudge(f"{'+' if by > 0 else '−'}{abs(by)} {measure.unit}", _text(number + by, measure.unit))
        for by in (-large, -small, small, large)
        if number + by > 0
    )


def _text(number: Decimal, unit: str) -> str:
    return f"{round(number, 3).normalize():f} {unit}"
