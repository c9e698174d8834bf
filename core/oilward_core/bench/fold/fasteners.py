"""How each fastener of a reservoir stands, for whoever comes back to it."""

from dataclasses import replace

from ...codes.bench import Stands
from ...codes.roles import FILTERS, Role
from ...codes.steps import Name
from ...runsheet import Opening, StepId, TaskPlan, openings
from ...said import bench as said
from .facts import FastenerFact, shut
from .known import Known
from .state import FastenerState


def _as_it_came(part: str, stands: Stands) -> FastenerState:
    return FastenerState(
        role=part,
        part=said.fastener(part),
        stands=stands,
        words=said.STANDS[stands],
        open=False,
    )


def _state(
    part: str, fact: FastenerFact, stands: Stands, is_open: bool, words: str = ""
) -> FastenerState:
    return FastenerState(
        role=part,
        part=said.fastener(part),
        stands=stands,
        words=words or said.STANDS[stands],
        open=is_open,
        by=fact.by,
        at=fact.at,
    )


def _pulled(part: str, fact: FastenerFact, step: StepId, known: Known) -> FastenerState:
    """One that a wrench closes."""
    card = known.cards.get(str(step))
    if known.complete.get(step, False):
        feel = card is not None and card.entry is not None and card.reading is None
        shut = _state(part, fact, Stands.TORQUED, False, said.TIGHT_BY_FEEL if feel else "")
        return replace(shut, reading=card.reading if card else None)
    words = ""
    if fact.stands in (Stands.PULLED, Stands.TIGHT):
        words = said.PULLED_NOT_DONE if card and card.pulled else said.NOT_RIGHT_YET
    if fact.stands in (Stands.CLOSED, Stands.NEW):
        words = f"{said.STANDS[fact.stands]}, {said.NOT_TORQUED}"
    return _state(part, fact, fact.stands, True, words)


def _filler(key: str, known: Known) -> FastenerState:
    fact, by_wrench = known.facts.fastener(key, Role.FILL_PLUG), StepId(key, Name.TORQUE_FILLER)
    if fact is None:
        return _as_it_came(Role.FILL_PLUG, Stands.UNPROVEN)
    if by_wrench in known.complete and shut(fact):
        return _pulled(Role.FILL_PLUG, fact, by_wrench, known)
    return _state(Role.FILL_PLUG, fact, fact.stands, not shut(fact))


def _filter(key: str, one: Opening, known: Known) -> FastenerState:
    fact = known.facts.fastener(key, one.part)
    if fact is None:
        return _as_it_came(one.part, Stands.OLD)
    if one.card in known.complete and fact.stands != Stands.LEAKING:
        return _pulled(one.part, fact, one.card, known)
    return _state(one.part, fact, fact.stands, fact.stands in (Stands.LEAKING, Stands.OUT))


def _cover(key: str, one: Opening, known: Known) -> FastenerState:
    """The cover of a case that is filled through it: off, from when its oil is out."""
    fact = known.facts.fastener(key, one.part)
    if fact is not None:
        return _pulled(one.part, fact, one.card, known)
    drained = known.facts.fastener(key, Role.DRAIN_PLUG)
    if drained is None or known.complete.get(one.card):  # it was left on, for a reason
        return _as_it_came(one.part, Stands.IN)
    return _state(one.part, drained, Stands.OUT, True, said.NOT_CLOSED_YET)


def _plug(key: str, one: Opening, known: Known) -> FastenerState:
    fact = known.facts.fastener(key, one.part)
    return _pulled(one.part, fact, one.card, known) if fact else _as_it_came(one.part, Stands.IN)


# what comes out takes out what holds it
_OUT_WITH = {Name.TORQUE_LEG: Name.LEG_OUT, Name.TORQUE_WHEEL: Name.WHEEL_OUT}


def _holder(key: str, one: Opening, known: Known) -> FastenerState:
    """What holds a leg, or the wheel in it: out with it, until it is torqued again."""
    fact, name = known.facts.fastener(key, one.part), _OUT_WITH[Name(one.card.name)]
    whose = "" if name == Name.WHEEL_OUT else key
    entry = known.facts.last.get(str(StepId(whose, name)))
    if fact is not None:
        return _pulled(one.part, fact, one.card, known)
    if entry is None:
        return _as_it_came(one.part, Stands.IN)
    out = FastenerFact(
        reservoir=key, part=one.part, stands=Stands.OUT, by=entry.by, at=entry.at, entry=entry
    )
    words = f"{said.STANDS[Stands.OUT]}, {said.NOT_TORQUED}"
    return _state(one.part, out, Stands.OUT, True, words)


def holders(task: TaskPlan, known: Known) -> tuple[FastenerState, ...]:
    """What holds a fork leg and the wheel in it, as each stands now."""
    key, opened = task.reservoir.key, openings(task.reservoir, task.variant)
    held = (one for one in opened if one.card in known.complete)
    return tuple(_holder(key, one, known) for one in held)


def _there(key: str, one: Opening, known: Known) -> bool:
    """Whether this visit opens it: a release before knew of the first plug and the first filter alone."""
    if one.role == Role.FILL_PLUG:
        return False
    if one.role in FILTERS and not one.card.part:
        return StepId(key, Name.FILTER) in known.complete
    if one.role in FILTERS:
        return one.step(Name.ELEMENT) in known.complete
    return one.card in known.complete


def fasteners(task: TaskPlan, known: Known) -> tuple[FastenerState, ...]:
    """Filler, plugs, filters and covers as they stand now."""
    key = task.reservoir.key
    found = [_filler(key, known)]
    opened = openings(task.reservoir, task.variant)
    if not any(one.role == Role.DRAIN_PLUG for one in opened):
        plug = known.facts.fastener(key, Role.DRAIN_PLUG)
        step = StepId(key, Name.TORQUE)
        found.append(
            _pulled(Role.DRAIN_PLUG, plug, step, known)
            if plug
            else _as_it_came(Role.DRAIN_PLUG, Stands.IN)
        )
    for one in opened:
        if not _there(key, one, known):
            continue
        if one.card.name == Name.TORQUE_FILTER:
            found.append(_filter(key, one, known))
        elif one.card.name == Name.TORQUE_COVER:
            found.append(_cover(key, one, known))
        else:
            found.append(_plug(key, one, known))
    return tuple(found)
