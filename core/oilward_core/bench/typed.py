"""What was typed, ticked, dragged or tapped, as it comes from a screen: fitted into the shape its kind of
entry has, or refused by the name of what does not fit."""

import dataclasses
from collections.abc import Hashable, Mapping
from functools import lru_cache
from types import NoneType, UnionType
from typing import Any, TypeVar, Union, cast, get_args, get_origin, get_type_hints

from ..errors import CoreError

Raw = Mapping[str, Any]


@dataclasses.dataclass(frozen=True, kw_only=True)
class Typed:
    """What a kind of entry is made from, as typed. Everything may be left out: whether it can be left
    out is the reader's to say, in a sentence about the work."""


@dataclasses.dataclass(frozen=True, kw_only=True)
class Nothing(Typed):
    """An entry that says all by being there."""


T = TypeVar("T", bound=Typed)


@lru_cache(maxsize=256)
def _fields(shape: Hashable) -> dict[str, Any]:
    made = cast(type[Any], shape)
    hints = get_type_hints(made)
    return {field.name: hints[field.name] for field in dataclasses.fields(made)}


def _one(wanted: type[Any], raw: Any, at: str) -> Any:
    """A single value: a text may come as a number, nothing else as anything else."""
    if dataclasses.is_dataclass(wanted):
        return _shaped(wanted, raw, at)
    if wanted is bool and isinstance(raw, bool):
        return raw
    if wanted is str and isinstance(raw, str | int | float) and not isinstance(raw, bool):
        return str(raw)
    raise CoreError("entry.unfit", field=at)


def _fitted(wanted: Any, raw: Any, at: str) -> Any:
    origin, inner = get_origin(wanted), get_args(wanted)
    if origin in (Union, UnionType):
        kept = [one for one in inner if one is not NoneType]
        return None if raw is None else _fitted(kept[0], raw, at)
    if origin is tuple:
        if not isinstance(raw, list | tuple):
            raise CoreError("entry.unfit", field=at)
        return tuple(_fitted(inner[0], one, at) for one in raw)
    if origin is dict:
        if not isinstance(raw, Mapping):
            raise CoreError("entry.unfit", field=at)
        return {str(key): _fitted(inner[1], one, f"{at}.{key}") for key, one in raw.items()}
    return _one(wanted, raw, at)


def _shaped(shape: type[Any], raw: Any, at: str) -> Any:
    if not isinstance(raw, Mapping):
        raise CoreError("entry.unfit", field=at or "data")
    fields = _fields(cast(Hashable, shape))
    unknown = next((str(name) for name in raw if name not in fields), None)
    if unknown is not None:
        raise CoreError("entry.unknown", field=unknown[:60], name=unknown[:60])
    given = {
        name: _fitted(fields[name], value, name)
        for name, value in raw.items()
        if value is not None or NoneType in get_args(fields[name])
    }
    return shape(**given)


def typed(shape: type[T], raw: Raw) -> T:
    """What came from a screen, in the shape of its kind of entry. Raises CoreError ``entry.unknown`` for
    a field that is not there, by its ``name``, and ``entry.unfit`` at the ``field`` for a value of
    another kind."""
    found: T = _shaped(shape, raw, "")
    return found
