"""Entries to facts."""

from collections.abc import Iterable

from ...guard import guarded
from ..asks import ACTS
from ..entries import Entry, ordered
from .facts import Facts
from .taking import Taking


def gathered(entries: Iterable[Entry]) -> Facts:
    """The facts of a visit. The same set of entries, in any order and repeated at will, gives the
    same facts."""
    taking = Taking()
    for entry in ordered(entries):
        taking.note(entry)
        ACTS[entry.data.kind].take(taking, entry, entry.data)
    return taking.facts


facts_of = guarded(gathered)
