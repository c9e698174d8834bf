"""A step of a visit, as the bench shows it."""

from collections.abc import Iterable, Mapping

from oilward_core.bench import Entry, Speaker, StepState, TorqueCard, may_regrade, result
from oilward_core.runsheet import Name, Option, StepId
from oilward_core.said import steps as said
from oilward_core.spec import Cell, Spot

from .cards import torque_shape
from .shapes import (
    EntryShape,
    MeasuredShape,
    OptionShape,
    OwnShape,
    SpotShape,
    StepShape,
    TipShape,
)


def entry_shape(core: Entry, speaks: Speaker) -> EntryShape:
    """Something that was recorded, in short."""
    said = result(core, speaks)
    return EntryShape(
        id=core.id,
        kind=core.kind,
        by=core.by,
        at=core.at.isoformat(),
        result=said,
        remembered=core.remembered,
    )


def options(found: Iterable[Option]) -> list[OptionShape]:
    """What is to be chosen or ticked."""
    return [OptionShape(one.code, one.words) for one in found]


def _tip_at(step: StepId) -> str:
    """The fastener a tip at a step is about; empty where it is about none."""
    return said.tip_at(step.reservoir, step.fastener) if step.fastener else ""


def step_shape(
    state: StepState,
    labels: Mapping[str, str],
    tips: Mapping[str, TipShape],
    speaks: Speaker,
    mentor: str | None,
    card: TorqueCard | None,
) -> StepShape:
    """A step with where it stands; ``mentor`` is whoever may read a plug anew, ``card`` the wrench
    card of its fastener."""
    step = state.step
    return StepShape(
        id=str(step.id),
        reservoir=step.id.reservoir,
        whose=labels.get(step.id.reservoir, ""),
        kind=step.ask,
        title=step.title,
        instruction=step.instruction,
        caution=state.caution,
        place=step.place,
        minutes=None if step.minutes is None else float(step.minutes),
        items=options(step.items)
        or [OptionShape(place.code, place.label) for place in step.places],
        options=options(step.options),
        skippable=step.skippable,
        full=step.full,
        round=step.id.round,
        status=state.status,
        remark=state.remark,
        started_at=state.started_at.isoformat() if state.started_at else None,
        ends_at=state.ends_at.isoformat() if state.ends_at else None,
        entry=entry_shape(state.entry, speaks) if state.entry else None,
        spot=_spot(step.spot),
        unchecked=list(step.unchecked),
        path=str(step.path) if step.path else "",
        own=_own(step.waiting),
        draws=step.draws,
        turn=step.turn,
        measured=[MeasuredShape(one.name, one.kind, one.like, one.once) for one in step.measured],
        unmet=list(dict.fromkeys(one.words for one in state.unmet)),
        not_before=state.not_before.isoformat() if state.not_before else None,
        reopened=state.reopened,
        opens_again=_opens_again(state),
        taken_by=state.taken_by,
        taken_by_who=state.taken_by_who,
        tip=tips.get(step.id.place),
        tip_at=_tip_at(step.id) or step.title,
        hands=step.hands,
        tilts=step.tilts,
        stood=options(step.stood),
        drained=step.name == Name.MEASURE,
        regrade=mentor is not None and may_regrade(state, mentor),
        entries=[entry_shape(one, speaks) for one in state.entries],
        card=torque_shape(card, step.fastener, speaks),
        no_magnet=step.no_magnet,
        found_in=list(step.found_in),
        second=step.looks_at is not None,
        tears=step.tears,
        at_once=step.at_once,
    )


def _opens_again(state: StepState) -> str:
    """What is said where what it shut is out again; empty where it shut nothing."""
    step = state.step.id
    return said.OUT_AGAIN.get(step.role, "") if step.role and step.shuts and state.closed else ""


def _own(own: Cell | None) -> OwnShape | None:
    if own is None:
        return None
    return OwnShape(written=own.written, source=own.source, by=own.entered_by)


def _spot(found: Spot | None) -> SpotShape | None:
    return SpotShape(float(found.x), float(found.y)) if found else None
