"""Every write and every deletion has its person: what keeps no history of its own leaves a trace."""

from typing import Any

from django.db.models import Model
from django.forms.models import model_to_dict

from .models import Person, Trace


def stood(row: Model, *without: str) -> dict[str, Any]:
    """A row as plain data, before it changes or goes."""
    plain = model_to_dict(row, exclude=["id", *without])
    return {key: str(value) for key, value in plain.items() if value not in (None, "")}


def trace(act: str, about: object, *, actor: Person, was: dict[str, Any] | None = None) -> None:
    """Write down who did it, and what stood there before."""
    Trace.objects.create(by=actor, act=act, about=str(about)[:200], was=was or {})
