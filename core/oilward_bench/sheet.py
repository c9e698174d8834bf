"""A whole visit, as the bench shows it."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from datetime import datetime
from typing import Any

from oilward_core.bench import (
    ASIDES,
    Closing,
    FastenerState,
    Sheet,
    Speaker,
    Stance,
    TorqueCard,
    Waits,
    next_words,
    open_points,
    stance_words,
    unstrapped,
    waits_for,
)
from oilward_core.codes.debris import Warmth
from oilward_core.debris import SMELLS, Form, Matter, OilLook
from oilward_core.runsheet import Pose, StepId, TaskPlan
from oilward_core.said import bench as said
from oilward_core.said import options as choices
from oilward_core.said.away import stands_without

from .shapes import (
    AnsweredShape,
    BikeName,
    FindingWords,
    FluidChoice,
    HandsShape,
    MapPlug,
    OpenPointShape,
    OptionShape,
    PoseShape,
    RunSheet,
    StanceShape,
    StopShape,
    TipShape,
    VisitState,
    WaitsShape,
)
from .steps import entry_shape, step_shape
from .tasks import task_shape

WORDS = FindingWords(
    forms=list(Form),
    matters=list(Matter),
    looks=[look for look in OilLook if look not in SMELLS],
    smells=list(SMELLS),
    warmths=list(Warmth),
)


def title(tasks: Iterable[TaskPlan]) -> str:
    """What a visit is about: its reservoirs by name, the first three of many."""
    return said.about([task.reservoir.label for task in tasks])


@dataclass(frozen=True, kw_only=True)
class About:
    """What the bench shows besides the visit itself, as whoever keeps the rows knows it: whose visit it
    is, the odometer as it was and what it really showed (``corrected``), the plugs on the map, fluids
    that fit by reservoir, tips by place, and whoever looks, where they may read a plug anew
    (``mentor``)."""

    id: str
    state: VisitState
    bike: BikeName
    layout: str
    sheet_version: int
    odometer: str
    corrected: str
    closed_by: str
    wants: str
    ride_in: str
    ride_out: str
    now: datetime
    seconds_per_minute: float
    placed: list[MapPlug] = field(default_factory=list)
    fluids: Mapping[str, list[FluidChoice]] = field(default_factory=dict)
    tips: Mapping[str, TipShape] = field(default_factory=dict)
    mentor: str | None = None


def _card(sheet: Sheet, step: StepId) -> TorqueCard | None:
    task = sheet.task(step.reservoir)
    return task.cards.get(str(step)) if task else None


def _opened(sheet: Sheet) -> list[FastenerState]:
    """Every fastener that was opened in this visit."""
    return [one for task in sheet.tasks for one in task.fasteners if one.at is not None]


def run_sheet(stands: Closing, about: About, speaks: Speaker) -> RunSheet:
    """A visit as it stands, in the words of whoever looks. Pure: the same visit, the same answer."""
    sheet, plans = stands.sheet, [one.plan for one in stands.tasks]
    labels = {plan.reservoir.key: plan.reservoir.label for plan in plans}
    return RunSheet(
        id=about.id,
        state=about.state,
        bike=about.bike,
        title=title(plans),
        sheet_version=about.sheet_version,
        odometer=about.odometer,
        now=about.now.isoformat(),
        seconds_per_minute=about.seconds_per_minute,
        tasks=[
            task_shape(one, stands, about.fluids.get(one.plan.reservoir.key, []), speaks)
            for one in stands.tasks
        ],
        steps=[
            step_shape(state, labels, about.tips, speaks, about.mentor, _card(sheet, state.step.id))
            for state in sheet.steps
        ],
        focus=sheet.focus,
        stops=[
            StopShape(
                entry=stop.entry, step=stop.step, text=stop.text, hold=stop.hold, lasts=stop.lasts
            )
            for stop in sheet.stops
        ],
        answered=[
            AnsweredShape(
                step=one.step, text=one.text, reason=one.reason, by=one.by, at=one.at.isoformat()
            )
            for one in sheet.answered
        ],
        ready_to_sign=sheet.ready_to_sign,
        opened=len(_opened(sheet)),
        closed=sum(not one.open for one in _opened(sheet)),
        may_leave=not sheet.opened_drain or bool(sheet.handed_back),
        words=WORDS,
        closed_by=about.closed_by,
        set_aside=[entry_shape(entry, speaks) for entry in sheet.set_aside],
        layout=about.layout,
        plugs=about.placed,
        corrected=about.corrected,
        waits=_waits(sheet.waits),
        open_points=[
            OpenPointShape(point.code, point.text, point.touch)
            for point in open_points(plans, sheet)
        ],
        in_hands_of=sheet.in_hands_of,
        in_hands_of_who=sheet.in_hands_of_who,
        waits_for=[OptionShape(code, words) for code, words in said.WAITS.items()],
        stance=_stance(sheet.stance),
        hands=_hands(sheet),
        poses=[
            PoseShape(
                pose=pose,
                words=choices.stands(pose),
                straps=pose.straps,
                caution=unstrapped(pose),
            )
            for pose in Pose
        ],
        asides=list(ASIDES),
        wants=about.wants,
        ride_in=about.ride_in,
        ride_out=about.ride_out,
        handed_back=sheet.handed_back,
        away=[stands_without(what) for what in sheet.away],
    )


def _waits(waits: Waits | None) -> WaitsShape | None:
    if waits is None:
        return None
    return WaitsShape(
        step=waits.step, words=waits_for(waits), since=waits.since.isoformat(), by=waits.by
    )


def _stance(stance: Stance | None) -> StanceShape | None:
    if stance is None:
        return None
    since = stance.at.isoformat()
    caution = "" if stance.strapped else unstrapped(stance.pose)
    return StanceShape(
        pose=stance.pose,
        strapped=stance.strapped,
        caution=caution,
        words=stance_words(stance),
        by=stance.by,
        since=since,
    )


def _hands(sheet: Sheet) -> HandsShape | None:
    hands = sheet.hands
    if hands is None:
        return None
    state, since = sheet.step(hands.step), hands.since.isoformat()
    title, what = (state.step.title, state.step.hands) if state else ("", "")
    return HandsShape(
        step=hands.step,
        title=title,
        what=what,
        by=hands.by,
        who=hands.who,
        since=since,
        lent_by=hands.lent_by,
        lent_by_who=hands.lent_by_who,
    )


def in_short(sheet: Sheet, tasks: Iterable[TaskPlan]) -> dict[str, Any]:
    """Where a visit stands, as the ward says it, and who calls for a hand there."""
    ends, hands = sheet.soonest, sheet.hands
    return {
        "title": title(tasks),
        "step": next_words(sheet),
        "ends_at": ends.isoformat() if ends else None,
        "since": sheet.waits.since.isoformat() if sheet.waits else None,
        "hands": {"by": hands.by, "who": hands.who, "since": hands.since.isoformat()}
        if hands and not hands.lent_by
        else None,
    }
