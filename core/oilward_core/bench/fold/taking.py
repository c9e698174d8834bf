"""Taking entries one after another, oldest first: what every kind of entry does to the facts with."""

from collections.abc import Iterable
from dataclasses import replace
from decimal import Decimal

from ...codes.bench import Stands
from ...codes.poses import Pose
from ...codes.roles import Role
from ...codes.steps import Name
from ...runsheet import COVER, StepId, of_bike, ran_out_id
from ..entries import Entry
from .facts import Facts, FastenerFact, Flow, OpenedAgain, Stance, Timer, Way

# the steps that shut a fastener: when something let oil out there, they are to be done anew
_SHUT_BY: dict[str, tuple[Name, ...]] = {
    Role.DRAIN_PLUG: (Name.WASHER, Name.REFIT, Name.TORQUE),
    Role.FILTER: (Name.FILTER, Name.TORQUE_FILTER),
    Role.FILL_PLUG: (Name.CLOSE, Name.TORQUE_FILLER),
    Role.LEVEL_PLUG: (Name.TORQUE_LEVEL,),
    COVER: (),
}
# of one that is called by its own name, whatever it is
_SHUTS = (
    Name.WASHER,
    Name.REFIT,
    Name.TORQUE,
    Name.ELEMENT,
    Name.TORQUE_FILTER,
    Name.TORQUE_COVER,
)


def shut_by(reservoir: str, part: str) -> list[StepId]:
    """The steps that shut a part of a reservoir."""
    names, own = (_SHUT_BY[part], "") if part in _SHUT_BY else (_SHUTS, part)
    return [StepId(reservoir, name, own) for name in names]


_PUT_IN = (Name.FILTER, Name.ELEMENT)


