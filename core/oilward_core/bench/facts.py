"""What happened, from entries alone: what flowed, how each fastener stands, what ran, what was read.

Nothing here knows which steps a visit has. So nothing poured can leave the sum because a step went
away, and the same entries give the same facts in any order and repeated at will.
"""

from collections.abc import Iterable
from dataclasses import dataclass, field
from datetime import datetime, timedelta
from decimal import Decimal
from enum import StrEnum

from ..guard import Sound, guarded
from ..runsheet import FILTER, OPEN, SEIZED, Aside, Name, StepId
from .entries import ANSWERED, DRY, SKIP, Entry, ordered
from .stance import Hands, Stance, hands_after, stance_after

DRAIN_PLUG, FILL_PLUG = "drain plug", "fill plug"
AT_THE_PLUG = "at the drain plug"


class Stands(StrEnum):
    """How a fastener stands."""

    CLOSED = "closed"
    OUT = "out"
    LOOSE = "opened, loose"
    FINGER_TIGHT = "finger-tight only"
    PULLED = "pulled"
    TIGHT = "tight"
    LEAKING = "leaking"
    SEIZED = "seized"
    NEW = "new one on"


@dataclass(frozen=True, kw_only=True)
class FastenerFact:
    """How a fastener stands, since when and by whom."""

    reservoir: str
    part: str
    stands: Stands
    by: str
    at: datetime
    entry: Entry


class Way(StrEnum):
    """Which way oil flowed."""

    OUT = "drained"
    PREFILL = "into the filter"
    IN = "poured"
    DRAWN = "drawn off"


@dataclass(frozen=True, kw_only=True)
class Flow(Sound):
    """Oil that flowed, ml above zero, with the entry that says so."""

    reservoir: str
    way: Way
    ml: Decimal
    at: datetime
    round: int
    entry: Entry

    @property
    def into(self) -> Decimal:
        """What it adds to the new oil in the reservoir."""
        if self.way == Way.OUT:
            return Decimal(0)
        return -self.ml if self.way == Way.DRAWN else self.ml


@dataclass(frozen=True)
class Timer:
    """A wait: when it began and when it ended, if it did."""

    started: datetime
    stopped: datetime | None
    by: str

    def lasted(self, until: datetime | None = None) -> timedelta:
        """How long it ran, to its end or ``until``."""
        end = self.stopped or until
        return max(end - self.started, timedelta(0)) if end else timedelta(0)


@dataclass(kw_only=True)
class Facts:
    """What happened in a visit so far.

    ``last`` holds by step the entry that completes it, as long as nothing has undone it since;
    ``events`` by reservoir what a filling consists of, oldest first; ``opened`` the reservoirs of
    which anything was opened; ``undone`` which steps something undid; ``despite`` the entries that
    were written down against a need, ``answered`` what was said of them; ``taken`` by step who has it
    in hand, ``waits`` what the visit waits for, ``newest`` what happened last, ``stance`` how the bike
    stands, ``hands`` a second pair of them.
    """

    last: dict[str, Entry] = field(default_factory=dict)
    flows: list[Flow] = field(default_factory=list)
    fasteners: dict[tuple[str, str], FastenerFact] = field(default_factory=dict)
    timers: dict[str, Timer] = field(default_factory=dict)
    runs: list[Timer] = field(default_factory=list)
    events: dict[str, list[Entry]] = field(default_factory=dict)
    opened: set[str] = field(default_factory=set)
    undone: set[str] = field(default_factory=set)
    despite: list[Entry] = field(default_factory=list)
    answered: dict[str, Entry] = field(default_factory=dict)
    taken: dict[str, Entry] = field(default_factory=dict)
    waits: Entry | None = None
    newest: Entry | None = None
    stance: Stance | None = None
    hands: Hands | None = None
    by_step: dict[str, list[Entry]] = field(default_factory=dict)

    def fastener(self, reservoir: str, part: str) -> FastenerFact | None:
        """How a fastener stands, if anything was done to it."""
        return self.fasteners.get((reservoir, part))

    def into(self, reservoir: str) -> Decimal:
        """New oil in a reservoir, ml: the sum of what flowed."""
        return sum((f.into for f in self.flows if f.reservoir == reservoir), Decimal(0))

    def drained(self, reservoir: str) -> Decimal | None:
        """What was measured of what came out, ml."""
        out = [f.ml for f in self.flows if f.reservoir == reservoir and f.way == Way.OUT]
        return out[-1] if out else None

    def poured(self, reservoir: str) -> list[Flow]:
        """What was poured or drawn off, oldest first."""
        ways = (Way.IN, Way.DRAWN)
        return [f for f in self.flows if f.reservoir == reservoir and f.way in ways]


