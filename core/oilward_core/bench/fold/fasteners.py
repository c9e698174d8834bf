"""How each fastener of a reservoir stands, for whoever comes back to it."""

from ...codes.bench import Stands
from ...codes.roles import Role
from ...codes.steps import Name
from ...runsheet import StepId
from ...said import bench as said
from .facts import FastenerFact, shut
from .known import Known
from .state import FastenerState


def _as_it_came(role: Role, stands: Stands) -> FastenerState:
    return FastenerState(
        role=role,
        part=said.fastener(role),
        stands=stands,
        words=said.STANDS[stands],
        open=False,
    )


def _state(
    role: Role, fact: FastenerFact, stands: Stands, is_open: bool, words: str = ""
) -> FastenerState:
    return FastenerState(
        role=role,
        part=said.fastener(role),
        stands=stands,
        words=words or said.STANDS[stands],
        open=is_open,
        by=fact.by,
        at=fact.at,
    )


def _pulled(role: Role, fact: FastenerFact, tight: bool) -> FastenerState:
    """One that a wrench closes."""
    if tight:
        return _state(role, fact, Stands.TORQUED, False)
    words = said.NOT_RIGHT_YET if fact.stands == Stands.PULLED else ""
    if fact.stands in (Stands.CLOSED, Stands.NEW):
        words = f"{said.STANDS[fact.stands]}, {said.NOT_TORQUED}"
    return _state(role, fact, fact.stands, True, words)


def _filler(key: str, fact: FastenerFact, known: Known) -> FastenerState:
    by_wrench = StepId(key, Name.TORQUE_FILLER)
    if by_wrench in known.complete and shut(fact):
        return _pulled(Role.FILL_PLUG, fact, known.complete[by_wrench])
    return _state(Role.FILL_PLUG, fact, fact.stands, not shut(fact))


def _filter(key: str, fact: FastenerFact, known: Known) -> FastenerState:
    by_wrench = StepId(key, Name.TORQUE_FILTER)
    if by_wrench in known.complete and fact.stands != Stands.LEAKING:
        return _pulled(Role.FILTER, fact, known.complete[by_wrench])
    return _state(Role.FILTER, fact, fact.stands, fact.stands == Stands.LEAKING)


def fasteners(key: str, known: Known) -> tuple[FastenerState, ...]:
    """Filler, plug and filter as they stand now."""
    facts, found = known.facts, []
    filler = facts.fastener(key, Role.FILL_PLUG)
    if filler is None:
        found.append(_as_it_came(Role.FILL_PLUG, Stands.UNPROVEN))
    else:
        found.append(_filler(key, filler, known))
    plug = facts.fastener(key, Role.DRAIN_PLUG)
    if plug is None:
        found.append(_as_it_came(Role.DRAIN_PLUG, Stands.IN))
    else:
        found.append(
            _pulled(Role.DRAIN_PLUG, plug, known.complete.get(StepId(key, Name.TORQUE), False))
        )
    if any(step.id == (key, Name.FILTER, "", 0) for step in known.sheet.steps):
        unit = facts.fastener(key, Role.FILTER)
        found.append(_filter(key, unit, known) if unit else _as_it_came(Role.FILTER, Stands.OLD))
    return tuple(found)
