"""Entries of earlier descriptions of the work, as this one keeps them."""

from collections.abc import Sequence
from decimal import DecimalException

from ...codes.entries import EntryKind
from ...errors import CoreError
from ...guard import guarded
from ...runsheet import Step
from ..entries import Entry
from ..fold.known import VisitPlan
from ..typed import Raw
from . import words_2
from .against import Against
from .data_2 import DATA
from .entries_1 import as_second
from .written import Written


def _entry(one: Written, against: tuple[str, ...]) -> Entry:
    try:
        data = DATA[EntryKind(one.kind)](one.data)
    except (DecimalException, LookupError, TypeError, ValueError) as error:
        raise CoreError("entry.unreadable", entry=one.id) from error
    return Entry(
        id=one.id,
        step=one.step,
        data=data,
        at=one.at,
        by=one.by,
        who=one.who,
        supersedes=one.supersedes,
        against=against,
        remembered=one.data.get("remembered") is True,
    )


@guarded
def carried_over(plan: VisitPlan, written: Sequence[Written]) -> list[Entry]:
    """A visit's entries of the first and the second description. Raises CoreError ``entry.unreadable``
    for what neither wrote."""
    first = [one for one in written if one.description == 1]
    second = [one for one in written if one.description == 2]
    if first and plan.tasks:
        second = [*as_second(plan.tasks[0], first), *second]
    despite = any(one.data.get("despite") for one in second)
    against = Against(plan, second) if despite else None
    return [
        _entry(
            one,
            against.codes(one.step, one.data["despite"])
            if against and one.data.get("despite")
            else (),
        )
        for one in second
    ]


@guarded
def raw_carried_over(step: Step, kind: EntryKind, raw: Raw) -> Raw:
    """What a device of the last release sent, in words, as it is typed now, in codes: nothing that was
    written down without a network is lost by an upgrade in between."""
    told = dict(raw)
    if isinstance(told.get("items"), list):
        told["items"] = [words_2.tick(str(item)) for item in told["items"]]
    if kind == EntryKind.ANSWER:
        value = told.get("value")
        told["value"] = words_2.OPTIONS.get(str(value), value)
    elif kind == EntryKind.DRAW and "from" in told:
        where = told.pop("from")
        told["where"] = words_2.DRAWS.get(str(where), where)
    elif kind == EntryKind.CAUSE:
        words = str(told.get("cause") or "")
        cause = words_2.CAUSES.get(words)
        told = {"cause": cause} if cause else {"words": words}
    elif kind == EntryKind.LEAKS:
        told["result"] = _place(step, told.get("result"))
    return told


def _place(step: Step, result: object) -> object:
    """A place by what it was called."""
    name = str(result).rpartition(": ")
    part, label = words_2.LEAKS.get(name[2].lower()), name[0].lower()
    found = [place for place in step.places if place.part == part]
    mine = [place for place in found if place.label.lower().startswith(label)]
    places = mine if label else found
    return places[0].code if places else result
