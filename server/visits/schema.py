"""What the schema says of an entry: one shape a kind, made from the core's own, so that a client which
misspells a field, or sends one kind's data as another's, does not pass its type check."""

import dataclasses
from types import NoneType, UnionType
from typing import Any, Union, get_args, get_origin, get_type_hints

from oilward_core.bench import ACTS, Act, EntryKind, Typed

Schema = dict[str, Any]
REF = "#/components/schemas/"
WHOLE = "NewEntryRequest"


def _of(hint: Any, parts: Schema) -> Schema:
    origin, inner = get_origin(hint), get_args(hint)
    if origin in (Union, UnionType):
        (kept,) = [one for one in inner if one is not NoneType]
        return {**_of(kept, parts), "nullable": True}
    if origin is tuple:
        return {"type": "array", "items": _of(inner[0], parts)}
    if origin is dict:
        return {"type": "object", "additionalProperties": _of(inner[1], parts)}
    if dataclasses.is_dataclass(hint) and isinstance(hint, type):
        return shape_of(hint, parts)
    return {"type": "boolean" if hint is bool else "string"}


def shape_of(shape: type[Any], parts: Schema) -> Schema:
    """A shape of the core's as a component of the schema: everything optional, nothing beside."""
    hints = get_type_hints(shape)
    properties = {one.name: _of(hints[one.name], parts) for one in dataclasses.fields(shape)}
    parts[shape.__name__] = {
        "type": "object",
        "description": (shape.__doc__ or "").strip(),
        "properties": properties,
        "additionalProperties": False,
    }
    return {"$ref": f"{REF}{shape.__name__}"}


def _name(kind: EntryKind) -> str:
    return "".join(word.capitalize() for word in kind.split()) + "EntryRequest"


def _entry(act: Act[Typed, Any], base: Schema, parts: Schema) -> Schema:
    told = {"kind": {"type": "string", "enum": [act.kind.value]}}
    data = shape_of(act.typed, parts)
    properties = {**base["properties"], **told, "data": data}
    required = sorted({*base["required"], "data"})
    return {"type": "object", "properties": properties, "required": required}


def type_entries(result: Schema, generator: Any, request: Any, public: bool) -> Schema:
    """Put one shape a kind in the place of the loose one."""
    schemas = result["components"]["schemas"]
    base, parts = schemas.pop(WHOLE), {}  # type: Schema, Schema
    entries = {kind: _entry(act, base, parts) for kind, act in ACTS.items()}
    schemas.update(parts)
    schemas.update({_name(kind): entry for kind, entry in entries.items()})
    schemas[WHOLE] = {
        "oneOf": [{"$ref": f"{REF}{_name(kind)}"} for kind in entries],
        "discriminator": {
            "propertyName": "kind",
            "mapping": {kind.value: f"{REF}{_name(kind)}" for kind in entries},
        },
        "description": base.get("description", ""),
    }
    graded = ACTS[EntryKind.FINDING].typed.__name__
    schemas["PlugSoFarRequest"]["properties"]["data"] = {"$ref": f"{REF}{graded}"}
    return result
