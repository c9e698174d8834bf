"""Numbers as people write them: 2.7, 2,7, 15 000, 1'500, 3 1/2, 2-1/2, 6/32.

The forms stand in `FORMS`, in the order they are tried; a number no form takes whole is refused, so
that no part of one is ever read for the whole.
"""

import re
from collections.abc import Callable
from dataclasses import dataclass
from fractions import Fraction
from typing import Literal

Doubt = Literal["", "comma", "dot", "slash", "improper", "nought", "space"]

# what a printed fraction can stand over; anything else is a range or two alternatives
HALVES, SIXTEENTHS = (2, 3, 4), (8, 16, 32, 64)


@dataclass(frozen=True, kw_only=True)
class Number:
    """A scanned number.

    ``decimals`` counts its printed decimals, ``over`` is the denominator of a printed fraction
    (1: none). ``doubt`` says that only the unit can tell what is meant, or nobody: then ``others``
    are the other readings, ``value`` the first. ``said`` is its text.
    """

    value: Fraction
    end: int
    said: str
    decimals: int = 0
    over: int = 1
    doubt: Doubt = ""
    others: tuple[Fraction, ...] = ()

    @property
    def whole(self) -> bool:
        """Whether it is written as a whole number."""
        return not self.decimals and self.over == 1

    @property
    def half_digit(self) -> Fraction:
        """Half of its last printed digit: how far rounding may have carried it. Two or more noughts
        at the end of a whole number count as rounding (6,000 is 6 thousand)."""
        return half_digit(self.value, self.decimals, self.over)


def half_digit(value: Fraction, decimals: int, over: int = 1) -> Fraction:
    """Half of the last printed digit of a number with so many decimals, or over a denominator."""
    if over > 1:
        return Fraction(1, 2 * over)
    if decimals:
        return Fraction(1, 2 * 10**decimals)
    noughts = len(str(value)) - len(str(value).rstrip("0")) if value else 0
    return Fraction(10**noughts if noughts >= 2 else 1, 2)


_ONE = r"\d{1,3}(?:[ ']\d{3})+(?:[.,]\d+)?|\d*[.,]\d+|\d+"
_FRACTION = r"(?P<top>\d{1,4})\s*/\s*(?P<under>\d{1,2})"


def _digits(text: str) -> Fraction:
    return Fraction(re.sub(r"[ ']", "", text).replace(",", "."))


def _proper(match: re.Match[str]) -> Fraction | None:
    top, under = int(match["top"]), int(match["under"])
    return Fraction(top, under) if 0 < top < under and under in HALVES + SIXTEENTHS else None


def _mixed(match: re.Match[str]) -> Number | None:
    part, whole = _proper(match), int(match["whole"])
    if part is None or not whole:
        return None
    return Number(value=whole + part, end=match.end(), said=match.group(), over=int(match["under"]))


def _fraction(match: re.Match[str]) -> Number | None:
    part = _proper(match)
    if part is None:
        return None
    return Number(value=part, end=match.end(), said=match.group(), over=int(match["under"]))


def _improper(match: re.Match[str]) -> Number | None:
    """``11/2``: one and a half without its space, or eleven halves."""
    head, top, under = int(match["top"][:-1] or 0), int(match["top"][-1]), int(match["under"])
    if not head or not 0 < top < under or under not in HALVES + SIXTEENTHS:
        return None
    readings = head + Fraction(top, under), Fraction(int(match["top"]), under)
    return Number(
        value=readings[0],
        end=match.end(),
        said=match.group(),
        decimals=0,
        over=under,
        doubt="improper",
        others=readings,
    )


def _slash(match: re.Match[str]) -> Number | None:
    ends = _digits(match["one"]), _digits(match["two"])
    if not all(ends):
        return None
    return Number(
        value=ends[0],
        end=match.end(),
        said=match.group(),
        decimals=0,
        over=1,
        doubt="slash",
        others=ends,
    )


def _english(match: re.Match[str]) -> Number | None:
    said = match.group()
    return Number(
        value=Fraction(said.replace(",", "")),
        end=match.end(),
        said=said,
        decimals=_after(said, "."),
    )


