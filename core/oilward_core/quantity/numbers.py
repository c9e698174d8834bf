"""Numbers as people write them: 2.7, 2,7, 15 000, 3 1/2, 2½, 6/32."""

import re
from collections.abc import Callable
from dataclasses import dataclass
from fractions import Fraction

_VULGAR = {
    "½": Fraction(1, 2),
    "⅓": Fraction(1, 3),
    "⅔": Fraction(2, 3),
    "¼": Fraction(1, 4),
    "¾": Fraction(3, 4),
    "⅛": Fraction(1, 8),
    "⅜": Fraction(3, 8),
    "⅝": Fraction(5, 8),
    "⅞": Fraction(7, 8),
}
_NUMBER = re.compile(
    rf"""
    (?P<mixed>\d+\s+\d+\s*/\s*\d+)
    | (?P<fraction>\d+\s*/\s*\d+)
    | (?P<vulgar>\d*\s?[{"".join(_VULGAR)}])
    | (?P<grouped>\d{{1,3}}(?:[ ']\d{{3}})+(?:[.,]\d+)?(?!\d))
    | (?P<english>\d{{1,3}}(?:,\d{{3}})+\.\d+)
    | (?P<continental>\d{{1,3}}(?:\.\d{{3}})+,\d+)
    | (?P<commas>\d{{1,3}}(?:,\d{{3}}){{2,}}(?!\d))
    | (?P<doubtful>[1-9]\d{{0,2}},\d{{3}}(?!\d))
    | (?P<plain>\d+[.,]\d+|[.,]\d+|\d+)
    """,
    re.VERBOSE,
)


@dataclass(frozen=True)
class Number:
    """A scanned number. ``thousands`` is the other meaning of a doubtful comma (2,750), else None."""

    value: Fraction
    thousands: Fraction | None
    end: int


def _ratio(text: str) -> Fraction | None:
    top, bottom = (int(part) for part in text.split("/"))
    return Fraction(top, bottom) if bottom else None


def _decimal(text: str) -> Fraction:
    return Fraction(text.replace(",", ".").replace(" ", "").replace("'", ""))


def _mixed(text: str) -> Fraction | None:
    whole, rest = text.split(maxsplit=1)
    ratio = _ratio(rest)
    return None if ratio is None else int(whole) + ratio


_READ: dict[str, Callable[[str], Fraction | None]] = {
    "mixed": _mixed,
    "fraction": _ratio,
    "vulgar": lambda text: int(text[:-1] or 0) + _VULGAR[text[-1]],
    "english": lambda text: Fraction(text.replace(",", "")),
    "continental": lambda text: Fraction(text.replace(".", "").replace(",", ".")),
    "commas": lambda text: Fraction(text.replace(",", "")),
}


def scan_number(text: str, start: int) -> Number | None:
    """The number that begins at ``start``, or None. A zero denominator is no number."""
    match = _NUMBER.match(text, start)
    if not match:
        return None
    form, said = match.lastgroup or "plain", match.group()
    value = _READ.get(form, _decimal)(said)
    if value is None:
        return None
    thousands = Fraction(said.replace(",", "")) if form == "doubtful" else None
    return Number(value, thousands, match.end())
