"""A torque as the manual writes it: by wrench, by hand, by turns, or one after the other."""

import re
from dataclasses import dataclass
from decimal import Decimal
from fractions import Fraction
from typing import Literal

from ..errors import CoreError
from ..guard import Sound
from ..quantity import Kind, parse
from ..quantity.display import to_decimal
from ..quantity.grammar import LONGEST
from ..quantity.numbers import scan_number
from ..quantity.plain import plain
from ..said.torque import then_turns

TorqueForm = Literal[
    "single", "range", "tolerance", "turn", "hand", "torque then turn", "hand then turn"
]
Ends = tuple[Decimal, Decimal]


@dataclass(frozen=True, kw_only=True)
class TorqueSpec(Sound):
    """The manual's torque.

    ``low``–``high`` in N·m; for form ``turn`` in turns after contact; None for hand tight. ``then``
    is the angle that follows a torque or hand tight, in turns (a quarter turn is 90°); ``back``
    says that it is backed off by that, not tightened. ``unit`` is the manual's own unit and
    ``text`` its words.
    """

    form: TorqueForm
    low: Decimal | None
    high: Decimal | None
    unit: str
    text: str
    then: Ends | None = None
    back: bool = False

    @property
    def by_wrench(self) -> bool:
        """Whether a torque wrench sets it, or its first stage: not hand tight, not so many turns."""
        return self.form in ("single", "range", "tolerance", "torque then turn")

    @property
    def then_words(self) -> str:
        """What follows the wrench: ``then 1/4 turn on``, ``then back off 1/4 turn``; or empty."""
        if self.then is None:
            return ""
        fractions = [_common_fraction(end) for end in self.then]
        if all(fractions):
            turns = f"{' to '.join(dict.fromkeys(fractions))} turn"
        else:
            turns = " to ".join(dict.fromkeys(f"{float(end) * 360:.0f}°" for end in self.then))
        return then_turns(turns, self.back)


def _common_fraction(turns: Decimal) -> str:
    """``1/4`` or ``1 1/2``; empty where no common fraction says it."""
    whole, part = divmod(Fraction(turns), 1)
    fraction = part.limit_denominator(12)
    if abs(fraction - part) > Fraction(1, 10_000):
        return ""
    words = [str(whole)] if whole else []
    return " ".join([*words, f"{fraction.numerator}/{fraction.denominator}"] if fraction else words)


_ANGLE_UNIT_PLAIN = r"(?:turns?|revolutions?|revs?|°|deg(?:rees?)?\.?)"
_HAND = re.compile(r"^(?:by )?(?:hand|finger)s?[ -]?(?:tight(?:en(?:ed)?)?)?(?: only)?$")
# the angle first, and what it follows: 1/2 turn past 18 N·m
_PAST = re.compile(
    rf"^(?P<angle>[\d ./,-]*\d ?{_ANGLE_UNIT_PLAIN})(?: (?:on|more|further))? (?:past|beyond|after|over) "
    r"(?P<first>\d.*)$"
)
_CONTACT = re.compile(
    r"^(?:from |on |after |until |to )?(?:gasket |seal |first )?(?:contact|contacts|snug|seated|touch)$"
)
# words for parts of a turn, longest first
_SPOKEN = (
    (r"three[ -]quarters?(?: of)?(?: an?)?", "3/4"),
    (r"(?:one[ -]half|half)(?: of)?(?: an?)?", "1/2"),
    (r"(?:one[ -]quarter|quarter)(?: of)?(?: an?)?", "1/4"),
    (r"two[ -]thirds?(?: of)?(?: an?)?", "2/3"),
    (r"(?:one[ -]third|third)(?: of)?(?: an?)?", "1/3"),
    (r"(?:one[ -]eighth|eighth)(?: of)?(?: an?)?", "1/8"),
    (r"(?:one|full)", "1"),
    (r"two", "2"),
)
_ANGLE_UNIT = r"(?P<unit>turns?|revolutions?|revs?|°|deg(?:rees?)?\.?)"
_BACK = r"(?:and )?(?:back(?:ed)?(?: it)?(?: off| out)|loosen(?:ed)?|slacken(?:ed)?|turn back|undo|minus)"
_ON = r"(?:turn|rotate|tighten|further|another|additional|additionally|an?|more|by|of|it|angle)"
_JOIN = r"(?:[,;]? ?(?:and then|then|plus|\+|&|and|followed by)|[,;])"
_AFTER = (
    r"(?:(?: more| further| on| past| after)*(?: (?:the )?(?:gasket|seal|first|it)?)?"
    r"(?: ?contacts?| touches)?)?"
)
_TURNED = re.compile(
    rf"^(?P<first>.*?)(?P<join> ?{_JOIN} ?| |^)(?P<back>{_BACK} (?:by )?(?:an? )?)?(?:{_ON} )*"
    rf"(?P<angle>[\d ./,-]*?\d[\d ./,-]*?(?:(?: ?(?:to|±|~|\.\.\.?) ?)[\d ./,-]*\d)?)[ -]?(?:of an? )?"
    rf"{_ANGLE_UNIT}(?P<after>{_AFTER})(?: ?[(\[](?P<again>[^()\[\]]+)[)\]])?$"
)
_SPEAKS_OF_TURNS = re.compile(r"\bturns?\b|\brev|°|\bdeg|\bangle\b|\bback\b|\bloosen")
_INNER_DEGREES = re.compile(r" ?(?:°|deg(?:rees?)?\.?)(?= ?(?:to\b|-|~|±|\.\.))")
_SIXTHS = re.compile(r"^([1-5])/(6|12)$")
_MOST_TURNS = Fraction(5)
_ROUNDED = Fraction(2, 100)


