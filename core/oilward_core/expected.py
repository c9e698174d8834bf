"""What is typed at work, held against what is expected there.

Off by a factor that a unit or a comma explains, it is asked about; anything else far off is said
before the work goes on, with what it would mean, and may stand. The window is our definition.
"""

from collections.abc import Iterator
from dataclasses import dataclass
from decimal import Decimal
from fractions import Fraction

from .errors import Question
from .guard import Sound, guarded
from .quantity import UNITS, Kind, Measure, convert
from .quantity.display import to_decimal

FAR = Decimal("0.30")  # of what is expected
FAR_SPREADS = 4  # or so many times its spread, whichever is wider
MEANT, MEANT_SPREADS = Decimal("0.12"), 2  # a slip explains it when it then lies as near as this

# the units a number may have been meant in
_SPOKEN = {
    Kind.VOLUME: ("ml", "l", "qt", "fl oz"),
    Kind.TORQUE: ("N·m", "lbf·ft", "lbf·in", "kgf·m", "kgf·cm"),
    Kind.DISTANCE: ("km", "mi"),
}
COMMAS = (  # a number read with its comma in another place
    Decimal(10),
    Decimal("0.1"),
    Decimal(100),
    Decimal("0.01"),
    Decimal(1000),
    Decimal("0.001"),
)


@dataclass(frozen=True, kw_only=True)
class Expected(Sound):
    """What an amount is expected to be, canonical: ``value`` with its standard deviation ``spread``
    and ``words`` that say where it comes from (``3.4 l went in last time``). ``less`` and ``more``
    say what far less or more would mean; empty: that is not asked about."""

    value: Decimal
    spread: Decimal
    words: str
    less: str = ""
    more: str = ""

    @property
    def window(self) -> Decimal:
        """How far off is still near."""
        return max(self.value * FAR, self.spread * FAR_SPREADS)


@dataclass(frozen=True)
class Asked:
    """A question that was answered “it stands”: what was asked, and what was expected."""

    code: str
    expected: str


def _near(value: Decimal, expected: Expected) -> bool:
    return abs(value - expected.value) <= expected.window


def _explains(value: Decimal, expected: Expected) -> bool:
    close = max(expected.value * MEANT, expected.spread * MEANT_SPREADS)
    return abs(value - expected.value) <= min(close, expected.window)


@guarded
def as_typed(number: Decimal, unit: str) -> str:
    """A number with its unit as it would be typed, to be offered for an answer: ``3.4 ml``."""
    return f"{round(number, 3).normalize():f} {unit}"


def _meant(said: Measure, expected: Expected, far: bool) -> Iterator[tuple[Decimal, str]]:
    """Texts the same digits may have been meant as, each with how far off it would be; another place
    of the comma only where a ``far`` amount is worth asking about."""
    number = convert(said.low, said.unit)
    for name in _SPOKEN.get(said.kind, ()):
        value = to_decimal(Fraction(number) * UNITS[name].factor)
        if name != said.unit and _explains(value, expected):
            yield abs(value - expected.value), as_typed(number, name)
    for shift in COMMAS if far else ():
        if _explains(said.low * shift, expected):
            yield abs(said.low * shift - expected.value), as_typed(number * shift, said.unit)


def as_said(said: Measure) -> str:
    """A single amount with its unit, as it is asked back: ``3.4 ml``."""
    return as_typed(convert(said.low, said.unit), said.unit)


@guarded
def hold_against(said: Measure, expected: Expected | None, sure: str = "") -> Asked | None:
    """Hold a single amount against what is expected.

    None: it is near, or nothing is expected. ``sure`` is the text that was answered “it stands” to
    an earlier question (`as_said`); then the question comes back, to be kept with the entry. Raises
    the questions ``expected.slip`` and ``expected.far``.
    """
    if expected is None or not expected.value or _near(said.low, expected):
        return None
    own = as_said(said)
    meaning = expected.less if said.low < expected.value else expected.more
    best = min(_meant(said, expected, bool(meaning)), default=None)
    if best is None and not meaning:
        return None
    code = "expected.far" if best is None else "expected.slip"
    if sure == own:
        return Asked(code, expected.words)
    options = [own] if best is None else [best[1], own]
    raise Question(
        code, said=own, expected=expected.words, meaning=meaning, options=options, sure=own
    )
