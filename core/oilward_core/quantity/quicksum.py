"""Sums as one says them at the bench: ``2.7 l - 2.5 qt``, ``38 oz in qt``, ``3 x 946 ml``."""

import re
from dataclasses import dataclass
from decimal import Decimal

from ..errors import CoreError
from .display import show, show_range
from .grammar import Measure, Preference, choose_unit, parse
from .units import CANONICAL, SPELLINGS, UNITS, Kind

_INTO = re.compile(r"^(?P<sum>.+?)\s+(?:in|to|=)\s+(?P<unit>\D+?)\s*=?$", re.IGNORECASE)
_TIMES = re.compile(r"^(?P<count>\d+(?:[.,]\d+)?)\s*[x×*]\s*(?P<rest>.+)$", re.IGNORECASE)
_MINUS = re.compile(r"(?<=[a-z³\"])\s*[-−–]\s*(?=[\d½¼¾])|\s+[-−–]\s+(?=[\d½¼¾])", re.IGNORECASE)


@dataclass(frozen=True)
class SumAnswer:
    """The answer of a quick sum: canonical ``low``/``high`` of ``kind``, the unit and words shown."""

    kind: Kind
    low: Decimal
    high: Decimal
    unit: str
    words: str


def _term(text: str, preference: Preference) -> Measure:
    times = _TIMES.match(text.strip())
    measure = parse(times["rest"] if times else text, None, None, preference)
    if not times:
        return measure
    count = Decimal(times["count"].replace(",", "."))
    return Measure(
        measure.kind,
        measure.low * count,
        measure.high * count,
        measure.unit,
        measure.form,
        measure.text,
    )


def _split(text: str) -> list[str]:
    """Terms around minus signs that follow a unit; ``14-21 ft-lb`` stays one range."""
    terms, at = [], 0
    for match in _MINUS.finditer(text):
        if re.search(r"[a-z³\"]", text[at : match.start()], re.IGNORECASE):
            terms.append(text[at : match.start()])
            at = match.end()
    return [*terms, text[at:]]


def _target(text: str, preference: Preference) -> tuple[str, str | None]:
    into = _INTO.match(text)
    word = " ".join(into["unit"].lower().split()) if into else ""
    if not into or word not in SPELLINGS:
        return text, None
    measure = _term(_split(into["sum"])[0].removeprefix("mid "), preference)
    return into["sum"], choose_unit(word, measure.kind, preference).name


def quick_sum(text: str, preference: Preference = "us") -> SumAnswer:
    """Answer a line of bench arithmetic.

    Knows sums (``1 qt + 6 oz``), differences, multiples (``3 x 946 ml``), ``mid`` of a range and
    a wanted unit after ``in``. Raises CoreError as `quantity.parse` does, and ``quantity.mixed_kinds``.
    """
    said = text.strip()
    middle = said.lower().startswith("mid ")
    body, unit = _target(said[4:] if middle else said, preference)
    first, *rest = (_term(part, preference) for part in _split(body))
    low, high = first.low, first.high
    for measure in rest:
        if measure.kind != first.kind:
            raise CoreError("quantity.mixed_kinds", said=first.kind.value, other=measure.kind.value)
        low, high = low - measure.high, high - measure.low
    if middle:
        low = high = (low + high) / 2
    shown = unit or (CANONICAL[first.kind] if rest else first.unit)
    places = max(UNITS[shown].places, 1) if middle else None
    words = show_range(low, high, shown, places) if low != high else show(low, shown, places)
    return SumAnswer(first.kind, low, high, shown, words)
