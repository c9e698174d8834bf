"""What a level reading is worth: why it is kept and not used, when it came too late, and how it will
stand once it is warm."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from decimal import Decimal
from itertools import pairwise

from ...codes.bench import Sight
from ...codes.fill import Start
from ...codes.poses import Pose
from ...codes.steps import Name
from ...fill import LevelReading, start_of, tilt_of, will_rise
from ...fill import Sight as FillSight
from ...runsheet import StepId, TaskPlan
from ...said import bench as said
from ...said.standing import minutes
from ...spec import IDLING, LevelCheck
from ..asks.level import LevelRead
from ..entries import Entry
from .facts import Facts, Timer
from .known import Bench

TO_LOOK = Decimal(3)  # minutes from settled to read, at the least [def]
RUNS_DOWN = Decimal(1)  # minutes until what was poured stands in the glass, before any run [def]


@dataclass(frozen=True)
class _Since:
    """A reading among what happened before it: the last pour, the last run, when it began to settle."""

    poured: datetime | None
    run: Timer | None
    settled_from: datetime | None


def _since(entry: Entry, key: str, facts: Facts) -> _Since:
    pours = [f.at for f in facts.poured(key) if f.at <= entry.at]
    poured = pours[-1] if pours else None
    runs = [r for r in facts.runs if r.started <= entry.at and (not poured or r.started >= poured)]
    run = runs[-1] if runs else None
    settle = facts.timers.get(str(StepId(key, Name.SETTLE, "", StepId.of(entry.step).round)))
    begun = run.stopped if run else poured
    if settle and begun and settle.started >= begun:
        begun = settle.started
    return _Since(poured, run, begun)


def _why_unused_before(
    level: LevelCheck, start: Start, since: _Since, at: datetime, bench: Bench
) -> str:
    """Why a look before the first start is not used."""
    if start == Start.TANK:
        return said.TANK_BEFORE
    down = bench.length(min(RUNS_DOWN, level.settle_minutes))
    return said.RUNNING_DOWN if since.poured is None or at - since.poured < down else ""


def why_unused(entry: Entry, read: LevelRead, task: TaskPlan, facts: Facts, bench: Bench) -> str:
    """Why a level reading is kept but not used; empty if it is valid."""
    level = task.reservoir.level
    if level is None:
        return ""
    if is_on_lift(read, level):
        if read.sight != Sight.SEEN or tilt_of(task.tilts) is None:
            return said.on_a_lift(level.attitude)
    elif read.attitude not in _asked(level):
        return said.wrong_attitude(read.attitude, level.gauge, level.attitude)
    return _why_untimely(entry, level, task, facts, bench)


def _asked(level: LevelCheck) -> tuple[str, ...]:
    """How the bike may stand: each of its pairs of marks has its own attitude."""
    return (level.attitude, level.second.attitude if level.second else level.attitude)


def is_on_lift(read: LevelRead, level: LevelCheck) -> bool:
    """Whether a glass or a dipstick was read on a lift, which is not how its sheet asks for it."""
    return read.attitude == Pose.LIFTED and not level.edge and Pose.LIFTED not in _asked(level)


def _why_untimely(
    entry: Entry, level: LevelCheck, task: TaskPlan, facts: Facts, bench: Bench
) -> str:
    """Why it was read too early, or too late."""
    key, start = task.reservoir.key, start_of(task.reservoir)
    since, ran = _since(entry, key, facts), facts.ran_on(key)
    if start != Start.NONE and (not ran or ran[0].started > entry.at):
        return _why_unused_before(level, start, since, entry.at, bench)
    if level.run_minutes:
        lasted = since.run.lasted(entry.at) if since.run else timedelta(0)
        if lasted < bench.length(level.run_minutes):
            return said.TOO_SHORT
    if level.engine == IDLING:
        stopped = since.run.stopped if since.run else None
        return said.ENGINE_OFF if stopped and stopped < entry.at else ""
    settled = entry.at - since.settled_from if since.settled_from else timedelta(0)
    if settled < bench.length(level.settle_minutes):
        return said.too_soon(minutes(level.settle_minutes))
    late = level.latest is not None and _late(level, since, entry.at, bench)
    return said.too_late(minutes(level.latest or Decimal(0))) if late else ""


def tilt_seen(task: TaskPlan, facts: Facts, bench: Bench) -> Decimal | None:
    """How much higher it read on a lift than as its sheet asks, as a share of what is between the marks:
    by the last two readings of the same oil, one of each, with nothing poured and no run between."""
    level, found = task.reservoir.level, None
    if level is None:
        return None
    for one, other in pairwise(facts.events.get(task.reservoir.key, ())):
        lifted, asked = _on_lift_and_as_asked((one, other), level)
        if lifted is None or asked is None:
            continue
        ran = any(one.at < run.started <= other.at for run in facts.runs)
        timely = not any(_why_untimely(e, level, task, facts, bench) for e in (one, other))
        if timely and not ran:
            found = lifted - asked
    return found


def _on_lift_and_as_asked(
    pair: Sequence[Entry], level: LevelCheck
) -> tuple[Decimal | None, Decimal | None]:
    """What each of two readings showed, where one was read on a lift and one as its sheet asks."""
    lifted = asked = None
    for one in pair:
        read = one.data
        if not isinstance(read, LevelRead) or read.sight != Sight.SEEN:
            continue
        if is_on_lift(read, level):
            lifted = read.position
        elif read.attitude == level.attitude:
            asked = read.position
    return lifted, asked


def tilted(task: TaskPlan, facts: Facts) -> dict[str, str]:
    """By how much what was read on a lift is out, in words, by its entry's id."""
    level, tilt = task.reservoir.level, tilt_of(task.tilts)
    if level is None or tilt is None:
        return {}
    return {
        one.id: said.tilted(tilt.share, tilt.seen, one.data.position - tilt.share)
        for one in facts.events.get(task.reservoir.key, ())
        if isinstance(one.data, LevelRead)
        and one.data.sight == Sight.SEEN
        and is_on_lift(one.data, level)
    }


