"""Sent twice, and meant once: the same id with anything else is no repetition, and what somebody else
changed meanwhile is no ground to write on."""

import json
from collections.abc import Mapping
from dataclasses import asdict, is_dataclass
from hashlib import sha256
from typing import Any, Protocol, TypeVar

from config.problems import Conflict
from django.db.models import Model


class _Sent(Protocol):
    @property
    def sent(self) -> str: ...


Row = TypeVar("Row", bound=_Sent)


def digest(sent: Any) -> str:
    """A digest of what a client sent: a shape, or plain data."""
    told = asdict(sent) if is_dataclass(sent) and not isinstance(sent, type) else sent
    return sha256(json.dumps(told, sort_keys=True, default=str).encode()).hexdigest()


def written(row: Row | None, sent: str, taken: str = "visit.id_taken") -> Row | None:
    """What stands under an id a client made; None where nothing does yet. Raises Conflict ``taken`` where
    something else was sent with it. Rows of before digests were kept repeat whatever has their id."""
    if row is not None and row.sent not in ("", sent):
        raise Conflict(taken)
    return row


def stands(row: Model, columns: Mapping[str, Any]) -> bool:
    """Whether a row says all of that already: then there is nothing to write."""
    return all(getattr(row, name) == value for name, value in columns.items())


class _Versioned(Protocol):
    @property
    def version(self) -> int: ...


def unchanged(row: _Versioned, seen: int, edited: str = "garage.edited", **facts: Any) -> None:
    """Raises Conflict ``edited`` where somebody else wrote since the version the writer saw."""
    if row.version != seen:
        raise Conflict(edited, **facts)
