"""The fields of a sheet about how a bike rides on its springs: sag, preload, a shock and its gas."""

from .form import Field, Form
from .ride import AT_VALVE, SPECIALISTS


def _length(name: str, label: str, hint: str) -> Field:
    return Field(name=name, label=label, form=Form.LENGTH, plate="Ride", unit="mm", hint=hint)


# of what a bike rides on: fork legs and shocks
RIDE_FIELDS = (
    _length("sag.static", "Sag, bike alone", "12-18 mm"),
    _length("sag.rider", "Sag, rider on", "35-40 mm"),
    _length("set.pitch", "Preload, a turn is", "1.5 mm"),
)
# of a shock alone
SHOCK_FIELDS = (
    _length("shock.travel", "Wheel travel", "140 mm"),
    _length("shock.stroke", "Stroke", "62 mm"),
    Field(
        name="gas.pressure",
        label="Gas charged at 20 °C",
        form=Form.PRESSURE,
        plate="Ride",
        hint="10 bar",
    ),
    Field(
        name="gas.read",
        label="Gas is read",
        form=Form.CHOICE,
        plate="Ride",
        choices=(AT_VALVE, SPECIALISTS),
    ),
)