def _continental(match: re.Match[str]) -> Number | None:
    said = match.group()
    value = Fraction(said.replace(".", "").replace(",", "."))
    return Number(value=value, end=match.end(), said=said, decimals=_after(said, ","))


def _grouped(match: re.Match[str]) -> Number | None:
    said = match.group()
    return Number(
        value=_digits(said),
        end=match.end(),
        said=said,
        decimals=max(_after(said, "."), _after(said, ",")),
    )


def _nought(match: re.Match[str]) -> Number:
    """``085``: a point forgotten behind the nought, or a nought too many."""
    said = match.group()
    behind = Fraction(int(said[1:]), 10 ** (len(said) - 1))
    return Number(
        value=behind,
        end=match.end(),
        said=said,
        doubt="nought",
        others=(behind, Fraction(said)),
    )


def _two_threes(match: re.Match[str]) -> Number:
    """``100 110``: thousands, or two numbers side by side."""
    one, two = match.group().split(" ")
    return Number(
        value=Fraction(one + two),
        end=match.end(),
        said=match.group(),
        doubt="space",
        others=(Fraction(one), Fraction(two), Fraction(one + two)),
    )


def _one_separator(match: re.Match[str]) -> Number | None:
    """``2,750``: thousands or a decimal; the unit may tell."""
    said = match.group()
    doubt: Doubt = "comma" if "," in said else "dot"
    thousands = Fraction(re.sub(r"[.,]", "", said))
    return Number(
        value=_digits(said),
        end=match.end(),
        said=said,
        decimals=3,
        over=1,
        doubt=doubt,
        others=(_digits(said), thousands),
    )


def _after(said: str, mark: str) -> int:
    return len(said.rpartition(mark)[2]) if mark in said else 0


_Reader = Callable[[re.Match[str]], Number | None]
# pattern, reader, example, what it means
FORMS: tuple[tuple[str, _Reader, str, str], ...] = (
    (rf"(?P<whole>\d{{1,4}})(?: | ?& ?| and |-){_FRACTION}", _mixed, "3 1/2", "three and a half"),
    (_FRACTION, _fraction, "6/32", "a proper fraction over 2, 3, 4, 8, 16, 32 or 64"),
    (_FRACTION, _improper, "11/2", "asked: 1 1/2 or 5.5"),
    (rf"(?P<one>{_ONE})\s*/\s*(?P<two>{_ONE})", _slash, "18/25", "asked: from–to, or two values"),
    (r"\d{1,3}(?:,\d{3})+\.\d+", _english, "1,234.5", "English thousands"),
    (r"\d{1,3}(?:\.\d{3})+,\d+", _continental, "1.234,5", "continental thousands"),
    (r"\d{1,3}(?:,\d{3}){2,}", _english, "1,234,567", "thousands"),
    (r"\d{1,3}(?:\.\d{3}){2,}", _continental, "1.234.567", "thousands"),
    (r"0\d+(?![.,]\d)", _nought, "085", "asked: 0.85 or 85"),
    (r"[1-9]\d\d [1-9]\d\d(?![ '.,]\d)", _two_threes, "100 110", "asked, but of distances"),
    (r"\d{1,3}(?:[ ']\d{3})+(?:[.,]\d+)?", _grouped, "15 000", "thousands, also 15'000"),
    (r"[1-9]\d{0,2}[.,]\d{3}", _one_separator, "2,750", "thousands or decimal, by the unit"),
    (r"\d*[.,]\d+", _grouped, "2,7", "a decimal, also 2.7 and .5"),
    (r"\d+", _grouped, "38", "a whole number"),
)
_COMPILED = [(re.compile(rf"(?:{pattern})(?!\d)"), read) for pattern, read, _, _ in FORMS]
_STRAY_NOUGHT = re.compile(r"0\d+(?:[.,/]| ?/)\d")
_GOES_ON = re.compile(r"[.,/]?\d")


def scan_number(text: str, start: int = 0) -> Number | None:
    """The number that begins at ``start``, or None: none there, or one that no form takes whole
    (``1,25,000``, ``2.7.5``, ``00.5``)."""
    if _STRAY_NOUGHT.match(text, start):
        return None
    for form, read in _COMPILED:
        match = form.match(text, start)
        number = read(match) if match else None
        if number is not None:
            return None if _GOES_ON.match(text, number.end) else number
    return None