class _Fold:
    """Takes entries one after another, oldest first."""

    def __init__(self) -> None:
        self.facts = Facts()

    def take(self, entry: Entry) -> None:
        facts, step = self.facts, StepId.of(entry.step)
        facts.newest = entry
        facts.by_step.setdefault(entry.step, []).append(entry)
        facts.stance = stance_after(facts.stance, entry, step)
        facts.hands = hands_after(facts.hands, entry)
        if entry.data.get("despite"):
            facts.despite.append(entry)
        if entry.kind == ANSWERED:
            facts.answered[str(entry.data.get("entry"))] = entry
        elif entry.kind == SKIP:
            self._complete(entry)
        else:
            _TAKES.get(entry.kind, _Fold._note)(self, entry, step)

    def _complete(self, entry: Entry) -> None:
        self.facts.last[entry.step] = entry
        self.facts.undone.discard(entry.step)
        self.facts.taken.pop(entry.step, None)
        if self.facts.waits and self.facts.waits.step == entry.step:
            self.facts.waits = None
        if self.facts.hands and self.facts.hands.step == entry.step:
            self.facts.hands = None

    def _takes(self, entry: Entry, step: StepId) -> None:
        self.facts.taken[entry.step] = entry

    def _gives_up(self, entry: Entry, step: StepId) -> None:
        self.facts.taken.pop(entry.step, None)

    def _waits(self, entry: Entry, step: StepId) -> None:
        self.facts.waits = entry

    def _goes_on(self, entry: Entry, step: StepId) -> None:
        self.facts.waits = None

    def _aside(self, entry: Entry, step: StepId) -> None:
        """No work at its step: whose hands it is in is the newest entry's, how the bike stands and who
        lends a hand is taken of every entry."""

    def _note(self, entry: Entry, step: StepId) -> None:
        self._complete(entry)

    def _stands(self, entry: Entry, reservoir: str, part: str, stands: Stands) -> None:
        fact = FastenerFact(
            reservoir=reservoir, part=part, stands=stands, by=entry.by, at=entry.at, entry=entry
        )
        self.facts.fasteners[(reservoir, part)] = fact

    def _undo(self, reservoir: str, *names: Name) -> None:
        for name in names:
            key = str(StepId(reservoir, name))
            if self.facts.last.pop(key, None) is not None:
                self.facts.undone.add(key)

    def _reopen(self, entry: Entry, reservoir: str, part: str, stands: Stands) -> None:
        """Something let oil out there: its seal and its tightening have to be done anew."""
        self._stands(entry, reservoir, part, stands)
        self._undo(reservoir, *_SEALED_BY.get(part, ()))

    def _start(self, entry: Entry, step: StepId) -> None:
        timer = Timer(entry.at, None, entry.by)
        self.facts.timers[entry.step] = timer
        self.facts.last.pop(entry.step, None)
        if step.name == Name.RUN:
            self.facts.runs.append(timer)
        elif step.name == Name.DRAIN:
            self.facts.opened.add(step.reservoir)
            self._stands(entry, step.reservoir, DRAIN_PLUG, Stands.OUT)
        elif step.name == Name.LEG_DRAIN:
            self.facts.opened.add(step.reservoir)

    def _stop(self, entry: Entry, step: StepId) -> None:
        timer = self.facts.timers.get(entry.step)
        if timer is None:
            return
        stopped = Timer(timer.started, entry.at, timer.by)
        self.facts.timers[entry.step] = stopped
        if step.name == Name.RUN and timer in self.facts.runs:
            self.facts.runs[self.facts.runs.index(timer)] = stopped
        self._complete(entry)

    def _confirm(self, entry: Entry, step: StepId) -> None:
        self._complete(entry)
        if step.name == Name.REFIT:
            self._stands(entry, step.reservoir, DRAIN_PLUG, Stands.FINGER_TIGHT)
        elif step.name == Name.TORQUE:
            self._stands(entry, step.reservoir, DRAIN_PLUG, Stands.TIGHT)
        elif step.name == Name.CLOSE:
            self._stands(entry, step.reservoir, FILL_PLUG, Stands.CLOSED)
        elif step.name == Name.CIRCUIT:
            self._stands(entry, step.reservoir, FILTER, Stands.NEW)
            self.facts.opened.add(step.reservoir)
        elif step.name in (Name.LEG_OUT, Name.WHEEL_OUT):
            self.facts.opened.add(step.reservoir)

    def _answer(self, entry: Entry, step: StepId) -> None:
        self._complete(entry)
        if step.name != Name.FILLER:
            return
        value = entry.data.get("value")
        self.facts.opened.add(step.reservoir)
        if value in (OPEN, SEIZED):
            stands = Stands.LOOSE if value == OPEN else Stands.SEIZED
            self._stands(entry, step.reservoir, FILL_PLUG, stands)

    def _flow(self, entry: Entry, step: StepId, way: Way) -> None:
        ml = Decimal(str(entry.data.get("ml", 0)))
        flow = Flow(
            reservoir=step.reservoir, way=way, ml=ml, at=entry.at, round=step.round, entry=entry
        )
        self.facts.flows.append(flow)

    def _amount(self, entry: Entry, step: StepId) -> None:
        self._complete(entry)
        self._flow(entry, step, Way.IN if step.name == Name.LEG_FILL else Way.OUT)

    def _torque(self, entry: Entry, step: StepId) -> None:
        self._complete(entry)
        self._stands(entry, step.reservoir, DRAIN_PLUG, Stands.PULLED)

    def _filter(self, entry: Entry, step: StepId) -> None:
        self._complete(entry)
        # a filter changed again takes the oil in it along
        self.facts.flows = [
            flow
            for flow in self.facts.flows
            if (flow.reservoir, flow.way) != (step.reservoir, Way.PREFILL)
        ]
        events = self.facts.events.setdefault(step.reservoir, [])
        events[:] = [one for one in events if one.kind != "filter"]
        events.append(entry)
        self._flow(entry, step, Way.PREFILL)
        self._stands(entry, step.reservoir, FILTER, Stands.NEW)

    def _pour(self, entry: Entry, step: StepId) -> None:
        self._complete(entry)
        self.facts.events.setdefault(step.reservoir, []).append(entry)
        self._flow(entry, step, Way.IN)
        shut = entry.data.get("closed") is True
        self._stands(entry, step.reservoir, FILL_PLUG, Stands.CLOSED if shut else Stands.LOOSE)

    def _draw(self, entry: Entry, step: StepId) -> None:
        self._complete(entry)
        self.facts.events.setdefault(step.reservoir, []).append(entry)
        self._flow(entry, step, Way.DRAWN)
        if entry.data.get("from") == AT_THE_PLUG:
            self._reopen(entry, step.reservoir, DRAIN_PLUG, Stands.OUT)
        elif entry.data.get("from"):
            self._stands(entry, step.reservoir, FILL_PLUG, Stands.LOOSE)

    def _event(self, entry: Entry, step: StepId) -> None:
        """A reading of the gauge, or why it and the book disagree."""
        if entry.kind == "level":
            self._complete(entry)
        self.facts.events.setdefault(step.reservoir, []).append(entry)

    def _leaks(self, entry: Entry, step: StepId) -> None:
        self._complete(entry)
        if entry.data.get("result") != DRY:
            reservoir, part = str(entry.data.get("reservoir")), str(entry.data.get("part"))
            self._reopen(entry, reservoir, part, Stands.LEAKING)


