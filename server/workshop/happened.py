"""What happened that keeps a history of its own. Who has such things tells them here, so that the page of
who changed what, below, can show them beside what is only traced."""

from collections.abc import Callable, Sequence
from typing import Any

from django.db.models import CharField, Expression, F, JSONField, QuerySet, Value

Told = QuerySet[Any]
# how each of them says when it was, who did it, what was done to what, and what stood there before
COLUMNS = ("told_at", "told_by", "told_act", "told_about", "told_was")
_sources: list[tuple[tuple[str, ...], Callable[[], Sequence[Told]]]] = []


def tells(acts: Sequence[str], source: Callable[[], Sequence[Told]]) -> None:
    """From now on what ``source`` gives is told as well; ``acts`` are all that it calls what was done."""
    _sources.append((tuple(acts), source))


def acts() -> set[str]:
    """What is done where it keeps a history of its own."""
    return {act for known, _ in _sources for act in known}


def happened() -> list[Told]:
    """All of it, source by source."""
    return [rows for _, source in _sources for rows in source()]


def told(rows: Told, *, at: str, by: str, act: Expression | F, about: Expression | F) -> Told:
    """Rows as they are told. ``at`` and ``by`` name columns."""
    told: Told = rows.annotate(
        told_at=F(at),
        told_by=F(by),
        told_act=act,
        told_about=about,
        told_was=Value({}, JSONField()),
    )
    return told


def words(text: str) -> Value:
    """The same words at every row."""
    return Value(text, CharField())
