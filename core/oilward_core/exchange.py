"""A spec sheet as an open document, out and in. The published schema is made here."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import Any

from jsonschema import Draft202012Validator

from .errors import CoreError
from .guard import Sound
from .spec.cells import Cell, Cells, by_reservoir
from .spec.fields import PART_FIELDS, RESERVOIR_FIELDS, field_of
from .spec.form import MOST_TEXT, Field, Path
from .spec.layouts import LAYOUTS
from .spec.packing import Json, cell_of, written_of
from .spec.read import read_value

FORMAT = "oil-ward/spec-sheet/1"


@dataclass(frozen=True, kw_only=True)
class ModelName(Sound):
    """Whose numbers they are."""

    make: str
    name: str
    year: int
    layout: str
    displacement_cc: int


@dataclass(frozen=True)
class Fault:
    """Something wrong in a document: its place (JSON pointer), and a code with its facts.

    Code ``document.shape`` carries the validator's own sentence under ``text``.
    """

    place: str
    code: str
    fields: Mapping[str, Any]


def _value_schema() -> Json:
    text = {"type": "string", "maxLength": MOST_TEXT}
    day = {"type": ["string", "null"], "format": "date", "pattern": r"^\d{4}-\d{2}-\d{2}$"}
    names = {"document": 120, "page": 20, "entered_by": 80, "checked_by": 80}
    return {
        "type": "object",
        "description": "One value as the manual gives it, unit and all.",
        "properties": {
            "written": {**text, "minLength": 1},
            **{name: {**text, "maxLength": most} for name, most in names.items()},
            "entered_on": day,
            "checked_on": day,
        },
        "required": ["written"],
        "additionalProperties": False,
    }


def _values_schema(fields: tuple[Field, ...]) -> Json:
    value = {"$ref": "#/$defs/value"}
    described = {f.name: {**value, "description": _described(f)} for f in fields}
    return {"type": "object", "properties": described, "additionalProperties": False}


def _described(field: Field) -> str:
    choices = f": {', '.join(field.choices)}" if field.choices else ""
    return f"{field.label} ({field.form.value}{choices})"


def schema() -> Json:
    """The JSON Schema (draft 2020-12) of a spec sheet document."""
    key = {"type": "string", "minLength": 1, "maxLength": 40, "pattern": "^[^/]+$"}
    part = {
        "type": "object",
        "properties": {"key": key, "values": _values_schema(PART_FIELDS)},
        "required": ["key", "values"],
        "additionalProperties": False,
    }
    reservoir = {
        "type": "object",
        "properties": {
            "key": key,
            "values": {**_values_schema(RESERVOIR_FIELDS), "required": ["kind"]},
            "parts": {"type": "array", "items": part, "maxItems": 40},
        },
        "required": ["key", "values"],
        "additionalProperties": False,
    }
    name = {"type": "string", "minLength": 1, "maxLength": 60}
    model = {
        "type": "object",
        "properties": {
            "make": name,
            "name": name,
            "year": {"type": "integer", "minimum": 1900, "maximum": 2100},
            "layout": {"enum": list(LAYOUTS)},
            "displacement_cc": {"type": "integer", "minimum": 20, "maximum": 10_000},
        },
        "required": ["make", "name", "year", "layout", "displacement_cc"],
        "additionalProperties": False,
    }
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": "Oil Ward spec sheet",
        "type": "object",
        "properties": {
            "format": {"const": FORMAT},
            "model": model,
            "reservoirs": {"type": "array", "items": reservoir, "maxItems": 40},
        },
        "required": ["format", "model", "reservoirs"],
        "additionalProperties": False,
        "$defs": {"value": _value_schema()},
    }


def to_document(model: ModelName, cells: Cells) -> Json:
    """A sheet as a document; `from_document` is its way back."""
    reservoirs = []
    for key, own in by_reservoir(cells).items():
        parts: dict[str, Json] = {}
        for path, cell in sorted(own.items()):
            parts.setdefault(path.part, {})[path.field] = written_of(cell)
        reservoirs.append(
            {
                "key": key,
                "values": parts.pop("", {}),
                "parts": [{"key": part, "values": values} for part, values in parts.items()],
            }
        )
    return {"format": FORMAT, "model": dict(vars(model)), "reservoirs": reservoirs}


def _placed(document: Json) -> Iterator[tuple[str, Path, Json]]:
    """Each value of a well-shaped document with its JSON pointer and path."""
    for n, reservoir in enumerate(document["reservoirs"]):
        at = f"/reservoirs/{n}"
        for field, value in reservoir["values"].items():
            yield f"{at}/values/{field}", Path(reservoir["key"], "", field), value
        for m, part in enumerate(reservoir.get("parts", ())):
            for field, value in part["values"].items():
                place = f"{at}/parts/{m}/values/{field}"
                yield place, Path(reservoir["key"], part["key"], field), value


def from_document(document: Any) -> tuple[ModelName | None, dict[Path, Cell], tuple[Fault, ...]]:
    """Read a sheet document: model, cells, and every fault with its place. With faults, nothing of
    it may be used."""
    shape = [
        Fault(
            "/" + "/".join(map(str, e.absolute_path)), "document.shape", {"text": e.message[:300]}
        )
        for e in Draft202012Validator(schema()).iter_errors(document)
    ]
    if shape:
        return None, {}, tuple(sorted(shape, key=lambda fault: fault.place))
    cells: dict[Path, Cell] = {}
    faults: list[Fault] = []
    for place, path, value in _placed(document):
        if path in cells:
            faults.append(Fault(place, "document.twice", {"text": str(path)}))
        try:
            cells[path] = cell_of(value)
            read_value(field_of(path), cells[path].written)
        except CoreError as error:
            faults.append(Fault(f"{place}/written", error.code, error.fields))
        except ValueError:
            faults.append(Fault(place, "document.date", {}))
    return ModelName(**document["model"]), cells, tuple(faults)
