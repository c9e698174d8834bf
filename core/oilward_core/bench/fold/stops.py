"""What stops a visit: something done against a need, a finding that holds, a filler that is seized."""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import replace
from decimal import Decimal

from ...codes.bench import Stands, Status
from ...codes.debris import Level
from ...codes.facts import Fact
from ...codes.roles import Role
from ...codes.steps import Name
from ...debris import Verdict
from ...quantity import show
from ...runsheet import Need, Option, StepId, TaskPlan, of_bike
from ...said import bench as said
from ...said import debris as said_debris
from ...said.away import stands_without
from ..asks.choice import Chosen
from ..asks.common import Answered
from ..asks.fill import PouredIn
from ..asks.finding import Graded
from ..asks.gate import keeps_shut
from ..entries import Entry, ordered
from .draining import takes_at_most
from .filling import is_wrong_oil
from .gather import gathered
from .knowing import known_of
from .known import Known, OffBike
from .needs import LOOK_UP_OVER, in_words, unmet
from .overpulled import hurt
from .state import StepState, Stop, StopAnswered

# what a run or the end of a visit went against besides needs: it stands as long as that does
_STOP, _HANDED_BACK, _AWAY = "stop:", "handed back", "away"
_RUNS_OR_SIGNS = (Name.LAMP, Name.RUN, Name.FINISH)
_OPEN_STOP = (_STOP, _HANDED_BACK, _AWAY)


def _still_against(entry: Entry, written: Sequence[Entry], known: Known) -> list[Need]:
    """The needs an entry went against, by all that is known by now of what had happened before it:
    work that was only remembered later takes its need away."""
    before = [one for one in ordered(written) if (one.at, one.id) < (entry.at, entry.id)]
    then = known_of(known.plan, gathered(before), known.bench)
    step = then.steps.get(StepId.of(entry.step))
    needs = [Need.of(code) for code in entry.against if not code.startswith(_OPEN_STOP)]
    if step is None:
        return needs
    missing = unmet(step, then)
    return [need for need in needs if need in missing or need.fact == Fact.EARLIER]


def went_against(known: Known, written: Sequence[Entry]) -> Iterator[Stop]:
    """What was done against a need, and nobody has said yet what was found of it."""
    facts = known.facts
    for entry in facts.against:
        against = [] if entry.id in facts.answered else _still_against(entry, written, known)
        if not against:
            continue
        step = known.steps.get(StepId.of(entry.step))
        why = dict.fromkeys(in_words(need, known) for need in against)
        text = said.done_although(step.title if step else entry.step, why)
        codes = tuple(need.code for need in against)
        yield Stop(entry=entry.id, step=entry.step, text=text, against=codes)


def found_in(key: str, known: Known) -> Entry | None:
    """What says what was found of a reservoir: the reading of its plug, or the look at it."""
    last = known.facts.last
    return last.get(str(StepId(key, Name.INSPECT))) or last.get(str(StepId(key, Name.LOOK)))


def holds(known: Known, findings: Mapping[str, Verdict | None]) -> Iterator[Stop]:
    """Findings that say hold: nothing is run and nothing signed until a lead lifts them."""
    for key, verdict in findings.items():
        entry = found_in(key, known)
        if verdict is None or entry is None or verdict.level < Level.HOLD:
            continue
        if entry.id not in known.facts.answered:
            label = known.label(key)
            text = said_debris.origin_of_bike(label, verdict.origin, verdict.action)
            yield Stop(entry=entry.id, step=entry.step, text=text, hold=True)


def missing_pieces(known: Known) -> Iterator[Stop]:
    """A piece of an old seal that is not there blocks a gallery sooner or later: somebody says where it
    was found before anything runs."""
    for key in known.tasks:
        entry = known.facts.last.get(str(StepId(key, Name.INSPECT)))
        if entry is None or not isinstance(entry.data, Graded) or not entry.data.seal_missing:
            continue
        if entry.id not in known.facts.answered:
            text = said.piece_missing(known.label(key))
            yield Stop(entry=entry.id, step=entry.step, text=text)


LEAD_OVER = Decimal("1.15")  # of the book [our definition]


def overfilled(known: Known) -> Iterator[Stop]:
    """More went in than it holds: a lead has to look, and far more waits until it is looked up."""
    for key in known.fillings:
        book, added = takes_at_most(known.tasks[key], known.facts), known.facts.into(key)
        poured = known.facts.poured(key)
        if not book or not poured or added <= LEAD_OVER * book:
            continue
        entry, far = poured[-1].entry, added > LOOK_UP_OVER * book
        if far or entry.id not in known.facts.answered:
            say = said.far_overfilled if far else said.overfilled
            text = say(known.label(key), show(added, "ml"), show(book, "ml"))
            yield Stop(entry=entry.id, step=entry.step, text=text, hold=not far, lasts=far)