def _spoken(text: str) -> str:
    text = _INNER_DEGREES.sub("", text)
    for words, digits in _SPOKEN:
        text = re.sub(rf"\b{words}(?= |-|$)(?=[ -]*(?:turn|rev|to\b|-))", digits, text)
    return text


def _one_angle(text: str) -> Fraction:
    sixths = _SIXTHS.match(text.strip())
    if sixths:
        return Fraction(int(sixths[1]), int(sixths[2]))
    number = scan_number(text.strip())
    if number is None or number.doubt or number.end != len(text.strip()):
        raise CoreError("torque.unclear", text=text.strip())
    return number.value


def _turns(text: str, unit: str) -> tuple[Fraction, Fraction]:
    """An angle or a range of angles, in turns. Raises CoreError ``quantity.range_reversed``."""
    whole = scan_number(text.strip())
    centre, _, spread = text.partition("±")
    if spread:
        ends = [_one_angle(centre) - _one_angle(spread), _one_angle(centre) + _one_angle(spread)]
    elif whole is not None and whole.end == len(text.strip()):
        ends = [_one_angle(text)]
    else:
        parts = re.split(r" ?(?:\bto\b|~|\.\.\.?|-) ?", text.strip(), maxsplit=1)
        ends = [_one_angle(part) for part in parts]
    per = Fraction(1, 360) if unit.startswith(("°", "deg")) else Fraction(1)
    low, high = ends[0] * per, ends[-1] * per
    if low > high:
        raise CoreError("quantity.range_reversed", text=text)
    if not 0 < high <= _MOST_TURNS or low <= 0:
        raise CoreError("torque.unclear", text=text)
    return low, high


def _again(text: str, low: Fraction, high: Fraction) -> None:
    """``1/4 turn (90°)``: the second saying has to be the same angle."""
    match = _TURNED.match(_spoken(text))
    if match is None or match["first"].strip():
        raise CoreError("torque.unclear", text=text)
    for one, two in zip(_turns(match["angle"], match["unit"]), (low, high), strict=True):
        if abs(one - two) > _ROUNDED * two:
            raise CoreError("torque.unclear", text=text)


def _turned(said: str, match: re.Match[str], text: str, unit: str | None) -> TorqueSpec:
    first = match["first"].strip(" ,;")
    angle = _turns(match["angle"], match["unit"])
    if match["again"]:
        _again(match["again"], *angle)
    then = (to_decimal(angle[0]), to_decimal(angle[1]))
    back = bool(match["back"])
    first = re.sub(r"^(?:tighten|torque)(?: to)? ", "", first)
    if not first or _CONTACT.match(first):
        if back:
            raise CoreError("torque.back_off", text=text)
        return TorqueSpec(form="turn", low=then[0], high=then[1], unit="turn", text=text)
    if _HAND.match(first):
        return TorqueSpec(
            form="hand then turn", low=None, high=None, unit="", text=text, then=then, back=back
        )
    if not match["join"].strip() and not back:
        raise CoreError("torque.unclear", text=text)
    stage = parse(first, Kind.TORQUE, unit)
    return TorqueSpec(
        form="torque then turn",
        low=stage.low,
        high=stage.high,
        unit=stage.unit,
        text=text,
        then=then,
        back=back,
    )


def read_torque(text: str, unit: str | None = None) -> TorqueSpec:
    """Read a torque spec: ``14-21 lbf·ft``, ``20 ± 2 N·m``, ``35 N·m (3.6 kgf·m)``, ``1/2–3/4 turn``,
    ``15 N·m then 1/4 turn``, ``20 N·m + 90°``, ``hand tight + 3/4 turn``, ``hand tight``.

    ``unit`` is taken by a bare number. Raises CoreError as `quantity.parse` does, and the questions
    ``torque.unclear`` (speaks of turns, but not how) and ``torque.back_off``.
    """
    words = text.strip()
    said = plain(words).rstrip(" .,;:")
    if len(said) > LONGEST:
        raise CoreError("quantity.too_large")
    if _HAND.match(said):
        return TorqueSpec(form="hand", low=None, high=None, unit="", text=words)
    if _SPEAKS_OF_TURNS.search(said):
        said = _PAST.sub(r"\g<first> then \g<angle>", _spoken(said))
        match = _TURNED.match(_spoken(said))
        if match is None:
            raise CoreError("torque.unclear", text=words)
        return _turned(said, match, words, unit)
    measure = parse(words, Kind.TORQUE, unit)
    return TorqueSpec(
        form=measure.form, low=measure.low, high=measure.high, unit=measure.unit, text=words
    )
