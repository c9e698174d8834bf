"""Values as found and as left."""

from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from decimal import Decimal

from ...codes.bench import Basis
from ...codes.entries import Ask
from ...codes.steps import Name
from ...debris import Verdict
from ...errors import CoreError
from ...expected import (
    Expected,
    as_in_the_other_leg,
    as_said,
    hold_against,
    hold_inside,
    within,
)
from ...quantity import Kind, parse, show
from ...runsheet import Measured, Step, StepId, TaskPlan
from ...runsheet.steps import SETTING
from ...said import bench as said
from ...said import expected as words
from ...spec import read_setting
from ..acts import Act, Hearing
from ..entries import Entry, Speaker
from ..fold import legs
from ..fold.facts import Way
from ..fold.known import Known
from ..fold.state import TaskState
from ..fold.taking import Taking
from ..typed import Typed
from .choice import was_in_the_way
from .room import Room
from .values import Taken, Value

MOST_VALUE = 60
_KINDS = {"length": (Kind.LENGTH, "mm"), "pressure": (Kind.PRESSURE, "kPa")}


@dataclass(frozen=True, kw_only=True)
class TakenTyped(Typed):
    """Values by name as typed; an empty one was not taken. ``sure``: the answers to earlier questions."""

    found: dict[str, str] = field(default_factory=dict)
    left: dict[str, str] = field(default_factory=dict)
    sure: tuple[str, ...] = ()


def _value(
    one: Measured, text: str, hearing: Hearing, expected: Expected | None, sure: Sequence[str]
) -> Value:
    if one.kind == SETTING:
        stands_at = read_setting(text, one.like)
        return Value(said=text, low=stands_at, high=stands_at)
    family, unit = _KINDS[one.kind]
    found = parse(text, family, unit, hearing.speaker.preference)
    stands = hold_inside(found, one.low, one.high, sure)
    own = as_said(found)
    asked = hold_against(found, expected, own if own in sure else "") if not stands else None
    return Value(said=text, low=found.low, high=found.high, asked=bool(stands or asked))


def _values(
    hearing: Hearing,
    when: str,
    typed: dict[str, str],
    sure: Sequence[str],
    expected: Expected | None = None,
) -> dict[str, Value]:
    told = {one: typed.get(one.name, "").strip()[:MOST_VALUE] for one in hearing.step.measured}
    found: dict[str, Value] = {}
    for one, text in told.items():
        try:
            if text:
                found[one.name] = _value(one, text, hearing, expected, sure)
        except CoreError as error:
            raise error.at(f"{when}.{one.name}") from error
    return found


def _drawn(step: Step, found: dict[str, Value], left: dict[str, Value]) -> Decimal:
    """What was drawn out for what was found to become what is left."""
    both = (one for one in step.measured if one.worth and one.name in found and one.name in left)
    out = ((left[one.name].low - found[one.name].low) * (one.worth or 0) for one in both)
    return round(sum(out, Decimal(0)), 1)


def _read(hearing: Hearing, typed: TakenTyped) -> Taken:
    """An empty one was not taken, and one is enough. What it is left at is held against what is wanted;
    where nothing was changed, that is as it was found."""
    wanted, changed = hearing.expected, any(text.strip() for text in typed.left.values())
    found = _values(hearing, "found", typed.found, typed.sure, None if changed else wanted)
    left = _values(hearing, "left", typed.left, typed.sure, wanted)
    if not found and not left:
        first = hearing.step.measured[0].name if hearing.step.measured else ""
        raise CoreError("sheet.measure", field=f"found.{first}")
    return Taken(found=found, left=left, drawn=_drawn(hearing.step, found, left))


def _let_off(step: Step, entry: Entry, known: Known) -> bool:
    """A leg's air is let off once its gauge is at 0; any other value is what it is."""
    if step.name != Name.LEG_AIR or not isinstance(entry.data, Taken):
        return True
    left = entry.data.left or entry.data.found
    return bool(left) and all(value.high == 0 for value in left.values())


