"""Values as found and as left."""

from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from decimal import Decimal
from typing import ClassVar

from ...codes.bench import Basis
from ...codes.entries import Ask, EntryKind
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
from ...said import bench as said
from ...said import expected as words
from ...spec import ReservoirSpec
from ...suspension import Filled, apart, off_book, surface
from ..acts import Act, Hearing
from ..entries import Data, Entry, Speaker
from ..fold.facts import Way
from ..fold.known import Known
from ..fold.state import TaskState
from ..fold.taking import Taking
from ..typed import Typed
from .room import Room

MOST_VALUE = 60
_KINDS = {"length": (Kind.LENGTH, "mm"), "pressure": (Kind.PRESSURE, "kPa")}


@dataclass(frozen=True, kw_only=True)
class Value:
    """A value as it was ``said``, and its ends in canonical units; ``asked``: it stands, though it was
    asked about."""

    said: str
    low: Decimal
    high: Decimal
    asked: bool = False


@dataclass(frozen=True, kw_only=True)
class Taken(Data):
    """Values by name, as found and as left. ``drawn``: the oil that was drawn out between the two, ml,
    or with a minus poured in, where a leg's bore is known."""

    kind: ClassVar[EntryKind] = EntryKind.MEASURE
    found: dict[str, Value] = field(default_factory=dict)
    left: dict[str, Value] = field(default_factory=dict)
    drawn: Decimal = Decimal(0)


@dataclass(frozen=True, kw_only=True)
class TakenTyped(Typed):
    """Values by name as typed; an empty one was not taken. ``sure``: the answers to earlier questions."""

    found: dict[str, str] = field(default_factory=dict)
    left: dict[str, str] = field(default_factory=dict)
    sure: tuple[str, ...] = ()


def _value(
    one: Measured, text: str, hearing: Hearing, expected: Expected | None, sure: Sequence[str]
) -> Value:
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


def gaps(key: str, known: Known) -> tuple[Decimal | None, Decimal | None]:
    """The air gap of a leg as found and as left; where nothing was changed it is left as found."""
    entry = known.facts.last.get(str(StepId(key, Name.LEG_GAP)))
    if entry is None or not isinstance(entry.data, Taken):
        return None, None
    found = [value.low for value in entry.data.found.values()]
    left = [value.low for value in entry.data.left.values()] or found
    return next(iter(found), None), next(iter(left), None)


def _filled(spec: ReservoirSpec, known: Known) -> Filled | None:
    """What is in a leg whose gap is set, where it is known how much was drawn out: by its bore, and the
    gap it had before."""
    (found, gap), book = gaps(spec.key, known), next(iter(spec.capacities.values()), None)
    by_gap = spec.air_gap is not None and surface(spec.leg) and (book or not spec.leg.split)
    if found is None or gap is None or spec.air_gap is None or not by_gap:
        return None
    return Filled(
        gap=float(gap),
        poured=float(known.facts.into(spec.key)),
        book_gap=float(spec.air_gap),
        book_poured=float(book) if book else None,
    )


def _beside(step: Step, known: Known) -> str:
    """How the quantity in a leg goes with its gap: by the sheet, and beside the other leg."""
    legs = {task.reservoir.key: _filled(task.reservoir, known) for task in known.tasks.values()}
    leg = legs.pop(step.id.reservoir, None)
    if leg is None:
        return ""
    other = next(filter(None, legs.values()), None)
    more = round(apart(other, leg).poured) if other else 0
    share = off_book(leg)
    told = said.beside(show(Decimal(abs(more)), "ml"), more > 0) if more else ""
    by_book = said.off_book(round(abs(share) * 100), share > 0) if share else ""
    return " ".join(filter(None, (told, by_book)))


def _remarks(step: Step, entry: Entry, known: Known, finding: Verdict | None) -> str:
    if step.name == Name.LEG_GAP:
        return _beside(step, known)
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


def _expects(
    task: TaskPlan, state: TaskState, step: Step, typed: Typed, corrected: bool
) -> Expected | None:
    """An air gap is the other leg's where the sheet wants them alike, else the sheet's."""
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
    ask=Ask.MEASURE, acts=(MEASURE,), completes=_let_off, expects=_expects, remarks=_remarks
)
