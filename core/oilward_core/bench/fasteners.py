"""How each fastener of a reservoir stands, for whoever comes back to it."""

from dataclasses import dataclass
from datetime import datetime

from ..runsheet import FILTER, Name, StepId
from .facts import DRAIN_PLUG, FILL_PLUG, FastenerFact, Stands
from .known import Known, shut


@dataclass(frozen=True, kw_only=True)
class FastenerState:
    """How a fastener stands now; ``open``: it must not be forgotten."""

    part: str
    words: str
    open: bool
    by: str = ""
    at: datetime | None = None


_WORDS: dict[str, str] = {
    DRAIN_PLUG: "Drain plug",
    FILL_PLUG: "Filler",
    FILTER: "Filter",
    "cover": "Cover",
}


def _state(fact: FastenerFact, words: str, is_open: bool) -> FastenerState:
    return FastenerState(
        part=_WORDS.get(fact.part, fact.part.capitalize()),
        words=words,
        open=is_open,
        by=fact.by,
        at=fact.at,
    )


def fasteners(key: str, known: Known) -> tuple[FastenerState, ...]:
    """Filler, plug and filter as they stand now."""
    facts, found = known.facts, []
    filler = facts.fastener(key, FILL_PLUG)
    if filler is None:
        found.append(FastenerState(part="Filler", words="not proven", open=False))
    else:
        found.append(_state(filler, filler.stands.value, not shut(filler)))
    plug = facts.fastener(key, DRAIN_PLUG)
    if plug is None:
        found.append(FastenerState(part="Drain plug", words="in", open=False))
    else:
        tight = known.complete.get(StepId(key, Name.TORQUE), False)
        words = "torqued" if tight else _PLUG_WORDS.get(plug.stands, plug.stands.value)
        found.append(_state(plug, words, not tight))
    filters = [step for step in known.sheet.steps if step.id == (key, Name.FILTER, "", 0)]
    if filters:
        unit = facts.fastener(key, FILTER)
        found.append(
            _state(unit, unit.stands.value, unit.stands == Stands.LEAKING)
            if unit
            else FastenerState(part="Filter", words="old one", open=False)
        )
    return tuple(found)


_PLUG_WORDS = {Stands.PULLED: "pulled, not right yet"}