def _of_spring(step: Step, known: Known) -> str:
    """How a spring stands between new and its limit, and beside the other leg's."""
    key, tasks, facts = step.id.reservoir, known.tasks, known.facts
    limit = tasks[key].reservoir.leg.spring_limit
    least = show(limit, "mm") if limit is not None else ""
    way, longer = legs.way_to_limit(key, tasks, facts), legs.other_spring(key, tasks, facts)
    told = ""
    if legs.under_limit(key, tasks, facts):
        told = said.spring_short(least)
    elif way is not None:
        told = said.on_its_way(round(way * 100), least)
    apart = said.springs_apart(show(abs(longer), "mm"), longer > 0) if longer else ""
    return " ".join(filter(None, (told, apart)))


def _completes(step: Step, entry: Entry, known: Known) -> bool:
    """Air is let off; a gap is read once nothing is in the oil's way; and a spring that goes back is no
    shorter than it may be, and makes a pair."""
    if step.name == Name.LEG_GAP:
        told = known.facts.last.get(str(StepId(step.id.reservoir, Name.LEG_STAYED)))
        anew = told is not None and was_in_the_way(told)
        return not (told and anew and (told.at, told.id) > (entry.at, entry.id))
    if step.name != Name.LEG_SPRING:
        return _let_off(step, entry, known)
    key, tasks, facts = step.id.reservoir, known.tasks, known.facts
    done = legs.under_limit(key, tasks, facts), legs.other_spring(key, tasks, facts)
    return not any(done)


def _remarks(step: Step, entry: Entry, known: Known, finding: Verdict | None) -> str:
    if step.name == Name.LEG_GAP:
        return legs.oddly(step.id.reservoir, known.tasks, known.facts)
    if step.name == Name.LEG_SPRING:
        return _of_spring(step, known)
    return "" if _let_off(step, entry, known) else said.AIR_STILL_IN


def _take(taking: Taking, entry: Entry, data: Taken) -> None:
    taking.complete(entry)
    if data.drawn:
        taking.flow(entry, Way.DRAWN if data.drawn > 0 else Way.IN, abs(data.drawn))


def _say(data: Taken, speaker: Speaker) -> str:
    found = {name: value.said for name, value in data.found.items()}
    return said.measured(found, {name: value.said for name, value in data.left.items()})


MEASURE = Act(typed=TakenTyped, data=Taken, field="found", read=_read, take=_take, says=_say)
# legs are as near to each other, and to their sheet [trade: common practice, no source]
GAPS_WITHIN = Decimal(2)


# of the sheet's at 20 °C: what a cold or a hot day makes of it, on the absolute pressure [our definition]
AIR_WITHIN, ATMOSPHERE = Decimal("0.07"), Decimal("101.325")


def _pumped(air: Decimal | None) -> Expected | None:
    if not air:
        return None
    near = (air + ATMOSPHERE) * AIR_WITHIN
    return within(air, show(air, "bar"), Basis.SHEET, words.ANOTHER_AIR, near)


def _expects(
    task: TaskPlan, state: TaskState, step: Step, typed: Typed, corrected: bool
) -> Expected | None:
    """An air gap is the other leg's where the sheet wants them alike, else the sheet's; a leg's air is
    the sheet's."""
    if step.name == Name.LEG_PRESSURE:
        return _pumped(task.reservoir.leg.pressure)
    if step.name != Name.LEG_GAP:
        return None
    other = state.other_leg.gap if state.other_leg else None
    sheets = task.reservoir.air_gap
    if other is not None:
        found = as_in_the_other_leg(other, show(other, "mm"), GAPS_WITHIN)
    elif sheets is not None:
        found = within(sheets, show(sheets, "mm"), Basis.SHEET, words.ANOTHER_GAP, GAPS_WITHIN)
    else:
        return None
    return replace(found, worth=step.measured[0].worth)


ROOM = Room(
    ask=Ask.MEASURE, acts=(MEASURE,), completes=_completes, expects=_expects, remarks=_remarks
)