_SEALED_BY = {
    DRAIN_PLUG: (Name.WASHER, Name.REFIT, Name.TORQUE),
    FILTER: (Name.FILTER,),
    FILL_PLUG: (Name.CLOSE,),
}
_TAKES = {
    "start": _Fold._start,
    "stop": _Fold._stop,
    "confirm": _Fold._confirm,
    "answer": _Fold._answer,
    "amount": _Fold._amount,
    "torque": _Fold._torque,
    "filter": _Fold._filter,
    "pour": _Fold._pour,
    "draw": _Fold._draw,
    "level": _Fold._event,
    "cause": _Fold._event,
    "leaks": _Fold._leaks,
    Aside.TAKES: _Fold._takes,
    Aside.GIVES_UP: _Fold._gives_up,
    Aside.WAITS: _Fold._waits,
    Aside.GOES_ON: _Fold._goes_on,
    Aside.TAKES_OVER: _Fold._aside,
    Aside.STANDS: _Fold._aside,
    Aside.CALLS: _Fold._aside,
    Aside.LENDS: _Fold._aside,
    Aside.LETS_GO: _Fold._aside,
}


def gathered(entries: Iterable[Entry]) -> Facts:
    """The facts of a visit. The same set of entries, in any order and repeated at will, gives the
    same facts."""
    fold = _Fold()
    for entry in ordered(entries):
        fold.take(entry)
    return fold.facts


facts_of = guarded(gathered)
