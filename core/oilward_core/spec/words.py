"""A cell's value in a person's own units."""

from decimal import Decimal

from ..guard import guarded
from ..quantity import show_range
from ..said import sheet as say
from ..torque import TorqueSpec
from .form import Field, Form, Value
from .sheet import Spot


def _torque(spec: TorqueSpec, unit: str) -> str:
    if not spec.by_wrench or spec.low is None or spec.high is None:
        return ""
    first = show_range(spec.low, spec.high, unit)
    return f"{first}, {spec.then_words}" if spec.then else first


_PLAIN_UNITS = {
    Form.TIME: "min",
    Form.LENGTH: "mm",
    Form.VISCOSITY: "cSt",
    Form.PRESSURE: "bar",
    Form.SPRING_RATE: "N/mm",
}


@guarded
def said(field: Field, value: Value, *, volume: str, torque: str, distance: str) -> str:
    """A read value in the units asked for; empty where the manual's own words say it all."""
    units = {Form.VOLUME: volume, Form.DISTANCE: distance, **_PLAIN_UNITS}
    if isinstance(value, TorqueSpec):
        return _torque(value, torque)
    if isinstance(value, tuple):
        halves = field.form == Form.TIME and any(end % 1 for end in value)
        return show_range(value[0], value[1], units[field.form], 1 if halves else None)
    if isinstance(value, Spot):
        return say.ON_THE_MAP
    if field.form == Form.SHARE and isinstance(value, Decimal):
        return say.way_up(value)
    plain = {Form.MONTHS: "months", Form.HOURS: "h"}
    return f"{value} {plain[field.form]}" if field.form in plain else ""
