"""What is typed at work, held against what is expected there.

Off by a factor that a unit or a comma explains, it is asked about; anything else far off is said
before the work goes on, with what it would mean, and may stand. The window is our definition.
"""

from collections.abc import Collection, Iterator
from dataclasses import dataclass
from decimal import Decimal
from fractions import Fraction

from .codes.bench import Basis
from .errors import Question
from .guard import Sound, guarded
from .quantity import UNITS, Kind, Measure, convert, show
from .quantity.display import show_precise, to_decimal
from .said import expected as said

FAR = Decimal("0.30")  # of what is expected
FAR_SPREADS = 4  # or so many times its spread, whichever is wider
MEANT, MEANT_SPREADS = Decimal("0.12"), 2  # a slip explains it when it then lies as near as this

# the units a number may have been meant in
_SPOKEN = {
    Kind.VOLUME: ("ml", "l", "qt", "fl oz"),
    Kind.TORQUE: ("N·m", "lbf·ft", "lbf·in", "kgf·m", "kgf·cm"),
    Kind.DISTANCE: ("km", "mi"),
    Kind.LENGTH: ("mm", "in", "thou"),
    Kind.PRESSURE: ("bar", "psi", "kPa"),
    Kind.TEMPERATURE: ("°C", "K", "°F"),
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
    """What an amount is expected to be, canonical: ``value`` with its standard deviation ``spread``; on
    which ``basis``, and the ``amount`` it names in words (``3.4 l``). ``less`` and ``more`` say what far
    less or more would mean; empty: that is not asked about. ``most``: more than that is asked about,
    however near it is; ``least``: what less than that means is asked at a step of its own; ``within``:
    how far off is near, where that is known. ``worth``: how much oil, ml, one less of it is too much,
    where it is the way down to oil."""

    value: Decimal
    spread: Decimal
    basis: Basis
    amount: str
    less: str = ""
    more: str = ""
    most: Decimal | None = None
    least: Decimal | None = None
    within: Decimal | None = None
    worth: Decimal | None = None

    @property
    def window(self) -> Decimal:
        """How far off is still near."""
        if self.within is not None:
            return self.within
        return max(self.value * FAR, self.spread * FAR_SPREADS)

    @property
    def words(self) -> str:
        """``3.4 l went in last time``."""
        return said.expected(self.basis, self.amount)

    def means(self, value: Decimal) -> str:
        """What another value would mean, and what to do about it where that is known."""
        meaning = self.less if value < self.value else self.more
        if self.worth is None:
            return meaning
        oil = (self.value - value) * self.worth
        return f"{said.too_much(show(abs(oil), 'ml'), oil > 0)} {meaning}"


@guarded
def within(value: Decimal, amount: str, basis: Basis, says: str, near: Decimal) -> Expected:
    """A value as it should be, to ``near`` on either side; ``says`` what anything else would mean."""
    return Expected(
        value=value,
        spread=Decimal(0),
        basis=basis,
        amount=amount,
        less=says,
        more=says,
        within=near,
    )


@guarded
def as_in_the_other_leg(value: Decimal, amount: str, near: Decimal) -> Expected:
    """What one fork leg got, where both are to be alike."""
    return within(value, amount, Basis.OTHER_LEG, said.LEGS_ALIKE, near)


@dataclass(frozen=True)
class Asked:
    """A question that was answered “it stands”: what was asked, and what was expected."""

    code: str
    expected: Expected


def _near(value: Decimal, expected: Expected) -> bool:
    if expected.most is not None and value > expected.value:
        return value <= expected.most
    return abs(value - expected.value) <= expected.window


def _explains(value: Decimal, expected: Expected) -> bool:
    close = max(expected.value * MEANT, expected.spread * MEANT_SPREADS)
    return abs(value - expected.value) <= min(close, expected.window)


@guarded
def as_typed(number: Decimal, unit: str) -> str:
    """A number with its unit as it would be typed, to be offered for an answer: ``3.4 ml``."""
    return f"{round(number, 3).normalize():f} {unit}"


def _in(number: Decimal, unit: str) -> Decimal:
    """The canonical value of a number in a unit."""
    return to_decimal(Fraction(number) * UNITS[unit].factor + UNITS[unit].offset)


def _meant(measure: Measure, expected: Expected, far: bool) -> Iterator[tuple[Decimal, str]]:
    """Texts the same digits may have been meant as, each with how far off it would be; another place
    of the comma only where a ``far`` amount is worth asking about."""
    number = convert(measure.low, measure.unit)
    for name in _SPOKEN.get(measure.kind, ()):
        value = _in(number, name)
        if name != measure.unit and _explains(value, expected):
            yield abs(value - expected.value), as_typed(number, name)
    for shift in COMMAS if far else ():
        if _explains(measure.low * shift, expected):
            yield abs(measure.low * shift - expected.value), as_typed(number * shift, measure.unit)


def as_said(measure: Measure) -> str:
    """A single amount with its unit, as it is asked back: ``3.4 ml``."""
    return as_typed(convert(measure.low, measure.unit), measure.unit)


@guarded
def hold_against(measure: Measure, expected: Expected | None, sure: str = "") -> Asked | None:
    """Hold a single amount against what is expected.

    None: it is near, or nothing is expected. ``sure`` is the text that was answered “it stands” to
    an earlier question (`as_said`); then the question comes back, to be kept with the entry. Raises
    the questions ``expected.slip`` and ``expected.far``.
    """
    nothing = expected is None or (not expected.value and expected.most is None)
    if expected is None or nothing or _near(measure.low, expected):
        return None
    own = as_said(measure)
    meaning = expected.means(measure.low)
    slips = _meant(measure, expected, bool(meaning)) if expected.value else ()
    best = min(slips, default=None)
    apart = expected.least is not None and measure.low < expected.least
    if best is None and (apart or not meaning):
        return None
    code = "expected.far" if best is None else "expected.slip"
    if sure == own:
        return Asked(code, expected)
    options = [own] if best is None else [best[1], own]
    raise Question(
        code, said=own, expected=expected.words, meaning=meaning, options=options, sure=own
    )


@guarded
def hold_inside(measure: Measure, low: Decimal, high: Decimal, sure: Collection[str]) -> str:
    """Hold a measured value, or both ends of a range, against what can be there at all.

    Empty: it can be. ``sure`` are texts that were answered “it stands” to an earlier question
    (`as_said`); then the text comes back, to be kept. Raises the question ``measure.unlikely``.
    """
    if low <= measure.low and measure.high <= high:
        return ""
    own = as_said(measure)
    if own in sure:
        return own
    number = convert(measure.low, measure.unit)
    meant = [
        as_typed(number, name)
        for name in _SPOKEN.get(measure.kind, ())
        if name != measure.unit and low <= _in(number, name) <= high
    ]
    shifted = [
        as_typed(number * shift, measure.unit)
        for shift in COMMAS
        if low <= measure.low * shift <= high
    ]
    raise Question(
        "measure.unlikely",
        said=own,
        low=show_precise(low, measure.unit),
        high=show_precise(high, measure.unit),
        options=[*meant, *shifted[:1], own],
        sure=own,
    )


@guarded
def hold_in(vessel: tuple[str, Decimal], ml: Decimal, unit: str, sure: str) -> None:
    """Hold an amount, said in ``unit``, against its vessel: what that is called, and how many ml it
    holds. Raises the question ``expected.vessel``, unless it was answered that it is right: in
    several goes, then."""
    words, most = vessel
    if ml <= most:
        return
    own = as_typed(convert(ml, unit), unit)
    if sure != own:
        raise Question(
            "expected.vessel",
            field="amount",
            said=own,
            vessel=words,
            most=show(most, "ml"),
            options=[own],
            sure=own,
        )
