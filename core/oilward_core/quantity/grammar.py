"""From what manuals print and people say to a canonical amount. Asks instead of guessing.

    entry      := [bound] amount (apart amount)*            the first counts, the others must agree
    amount     := [about] side [range side] [tolerance]
    side       := [minus] term (next term)*                 several terms: a sum, see `_adds_up`
    term       := number [unit]
    tolerance  := "±" number (unit | "%") | "+" number "/" "-" number
    apart      := "," | "/" | "or" | "(" | ")" | nothing

Numbers stand in `numbers.FORMS`, the words between them in `tokens.JOINTS`, units in `units`, and
whole examples with their reading in `accepted.TABLE`.
"""

import re
from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal

from ..errors import CoreError, Question
from ..guard import Sound
from .asides import aside
from .display import to_decimal
from .plain import plain
from .syntax import Amount, Bound, Cursor, entry
from .tokens import Preference, tokens
from .units import UNITS, Kind, Unit
from .worth import Form, Worth, agree, check, read_as, worth

LONGEST = 120  # characters
_WRAPPED = re.compile(r"^[(\[{]([^()\[\]{}]*)[)\]}]$")
_BETWEEN, _FROM = re.compile(r"^between (.+) and (.+)$"), re.compile(r"^from (?=\d)")


@dataclass(frozen=True, kw_only=True)
class Measure(Sound):
    """What was said, canonical.

    ``low`` and ``high`` are in the kind's canonical unit (ml, N·m, km, mm, kPa, °C, cSt, min, g,
    N/mm), equal for a single value; ``unit`` is the unit as said; ``text`` the words themselves;
    ``bound`` says that it is a limit (``at least``), where a field takes one.
    """

    kind: Kind
    low: Decimal
    high: Decimal
    unit: str
    form: Form
    text: str
    bound: Bound = ""

    @property
    def value(self) -> Decimal:
        """The value, or the middle of a range, in the canonical unit."""
        return (self.low + self.high) / 2


def parse(
    text: str,
    kind: Kind | None,
    unit: str | None = None,
    preference: Preference = "us",
    limits: bool = False,
) -> Measure:
    """What a manual prints or somebody types, as a canonical amount.

    ``kind`` is what the field wants (None: whatever the unit says), ``unit`` the name of the unit
    the field shows, taken by a bare number, ``preference`` the reader's idea of an ounce, and
    ``limits`` whether the field takes ``at least 3 min``.

    Raises CoreError with codes ``quantity.empty``, ``.negative``, ``.wrong_kind``, ``.two_kinds``,
    ``.not_a_number``, ``.digits``, ``.unknown_unit``, ``.unit_missing``, ``.unfinished``,
    ``.too_much``, ``.too_large``, ``.too_cold``, ``.range_reversed`` and the questions
    ``.doubtful_comma``, ``.doubtful_dot``, ``.slash``, ``.improper``, ``.nought``, ``.space``,
    ``.comma``, ``.minus``, ``.turned_round``, ``.sum_or_same``, ``.disagree``, ``.bound`` and
    ``.which_size``.
    """
    said = plain(text)
    if not said:
        raise CoreError("quantity.empty")
    if len(said) > LONGEST:
        raise CoreError("quantity.too_large")
    said, _ = aside(said, kind)
    said = _FROM.sub("", _BETWEEN.sub(r"\1 to \2", _WRAPPED.sub(r"\1", said)))
    shown = UNITS.get(unit) if unit else None
    cursor = Cursor(tokens(said.rstrip(" .,;:"), kind, preference), said)
    amounts, bound = entry(cursor)
    first = _settled(amounts, shown)
    check(first, said)
    for amount in amounts[1:]:
        other = worth(amount, None)
        check(other, said)
        if other.unit.kind != first.unit.kind or not agree(first, other):
            one, two = cursor.words(amounts[0]), cursor.words(amount)
            raise Question("quantity.disagree", said=one, other=two, options=[one, two])
    if bound and not limits:
        raise CoreError("quantity.bound", text=text.strip(), bound=bound)
    low, high = to_decimal(first.low), to_decimal(first.high)
    return Measure(
        kind=first.unit.kind,
        low=low,
        high=high,
        unit=first.unit.name,
        form=first.form,
        text=text.strip(),
        bound=bound,
    )


_SETTLED = ("quantity.doubtful_comma", "quantity.doubtful_dot")


def _settled(amounts: Sequence[Amount], shown: Unit | None) -> Worth:
    """What the first amount is worth; where its comma is doubtful, as what is printed beside it wants
    it."""
    try:
        return worth(amounts[0], shown)
    except Question as doubt:
        if doubt.code not in _SETTLED or len(amounts) == 1:
            raise
        others = [worth(amount, None) for amount in amounts[1:]]
        read = [worth(read_as(amounts[0], place), shown) for place in (0, 1)]
        fits = [one for one in read if all(_same(one, other) for other in others)]
        if len(fits) != 1:
            raise
        return fits[0]


def _same(one: Worth, other: Worth) -> bool:
    return one.unit.kind == other.unit.kind and agree(one, other)


def parse_single(
    text: str,
    kind: Kind,
    unit: str | None = None,
    preference: Preference = "us",
    limits: bool = False,
) -> Measure:
    """Like `parse`, for a field that wants one value above zero (temperatures may be below).

    Raises CoreError as `parse` does, and ``quantity.one_value`` or ``quantity.zero``.
    """
    measure = parse(text, kind, unit, preference, limits)
    if measure.form != "single":
        raise CoreError("quantity.one_value", text=measure.text)
    if measure.low == 0 and kind != Kind.TEMPERATURE:
        raise CoreError("quantity.zero", kind=kind.value)
    return measure
