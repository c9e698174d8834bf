"""Numbers without a unit: counts, factors, indices, prices. The same reader as for amounts."""

from decimal import Decimal

from ..errors import CoreError, Question
from ..guard import guarded
from .display import to_decimal
from .numbers import scan_number
from .plain import plain

MOST_COUNT = 99_999
_DOUBTS = {"slash": "quantity.slash", "nought": "quantity.nought", "space": "quantity.space"}


@guarded
def read_number(text: str, least: Decimal | None = None, most: Decimal | None = None) -> Decimal:
    """A plain number as people write it: ``0.85``, ``0,85``, ``1/2``, ``12 500``, ``-5``.

    ``least`` and ``most`` are where it may lie. Raises CoreError ``quantity.empty``,
    ``quantity.not_a_number``, ``number.range``, and the questions ``quantity.doubtful_comma`` and
    ``quantity.slash``.
    """
    said = plain(text)
    if not said:
        raise CoreError("quantity.empty")
    negative = said.startswith("-")
    digits = said.removeprefix("-").strip()
    number = scan_number(digits)
    if number is None or number.end != len(digits):
        raise CoreError("quantity.not_a_number", word=text.strip()[:20])
    if number.doubt and number.doubt != "dot":
        code = _DOUBTS.get(number.doubt, "quantity.doubtful_comma")
        options = [f"{to_decimal(other):f}" for other in number.others]
        raise Question(code, said=number.said, options=options)
    value = to_decimal(-number.value if negative else number.value)
    if (least is not None and value < least) or (most is not None and value > most):
        raise CoreError("number.range", low=least, high=most)
    return value


def read_count(text: str, most: int = MOST_COUNT, least: int = 0) -> int:
    """A whole number. Raises CoreError as `read_number` does, and ``number.whole``."""
    value = read_number(text, Decimal(least), Decimal(most))
    if value != value.to_integral_value():
        raise CoreError("number.whole")
    return int(value)
