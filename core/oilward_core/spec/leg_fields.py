"""The fields of a fork leg on a sheet: how it is built, its sizes, its spring, its settings."""

from enum import StrEnum

from ..codes.suspension import GapRod, GapSpring, LegFunction, LegKind
from .form import Field, Form


def _length(name: str, label: str, hint: str, plate: str = "Leg") -> Field:
    return Field(name=name, label=label, form=Form.LENGTH, plate=plate, unit="mm", hint=hint)


def _choice(name: str, label: str, words: type[StrEnum], plate: str = "Leg") -> Field:
    choices = tuple(word.value for word in words)
    return Field(name=name, label=label, form=Form.CHOICE, plate=plate, choices=choices)


def _setting(name: str, label: str, hint: str) -> Field:
    return Field(name=name, label=label, form=Form.SETTING, plate="Settings", hint=hint)


LEG_FIELDS = (
    _choice("level.gap spring", "Gap, spring", GapSpring, "Level"),
    _choice("level.gap rod", "Gap, rod", GapRod, "Level"),
    _choice("leg.kind", "Built as", LegKind),
    _choice("leg.function", "Does", LegFunction),
    Field(
        name="leg.outer",
        label="Outer chamber holds",
        form=Form.VOLUME,
        plate="Leg",
        hint="320 ml",
    ),
    _length("leg.bore", "Inner bore", "39 mm"),
    _length("leg.rod", "Rod", "12 mm"),
    _length("leg.seal", "Seal runs on", "43 mm"),
    _length("leg.travel", "Travel", "130 mm"),
    _length("leg.height", "Tube over bridge", "5 mm"),
    Field(
        name="spring.rate",
        label="Spring rate",
        form=Form.SPRING_RATE,
        plate="Spring",
        unit="N/mm",
        hint="8.5 N/mm",
    ),
    _length("spring.new", "Free length new", "350 mm", "Spring"),
    _length("spring.limit", "Free length, limit", "343 mm", "Spring"),
    _setting("set.compression", "Compression, from closed", "12 clicks"),
    _setting("set.rebound", "Rebound, from closed", "1 1/2 turns"),
    _setting("set.preload", "Preload", "3 turns in"),
    Field(
        name="air.pressure",
        label="Air at 20 °C",
        form=Form.PRESSURE,
        plate="Settings",
        hint="10.5 bar",
    ),
)
