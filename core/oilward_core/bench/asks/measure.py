"""Values as found and as left."""

from collections.abc import Mapping, Sequence
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
from ...quantity.display import show_precise
from ...runsheet import Measured, Step, StepId, TaskPlan
from ...runsheet.recipes.look import GAS, TEMPERATURE
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
from ..measures import FREE_LENGTH, REBOUND, UNITS, rebound
from ..typed import Typed
from .choice import was_in_the_way
from .room import Room
from .values import Taken, Value

MOST_VALUE = 60
_KINDS = {
    "length": (Kind.LENGTH, "mm"),
    "pressure": (Kind.PRESSURE, "kPa"),
    "time": (Kind.TIME, "s"),
    "temperature": (Kind.TEMPERATURE, "°C"),
}


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
    asked = (one for one in hearing.step.measured if when == "found" or not one.once)
    told = {one: typed.get(one.name, "").strip()[:MOST_VALUE] for one in asked}
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
    if GAS in found and TEMPERATURE not in found:
        raise CoreError("away.temperature_missing", field=f"found.{TEMPERATURE}")
    return Taken(found=found, left=left, drawn=_drawn(hearing.step, found, left))


def _is_air_out(data: Taken) -> bool:
    """A leg's air is let off once its gauge is at 0; any other value is what it is."""
    return all(value.high == 0 for value in data.stands.values())


def _has_air(data: Taken) -> bool:
    return all(value.low > 0 for value in data.stands.values())


def _spring_words(step: Step, data: Taken, known: Known) -> str:
    """Why a spring may not go back, or how far it is on its way."""
    key = step.id.reservoir
    if wants := legs.spring_wants(key, known.tasks, known.facts):
        return wants
    leg = known.tasks[key].reservoir.leg
    way = legs.way_to_limit(next(iter(data.stands.values())).low, leg)
    if way is None:
        return ""
    now = said.on_its_way(round(way * 100), show(leg.spring_limit or Decimal(0), "mm"))
    return f"{now} {_before(FREE_LENGTH, known.tasks[key].past)}".rstrip()


def _before(name: str, past: Mapping[str, tuple[Decimal, ...]]) -> str:
    """What was measured there before, the newest first."""
    unit = UNITS[name]
    return said.measured_before([show_precise(one, unit) for one in reversed(past.get(name, ()))])


def _felt(step: Step, data: Taken, known: Known) -> str:
    """How long it takes to come back up, beside its own past: no window is said."""
    took, past = rebound(data), known.tasks[step.id.reservoir].past
    if took is None:
        return ""
    return f"{said.median_of(show_precise(took, UNITS[REBOUND]))} {_before(REBOUND, past)}".rstrip()


def _gap_stands(step: Step, entry: Entry, known: Known) -> bool:
    """Whether nothing was found in the oil's way since the gap was read."""
    told = known.facts.last.get(str(StepId(step.id.reservoir, Name.LEG_STAYED)))
    since = told is not None and (told.at, told.id) > (entry.at, entry.id)
    return not (told and since and was_in_the_way(told))


def _completes(step: Step, entry: Entry, known: Known) -> bool:
    if not isinstance(entry.data, Taken):
        return True
    match step.name:
        case Name.LEG_AIR:
            return _is_air_out(entry.data)
        case Name.LEG_PRESSURE:
            return _has_air(entry.data)
        case Name.LEG_GAP:
            return _gap_stands(step, entry, known)
        case Name.LEG_SPRING:
            return not legs.spring_wants(step.id.reservoir, known.tasks, known.facts)
    return True


def _remarks(step: Step, entry: Entry, known: Known, finding: Verdict | None) -> str:
    if not isinstance(entry.data, Taken):
        return ""
    match step.name:
        case Name.LEG_AIR:
            return "" if _is_air_out(entry.data) else said.AIR_STILL_IN
        case Name.LEG_PRESSURE:
            return "" if _has_air(entry.data) else said.NO_AIR
        case Name.LEG_GAP:
            return legs.oddly(step.id.reservoir, known.tasks, known.facts)
        case Name.LEG_SPRING:
            return _spring_words(step, entry.data, known)
        case Name.SHOCK_FELT:
            return _felt(step, entry.data, known)
    return ""


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