def rises(task: TaskPlan, facts: Facts) -> dict[str, Decimal]:
    """What was read cold, by its entry's id, with by how many ml it will have swollen."""
    read = facts.events.get(task.reservoir.key, ())
    return {one.id: rise for one in read if (rise := rise_of(one, task, facts))}


def _late(level: LevelCheck, since: _Since, at: datetime, bench: Bench) -> bool:
    """Whether the oil has drained back by then, or gone cold; never before it could settle."""
    stopped = since.run.stopped if since.run else None
    if level.latest is None or stopped is None:
        return False
    return at - stopped > bench.length(max(level.latest, level.settle_minutes + TO_LOOK))


def gone_stale(task: TaskPlan, facts: Facts, bench: Bench) -> datetime | None:
    """When it was read too late last: no run before that counts for a level any more."""
    key, level = task.reservoir.key, task.reservoir.level
    read = [one for one in facts.events.get(key, ()) if isinstance(one.data, LevelRead)]
    late = [
        one.at for one in read if level and _late(level, _since(one, key, facts), one.at, bench)
    ]
    return max(late, default=None)


def rise_of(entry: Entry, task: TaskPlan, facts: Facts) -> Decimal:
    """By how many ml what was read cold will have swollen. Not before the first start: how far it falls
    there was learned on oil as warm."""
    read, level, key = entry.data, task.reservoir.level, task.reservoir.key
    if not isinstance(read, LevelRead) or read.celsius is None or level is None:
        return Decimal(0)
    ran = facts.ran_on(key)
    if start_of(task.reservoir) != Start.NONE and (not ran or ran[0].started > entry.at):
        return Decimal(0)
    flows = [flow for flow in facts.flows if flow.reservoir == key and flow.at <= entry.at]
    return will_rise(sum((flow.into for flow in flows), Decimal(0)), read.celsius, level.engine)


def reading_of(read: LevelRead, task: TaskPlan, valid: bool, rise: Decimal) -> LevelReading:
    """A reading on the first pair of marks, as it will stand warm and off its lift; one on the second is
    carried over by its ml."""
    position, unsure, level = read.position, Decimal(0), task.reservoir.level
    tilt = tilt_of(task.tilts)
    if level and tilt and is_on_lift(read, level):
        position, unsure = position - tilt.share, tilt.sd
    if level and rise:
        between = level.between_marks
        if level.second and read.attitude == level.second.attitude:
            between = level.second.between
        position += round(rise / between, 3)
    if level and level.second and read.attitude == level.second.attitude:
        below = (level.second.target - position) * level.second.between
        position = level.target - below / level.between_marks
    sights: dict[Sight, FillSight] = {Sight.BELOW: "below", Sight.ABOVE: "above"}
    return LevelReading(sights.get(read.sight, "seen"), position, valid, unsure)
