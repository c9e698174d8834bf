"""An amount: what came out, by jug or by scale, or what goes into a leg."""

from dataclasses import dataclass, replace
from decimal import Decimal
from typing import ClassVar

from ...codes.bench import Basis
from ...codes.debris import OilLook, Warmth
from ...codes.entries import Ask, EntryKind
from ...codes.steps import Name
from ...debris import Verdict
from ...drained import DEGREES, USUAL_DENSITY, at_20, drained_words, expected_out, weighed
from ...errors import CoreError
from ...expected import Expected, as_in_the_other_leg, within
from ...quantity import Kind, Measure, parse_single
from ...runsheet import Step, StepId, TaskPlan
from ...said import bench as said
from ...said import expected as words
from ...spec import Recipe
from ..acts import Act, Hearing
from ..entries import Data, Entry, Speaker
from ..fold.facts import Way
from ..fold.known import Known
from ..fold.state import TaskState
from ..fold.taking import Taking
from ..reading import Stood, held, one_of
from ..typed import Typed
from .choice import Chosen
from .finding import Graded
from .room import Room

SCALE = "scale"
_GRAMS = (Kind.MASS, "g")
_COLDEST, _HOTTEST = Decimal(-40), Decimal(180)
LITTLE = Decimal("0.5")  # of what was in: whether less is all of it is asked [our definition]
# what one drain pan and one measuring jug hold (common practice, no source)
PAN, JUG = Decimal(10_000), Decimal(5_000)


@dataclass(frozen=True, kw_only=True)
class Amount(Data):
    """``ml`` at 20 °C where its warmth was said, as it was ``said`` in which ``unit``; ``celsius``
    how warm it was, ``by_scale``: weighed."""

    kind: ClassVar[EntryKind] = EntryKind.AMOUNT
    ml: Decimal
    said: str
    unit: str
    celsius: Decimal | None = None
    by_scale: bool = False
    asked: Stood | None = None


@dataclass(frozen=True, kw_only=True)
class AmountTyped(Typed):
    """What jug or scale shows (``by``), how warm it is by the thermometer or by the hand, what the empty
    pan weighs; ``sure`` is the answer to an earlier question."""

    amount: str = ""
    by: str = ""
    celsius: str = ""
    warmth: str = ""
    tare: str = ""
    sure: str = ""


def _in_hand(text: str, by: str, speaker: Speaker) -> Measure:
    """What a jug shows, or a scale; of what was weighed the answer to a question is a volume."""
    if by != SCALE:
        return parse_single(text, Kind.VOLUME, speaker.volume, speaker.preference)
    try:
        return parse_single(text, *_GRAMS, speaker.preference)
    except CoreError as weight:
        try:
            return parse_single(text, Kind.VOLUME, speaker.volume, speaker.preference)
        except CoreError:
            raise weight from None


def _celsius(typed: AmountTyped) -> Decimal | None:
    """How warm the oil is: by the thermometer, or else by the hand."""
    told = typed.celsius.strip()
    if told:
        try:
            found = parse_single(told, Kind.TEMPERATURE, "°C").low
        except CoreError as error:
            raise error.at("celsius") from error
        if not _COLDEST <= found <= _HOTTEST:
            raise CoreError("drained.celsius", field="celsius")
        return found
    return Decimal(DEGREES[one_of(typed.warmth, Warmth, "warmth")]) if typed.warmth else None


def _tare(text: str) -> Decimal:
    told = text.strip()
    try:
        return parse_single(told, *_GRAMS).low if told else Decimal(0)
    except CoreError as error:
        raise error.at("tare") from error


def _vessel(step: Step) -> tuple[str, Decimal]:
    return (words.PAN, PAN) if step.name == Name.MEASURE else (words.JUG, JUG)


def _read(hearing: Hearing, typed: AmountTyped) -> Amount:
    """By volume or by weight, less its pan; brought to 20 °C where its warmth is said."""
    found = _in_hand(typed.amount, typed.by, hearing.speaker)
    celsius, density = _celsius(typed), hearing.step.density15 or USUAL_DENSITY
    by_scale = found.kind == Kind.MASS
    if by_scale:
        grams = found.low - _tare(typed.tare)
        if grams <= 0:
            raise CoreError("drained.tare", field="tare")
        ml = weighed(grams, density)
    else:
        ml = found.low if celsius is None else at_20(found.low, celsius, density)
    same = ml == found.low and not by_scale
    volume = found if same else replace(found, kind=Kind.VOLUME, low=ml, high=ml)
    if by_scale:
        volume = replace(volume, unit="ml")
    asked = held(volume, typed.sure, hearing.expected, _vessel(hearing.step))
    return Amount(
        ml=ml,
        said=found.text,
        unit=volume.unit,
        celsius=celsius,
        by_scale=by_scale,
        asked=asked,
    )


