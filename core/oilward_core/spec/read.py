"""What is written in a cell of a spec sheet, read as its field wants it."""

import re
from decimal import Decimal

from ..errors import CoreError, Question
from ..guard import guarded, remembered
from ..quantity import Aside, Kind, aside, convert, parse, show
from ..quantity.display import to_decimal
from ..quantity.numbers import scan_number
from ..quantity.plain import plain
from ..torque import FEWEST_SCREWS, MOST_SCREWS, TorqueSpec, read_torque
from .form import MOST_TEXT, Field, Form, Value
from .sheet import Spot, Variant

_MEASURES = {
    Form.VOLUME: Kind.VOLUME,
    Form.DISTANCE: Kind.DISTANCE,
    Form.TIME: Kind.TIME,
    Form.LENGTH: Kind.LENGTH,
    Form.VISCOSITY: Kind.VISCOSITY,
    Form.PRESSURE: Kind.PRESSURE,
    Form.SPRING_RATE: Kind.SPRING_RATE,
}
_SPOT = re.compile(r"^(0(?:\.\d+)?|1(?:\.0+)?) (0(?:\.\d+)?|1(?:\.0+)?)$")
_COUNTED = {Form.MONTHS: "months", Form.HOURS: "h"}
_WHOLE = re.compile(r"^\d{1,5}$")
_NEARLY = Decimal("0.04")  # 52 weeks are 11.96 months: 12
MOST_COUNT = 99_999


def _count(field: Field, said: str) -> int:
    """A whole number of services, months or hours; of months and hours in any unit of time."""
    unit = _COUNTED.get(field.form)
    if unit is None:
        number = Decimal(said) if _WHOLE.match(said) else Decimal(0)
    else:
        try:
            measure = parse(said, Kind.TIME, unit, limits=True)
        except CoreError as error:
            if "options" in error.fields or error.code == "quantity.two_kinds":
                raise
            raise CoreError("spec.count", hint=field.hint) from error
        if measure.form != "single" or measure.bound == "at least":
            raise CoreError("spec.count", hint=field.hint)
        number = convert(measure.low, unit)
    whole = round(number)
    if field.name == "count" and whole > MOST_SCREWS:
        raise CoreError("torque.ring", least=FEWEST_SCREWS, most=MOST_SCREWS)
    if not 0 < whole <= MOST_COUNT or abs(number - whole) > _NEARLY:
        raise CoreError("spec.count", hint=field.hint or "1")
    return whole


_SHARE = re.compile(
    r"^(?:about )?(?P<number>[\d .,/]+?) ?(?P<percent>%|per cent|percent)?(?: of .*)?$"
)


def _share(field: Field, said: str) -> Decimal:
    match = _SHARE.match(plain(said))
    number = scan_number(match["number"]) if match else None
    if match is None or number is None or number.doubt or number.end != len(match["number"]):
        raise CoreError("spec.share")
    value = number.value / 100 if match["percent"] else number.value
    if not 0 <= value <= 1:
        raise CoreError("spec.share")
    return to_decimal(value)


_SETTING = re.compile(
    r"^(?P<number>[\d .,/]+?) ?(?P<of>clicks?|turns?|lines?)?(?: (?:out|in|from closed|from in|seen))?$"
)
_PARTS = {"click": 2, "turn": 4, "line": 2}  # of each so many are told apart


@guarded
def read_setting(said: str, like: str) -> Decimal:
    """How an adjuster stands: clicks or lines, whole or half, or turns down to a quarter, from closed.
    ``like``: how one is typed. Raises CoreError ``spec.setting``."""
    match = _SETTING.match(plain(said))
    number = scan_number(match["number"]) if match else None
    if match is None or number is None or number.doubt or number.end != len(match["number"]):
        raise CoreError("spec.setting", hint=like)
    parts = _PARTS[(match["of"] or "click").rstrip("s")]
    if (number.value * parts).denominator != 1 or number.value > MOST_SETTING:
        raise CoreError("spec.setting", hint=like)
    return to_decimal(number.value)