def wrong_oil(known: Known) -> Iterator[Stop]:
    """An oil is in that may not go in there: drained again, or a lead says why it stays."""
    for key, filling in known.fillings.items():
        if filling.advice is None or not filling.advice.again:
            continue
        poured = [one for one in known.facts.events.get(key, ()) if is_wrong_oil(one, known.facts)]
        if poured and isinstance(poured[-1].data, PouredIn):
            last = poured[-1]
            text = said.wrong_oil(known.label(key), poured[-1].data.fluid)
            yield Stop(entry=last.id, step=last.step, text=text, hold=True)


def lamp(known: Known) -> Iterator[Stop]:
    """No lamp, or one that stays on: nothing runs until it was started again and has gone out."""
    entry = known.facts.last.get(str(of_bike(Name.LAMP)))
    if entry is not None and isinstance(entry.data, Chosen) and keeps_shut(entry):
        text = said.keeps_shut(entry.data.value)
        yield Stop(entry=entry.id, step=entry.step, text=text, lasts=True)


def threads(known: Known) -> Iterator[Stop]:
    """A thread that was pulled too far and is hurt: a lead says how it was mended, or hands it back."""
    for over, entry in hurt(known):
        text = said.hurt(known.label(over.step.reservoir), show(over.nm, "N·m") if over.nm else "")
        yield Stop(entry=entry.id, step=entry.step, text=text, hold=True)


def all_stops(
    known: Known, written: Sequence[Entry], findings: Mapping[str, Verdict | None]
) -> tuple[Stop, ...]:
    """Everything that stops a visit, gravest kinds apart."""
    return (
        *went_against(known, written),
        *holds(known, findings),
        *missing_pieces(known),
        *overfilled(known),
        *wrong_oil(known),
        *lamp(known),
        *threads(known),
    )


def answered(
    known: Known, written: Sequence[Entry], findings: Mapping[str, Verdict | None]
) -> tuple[StopAnswered, ...]:
    """What stopped the visit before somebody said what was found of it, oldest answer first."""
    if not known.facts.answered:
        return ()
    before = replace(known, facts=replace(known.facts, answered={}))
    texts = {stop.entry: stop.text for stop in all_stops(before, written, findings)}
    found = []
    for about, entry in known.facts.answered.items():
        source = next((one for one in written if one.id == about), None)
        if source is None or not isinstance(entry.data, Answered):
            continue
        step = known.steps.get(StepId.of(source.step))
        found.append(
            StopAnswered(
                step=source.step,
                text=texts.get(about) or (step.title if step else source.step),
                reason=entry.data.reason,
                by=entry.by,
                at=entry.at,
            )
        )
    return tuple(sorted(found, key=lambda one: one.at))


def handed_back(known: Known) -> str:
    """Why it goes back: what a lead said of a finding that stands, or of a hurt thread. One corrected
    since says it anew."""
    looks = [over.look for overs in known.over.values() for over in overs]
    found = [found_in(key, known) for key in known.tasks]
    for entry in (*found, *(known.facts.last.get(str(step)) for step in looks)):
        answer = known.facts.answered.get(entry.id) if entry else None
        if answer and isinstance(answer.data, Answered) and answer.data.handed_back:
            return answer.data.reason
    return ""


def seized(task: TaskPlan, known: Known) -> str:
    """Why nothing may go on with a reservoir; empty if it may."""
    filler = known.facts.fastener(task.reservoir.key, Role.FILL_PLUG)
    stuck = filler is not None and filler.stands == Stands.SEIZED
    return said.seized(task.reservoir.label) if stuck else ""


def held_back(
    state: StepState, stops: Sequence[Stop], back: str, away: Sequence[OffBike] = ()
) -> StepState:
    """While something that should not have happened is open, or a finding says hold, no engine is run
    and nothing signed; nor while a part of the bike is ``away``, unless whoever does it says that the
    bike stays where it stands."""
    if state.step.name == Name.LAMP:  # what it said itself is asked again
        stops = [stop for stop in stops if stop.step != str(state.step.id)]
    if not (stops or back or away) or state.step.name not in _RUNS_OR_SIGNS:
        return state
    if state.status != Status.READY:
        return state
    against = [Option(f"{_STOP}{stop.entry}", stop.text) for stop in stops]
    if back:
        against.append(Option(_HANDED_BACK, said.HANDED_BACK))
    against += [Option(_away(one), stands_without(one.words)) for one in away]
    return replace(state, status=Status.BLOCKED, unmet=tuple(against))


def _away(one: OffBike) -> str:
    return f"{_AWAY}:{one.reservoir}"


def not_there(state: StepState, away: Sequence[OffBike]) -> StepState:
    """Nothing is looked at, or done to, what is not on the bike, unless whoever does it has read that."""
    gone = [one for one in away if one.reservoir == state.step.id.reservoir]
    if not gone or state.status != Status.READY:
        return state
    return replace(
        state,
        status=Status.BLOCKED,
        unmet=tuple(Option(_away(one), one.words) for one in gone),
    )