class Taking:
    """The facts so far, and what an entry can do to them."""

    def __init__(self) -> None:
        self.facts = Facts()

    def note(self, entry: Entry) -> None:
        """That it happened, whatever it is."""
        facts = self.facts
        facts.newest = entry
        facts.by_step.setdefault(entry.step, []).append(entry)
        if entry.against:
            facts.against.append(entry)

    def complete(self, entry: Entry) -> None:
        """It is the last word at its step: what was called for, waited for or in hand there is over."""
        facts = self.facts
        facts.last[entry.step] = entry
        facts.undone.discard(entry.step)
        facts.taken.pop(entry.step, None)
        if facts.waits and facts.waits.step == entry.step:
            facts.waits = None
        if facts.hands and facts.hands.step == entry.step:
            facts.hands = None

    def run(self, entry: Entry) -> None:
        """The engine runs from now on: its light was watched as it was started."""
        timers = self.facts.timers
        numbers = [StepId.of(key).round for key in timers if StepId.of(key).name == Name.RUN]
        timer = Timer(entry.at, None, entry.by)
        timers[str(of_bike(Name.RUN, 1 + max(numbers, default=0)))] = timer
        self.facts.runs.append(timer)

    def open(self, entry: Entry) -> None:
        """Something of its reservoir is opened."""
        self.facts.opened.add(StepId.of(entry.step).reservoir)

    def fastener(self, entry: Entry, part: str, stands: Stands, reservoir: str = "") -> None:
        """How a fastener of its reservoir, or of another, stands from now on."""
        whose = reservoir or StepId.of(entry.step).reservoir
        self.facts.fasteners[(whose, part)] = FastenerFact(
            reservoir=whose, part=part, stands=stands, by=entry.by, at=entry.at, entry=entry
        )

    def reopen(self, entry: Entry, part: str, stands: Stands, reservoir: str = "") -> OpenedAgain:
        """Something let oil out there, or was out: its seal and its tightening have to be done anew."""
        whose = reservoir or StepId.of(entry.step).reservoir
        stood = self.facts.fastener(whose, part)
        self.fastener(entry, part, stands, whose)
        self._not_looked_at(entry)
        shut, seen = self.undo(shut_by(whose, part))
        out = stands == Stands.OUT
        return OpenedAgain(part=part, entry=entry.id, shut_by=shut, out=out, stood=stood, seen=seen)

    def undo(self, steps: Iterable[StepId]) -> tuple[dict[str, Entry], dict[str, int]]:
        """These have to be done anew: the last word of each of them that was done, and from which of its
        entries on it counted."""
        undone: dict[str, Entry] = {}
        seen: dict[str, int] = {}
        for step in map(str, steps):
            was = self.facts.last.pop(step, None)
            if was is not None:
                self.facts.undone.add(step)
                undone[step] = was
                seen[step] = self.facts.counts_from.get(step, 0)
                self.facts.counts_from[step] = len(self.facts.by_step.get(step, ()))
        return undone, seen

    def _not_looked_at(self, entry: Entry) -> None:
        """Whether it was dry before says nothing any more."""
        for name in (Name.LEAKS, Name.LEAKS_AGAIN):
            key = str(of_bike(name))
            if self.facts.last.get(key) not in (None, entry):
                del self.facts.last[key]
                self.facts.undone.add(key)

    def let_oil_out(
        self, entry: Entry, part: str, reservoir: str, stands: Stands = Stands.LEAKING
    ) -> None:
        """A part of a full case leaks, or is out: somebody has to say how much of it is gone, once for
        all that is said of it until then."""
        opened = self.reopen(entry, part, stands, reservoir)
        if part == COVER:
            self.facts.covers.setdefault(reservoir, []).append(entry.id)
        before = self.facts.opened_again.setdefault(reservoir, [])
        asked = any(
            one.part == part and str(ran_out_id(reservoir, one.entry)) not in self.facts.last
            for one in before
        )
        # what a new filter was pre-filled with stays in it
        full = bool(self.facts.poured(reservoir)) and self.facts.into(reservoir) > 0
        if full and not asked:
            before.append(opened)

    def restore(self, entry: Entry, opened: OpenedAgain, names: tuple[Name, ...]) -> None:
        """It was only tightened, or not out after all: these of the steps that had shut it stand as they
        did. What was put back since was out, whatever is said now."""
        if opened.out and any(key in self.facts.last for key in opened.shut_by):
            return
        for key, was in opened.shut_by.items():
            if StepId.of(key).name in names:
                self.facts.last[key] = was
                self.facts.undone.discard(key)
                self.facts.counts_from[key] = opened.seen.get(key, 0)
        if opened.out and opened.stood:
            whose = (StepId.of(entry.step).reservoir, opened.part)
            self.facts.fasteners[whose] = opened.stood
        elif any(StepId.of(key).name in _PUT_IN for key in opened.shut_by):
            self.fastener(entry, opened.part, Stands.NEW)

    def flow(self, entry: Entry, way: Way, ml: Decimal) -> None:
        """Oil that flowed."""
        step = StepId.of(entry.step)
        self.facts.flows.append(
            Flow(
                reservoir=step.reservoir,
                way=way,
                ml=ml,
                at=entry.at,
                round=step.round,
                entry=entry,
            )
        )

    def emptied(self, entry: Entry) -> None:
        """All that was poured is out again: the next start is a first one."""
        self.facts.emptied[StepId.of(entry.step).reservoir] = entry.at

    def forget_prefill(self, entry: Entry) -> None:
        """A filter changed again takes the oil in it along."""
        whose, facts = StepId.of(entry.step).reservoir, self.facts
        facts.prefill_gone[whose] = sum(
            (f.ml for f in facts.flows if (f.reservoir, f.way) == (whose, Way.PREFILL)), Decimal(0)
        )
        facts.flows = [
            flow for flow in facts.flows if (flow.reservoir, flow.way) != (whose, Way.PREFILL)
        ]
        gone = type(entry.data)
        self.events(entry)[:] = [
            one for one in self.events(entry) if not isinstance(one.data, gone)
        ]

    def events(self, entry: Entry) -> list[Entry]:
        """What the filling of its reservoir consists of so far."""
        return self.facts.events.setdefault(StepId.of(entry.step).reservoir, [])

    def stand(self, entry: Entry, pose: Pose, strapped: bool) -> None:
        """How the bike stands from now on."""
        self.facts.stance = Stance(pose=pose, strapped=strapped, by=entry.by, at=entry.at)

    def calls_over(self) -> None:
        """No second pair of hands is called for any more."""
        self.facts.hands = None

    def lent(self, entry: Entry) -> None:
        """Somebody lends the hands that were called for."""
        if self.facts.hands:
            self.facts.hands = replace(self.facts.hands, lent_by=entry.by, lent_by_who=entry.who)
