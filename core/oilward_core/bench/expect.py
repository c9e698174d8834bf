"""What is expected of an amount or a reading, from where the run sheet stands."""

from decimal import Decimal

from ..drained import expected_out
from ..errors import Question
from ..expected import Expected, as_typed
from ..guard import guarded
from ..quantity import convert, show
from ..runsheet import Ask, Name, Step, TaskPlan
from .entries import Data
from .state import TaskState

_LESS_OUT = "Burnt, leaked, under-filled last time, or not all out yet."
_MORE_OUT = "Over-filled last time, or water or fuel in it."
_NOT_TORQUED = "Nothing is tight at that: pull again."
_FAR_OVER = "That much can hurt the thread: take it out and look at it."


def _drained(task: TaskPlan) -> Expected | None:
    last, book = task.put_in, task.capacity
    value = last or book
    if value is None:
        return None
    went_in = "went in last time and since" if task.topped_up else "went in last time"
    words = f"{show(value, 'ml')} {went_in if last else 'is the book capacity'}"
    should = expected_out(value, task.outs if last else ())
    return Expected(
        value=should.value, spread=should.spread, words=words, less=_LESS_OUT, more=_MORE_OUT
    )


def _poured(task: TaskPlan, state: TaskState) -> Expected | None:
    advice = state.advice
    if advice is None or advice.action not in ("pour", "remove"):
        return None
    spread = Decimal(str(round(advice.belief.sd, 3)))
    verb = "pour" if advice.action == "pour" else "take out"
    words = f"the coach says {verb} {show(advice.ml, 'ml')}"
    if advice.action == "remove":
        return Expected(
            value=advice.ml,
            spread=spread,
            words=words,
            less="Then it stays over-full.",
            more="Then it is low again.",
        )
    more = "That would over-fill it." if task.reservoir.level else "That is more than it holds."
    return Expected(
        value=advice.ml, spread=spread, words=words, less="Then there is more to go in.", more=more
    )


def _corrected_pour(task: TaskPlan) -> Expected | None:
    """A pour that is corrected: the coach has gone on since, the book has not."""
    if task.capacity is None:
        return None
    words = f"{show(task.capacity, 'ml')} is all it holds"
    return Expected(
        value=task.capacity,
        spread=Decimal(0),
        words=words,
        less="",
        more="That is more than it holds.",
    )


def _in_filter(task: TaskPlan) -> Expected | None:
    prefill = task.reservoir.prefill
    if not prefill:
        return None
    words = f"about {show(prefill, 'ml')} is what the sheet gives a filter"
    return Expected(
        value=prefill, spread=prefill / 4, words=words, less="", more="No filter holds that much."
    )


def _torqued(state: TaskState, raw: Data) -> Expected | None:
    card = state.torque
    if card is None:
        return None
    used = next((w for w in card.wrenches if w.wrench.id == str(raw.get("wrench"))), None)
    value = card.aim.value * (used.factor if used else 1)
    words = f"{show(value, used.wrench.unit if used else 'N·m')} is aimed at"
    return Expected(value=value, spread=Decimal(0), words=words, less=_NOT_TORQUED, more=_FAR_OVER)


# what one drain pan and one measuring jug hold (common practice, no source)
PAN, JUG = Decimal(10_000), Decimal(5_000)


def vessel_at(step: Step) -> tuple[str, Decimal] | None:
    """What an amount is caught or measured in, and how much that holds, ml."""
    if step.name == Name.MEASURE:
        return "a drain pan", PAN
    return ("a measuring jug", JUG) if step.ask in (Ask.FILL, Ask.AMOUNT) else None


@guarded
def held_by(step: Step, ml: Decimal, unit: str, sure: str) -> None:
    """Hold an amount, said in ``unit``, against its vessel. Raises the question ``expected.vessel``,
    unless it was answered that it is right: in two goes, then."""
    vessel = vessel_at(step)
    if vessel is None or ml <= vessel[1]:
        return
    own = as_typed(convert(ml, unit), unit)
    if sure != own:
        words, most = vessel
        raise Question(
            "expected.vessel",
            field="amount",
            said=own,
            vessel=words,
            most=show(most, "ml"),
            options=[own],
            sure=own,
        )


@guarded
def expected_at(
    task: TaskPlan, state: TaskState, step: Step, raw: Data, corrected: bool = False
) -> Expected | None:
    """What a typed amount or reading of a step is held against; None where nothing is known."""
    if step.name == Name.MEASURE:
        return _drained(task)
    if step.ask == Ask.FILL:
        return _corrected_pour(task) if corrected else _poured(task, state)
    if step.ask == Ask.FILTER:
        return _in_filter(task)
    return _torqued(state, raw) if step.ask == Ask.TORQUE else None