def _take(taking: Taking, entry: Entry, data: Amount) -> None:
    taking.complete(entry)
    name = StepId.of(entry.step).name
    if name != Name.TOPPED:  # that went into the old oil, and out with it
        taking.flow(entry, Way.IN if name == Name.LEG_FILL else Way.OUT, data.ml)


def _say(data: Amount, speaker: Speaker) -> str:
    brought = data.said if data.celsius is not None or data.by_scale else ""
    return said.volume(data.ml, speaker.volume, brought)


AMOUNT = Act(typed=AmountTyped, data=Amount, field="amount", read=_read, take=_take, says=_say)


LEGS_WITHIN = Decimal(5)  # ml, as alike as two legs are [trade: common practice, no source]
LEG_WITHIN = Decimal("0.15")  # of the sheet's: the gap says the rest [our definition]


def _leg(task: TaskPlan, state: TaskState) -> Expected | None:
    """What goes into a leg: as much as into the other where the sheet wants them alike, else by its
    sheet."""
    other = state.other_leg.ml if state.other_leg else None
    book = next(iter(task.reservoir.capacities.values()), None)
    if other is not None:
        return as_in_the_other_leg(other, words.ml(other), LEGS_WITHIN)
    if book is None:
        return None
    return within(book, words.ml(book), Basis.BOOK, words.ANOTHER_LEG, book * LEG_WITHIN)


def _is_leg(task: TaskPlan) -> bool:
    return task.reservoir.facts.recipe == Recipe.FORK


def _expects(
    task: TaskPlan, state: TaskState, step: Step, typed: Typed, corrected: bool
) -> Expected | None:
    """What should come out of what went in last time and since, or of the book."""
    if step.name == Name.LEG_FILL:
        return _leg(task, state)
    last, book = task.put_in, task.capacity
    value = last or book
    if step.name != Name.MEASURE or value is None:
        return None
    should = expected_out(value, task.outs if last else ())
    return Expected(
        value=should.value,
        spread=should.spread,
        basis=words.went_in(bool(last), bool(task.topped_up)),
        amount=words.ml(value),
        less=words.LESS_OUT_OF_LEG if _is_leg(task) else words.LESS_OUT,
        more=words.MORE_OUT_OF_LEG if _is_leg(task) else words.MORE_OUT,
        # of a case that gave little it is asked if it is empty; a leg is stroked until nothing comes
        least=None if _is_leg(task) else value * LITTLE,
    )


def _stood(came: Entry | None, filler: Entry | None) -> str:
    """How its level stood: before it was started, else as it was opened."""
    if came and isinstance(came.data, Chosen):
        return came.data.value
    return filler.data.stood if filler and isinstance(filler.data, Chosen) else ""


def _remarks(step: Step, entry: Entry, known: Known, finding: Verdict | None) -> str:
    """Against what went in, with how the level stood as it came and what the oil looks like, as far
    as they are known."""
    task = known.tasks.get(step.id.reservoir)
    if step.name != Name.MEASURE or task is None or not isinstance(entry.data, Amount):
        return ""
    if _is_leg(task):
        return drained_words(task.put_in, entry.data.ml, Decimal(0), task.outs, of_leg=True)
    key, last = task.reservoir.key, known.facts.last
    plug = last.get(str(StepId(key, Name.INSPECT)))
    stood = _stood(last.get(str(StepId(key, Name.CAME))), last.get(str(StepId(key, Name.FILLER))))
    looks: tuple[OilLook, ...] = plug.data.oil if plug and isinstance(plug.data, Graded) else ()
    return drained_words(task.put_in, entry.data.ml, task.km_since_wiped, task.outs, stood, looks)


ROOM = Room(ask=Ask.AMOUNT, acts=(AMOUNT,), expects=_expects, remarks=_remarks)