MOST_SETTING = 60  # clicks or turns; no adjuster has more


def _spot(said: str) -> Spot:
    match = _SPOT.match(said)
    if match is None:
        raise CoreError("spec.spot")
    return Spot(Decimal(match[1]), Decimal(match[2]))


def _choice(field: Field, said: str) -> str:
    found = [c for c in field.choices if c.lower() == said.lower()]
    if not found:
        raise CoreError("sheet.choose", options=list(field.choices))
    return found[0]


# forms in which a limit is the value: a least wait is waited, a longest interval is the interval
_LIMITS = {Form.TIME: "at least", Form.DISTANCE: "at most"}


def _measured(field: Field, said: str) -> TorqueSpec | tuple[Decimal, Decimal]:
    if field.form == Form.TORQUE:
        return read_torque(said)
    limit = _LIMITS.get(field.form, "")
    measure = parse(said, _MEASURES[field.form], field.unit or None, limits=bool(limit))
    if measure.bound not in ("", limit):
        raise CoreError("quantity.bound", text=said, bound=measure.bound)
    _, beside = aside(plain(said), measure.kind)
    _check_beside(field, said, beside)
    if measure.kind == Kind.VOLUME and measure.high > measure.low * _NARROW:
        ends = [f"{show(end, measure.unit)}" for end in (measure.low, measure.high)]
        raise Question("spec.wide", text=said, options=ends)
    return (measure.low, measure.high)


_NARROW = Decimal("1.25")  # a capacity's range is no wider, or it is two amounts [our definition]
_AT = {"fluid.kv40": Decimal(40), "fluid.kv100": Decimal(100)}
_OTHER_CAPACITY = {
    f"capacity.{Variant.DRAIN_ONLY}": "with filter",
    f"capacity.{Variant.WITH_FILTER}": "without filter",
}


def _check_beside(field: Field, said: str, beside: Aside) -> None:
    """What is printed beside a value must not belong to the field next to it. Raises CoreError
    ``spec.other_temperature`` and ``spec.other_capacity``."""
    at = _AT.get(field.name)
    if at is not None and beside.celsius not in (None, at):
        raise CoreError("spec.other_temperature", text=said, at=f"{at} °C")
    if beside.filter and beside.filter == _OTHER_CAPACITY.get(field.name):
        raise CoreError("spec.other_capacity", text=said, field_label=field.label)


# what is no number at all is answered by how one is typed here
_NO_NUMBER = ("quantity.not_a_number", "quantity.unfinished", "quantity.digits")


def _typed(field: Field, said: str) -> TorqueSpec | tuple[Decimal, Decimal]:
    try:
        return _measured(field, said)
    except CoreError as error:
        if error.code in _NO_NUMBER and field.hint and "options" not in error.fields:
            raise CoreError("spec.type_like", text=said, hint=field.hint) from error
        raise


@remembered
def read_value(field: Field, written: str) -> Value:
    """What the words of a cell mean: canonical numbers (ml, N·m, km, min, mm, cSt), a pair where
    the form allows a range, a choice, a count.

    Raises CoreError as `quantity.parse` and `torque.read_torque` do, or ``spec.count``,
    ``spec.type_like``, ``spec.share``, ``spec.spot``, ``sheet.choose``, ``spec.too_long``.
    """
    said = written.strip()
    if not said:
        raise CoreError("quantity.empty")
    if len(said) > MOST_TEXT:
        raise CoreError("spec.too_long", most=MOST_TEXT)
    match field.form:
        case Form.TEXT:
            return said
        case Form.CHOICE:
            return _choice(field, said)
        case Form.YES_NO:
            return _choice(field, said) == "yes"
        case Form.COUNT | Form.MONTHS | Form.HOURS:
            return _count(field, said)
        case Form.SHARE:
            return _share(field, said)
        case Form.SPOT:
            return _spot(said)
        case Form.SETTING:
            return read_setting(said, field.hint)
        case _:
            return _typed(field, said)
