"""What happened, from entries alone: what flowed, how each fastener stands, what ran, what was read.

Nothing here knows which steps a visit has. So nothing poured can leave the sum because a step went
away, and the same entries give the same facts in any order and repeated at will.
"""

from dataclasses import dataclass, field
from datetime import datetime, timedelta
from decimal import Decimal
from enum import StrEnum

from ...codes.bench import Stands
from ...codes.poses import Pose
from ...guard import Sound
from ..entries import Entry


@dataclass(frozen=True, kw_only=True)
class FastenerFact:
    """How a fastener stands, since when and by whom."""

    reservoir: str
    part: str
    stands: Stands
    by: str
    at: datetime
    entry: Entry


def shut(fact: FastenerFact | None) -> bool:
    """Whether a fastener is shut, or nobody has opened it."""
    return fact is None or fact.stands in (Stands.CLOSED, Stands.TIGHT, Stands.PULLED)


class Way(StrEnum):
    """Which way oil flowed."""

    OUT = "drained"
    PREFILL = "into the filter"
    IN = "poured"
    DRAWN = "drawn off"
    LOST = "ran out"


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
        return -self.ml if self.way in (Way.DRAWN, Way.LOST) else self.ml


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


@dataclass(frozen=True, kw_only=True)
class Stance:
    """How the bike stands, whether it is strapped down, since when and who said so."""

    pose: Pose
    strapped: bool
    by: str
    at: datetime


@dataclass(frozen=True, kw_only=True)
class Hands:
    """A second pair of hands: at which step, who called for it and when, and who lends it, in name and in
    person."""

    step: str
    by: str
    who: str
    since: datetime
    lent_by: str = ""
    lent_by_who: str = ""


@dataclass(frozen=True, kw_only=True)
class OpenedAgain:
    """A ``part`` that let oil out of a full case, or was ``out`` again, the ``entry`` that says so, what
    had shut it until then, by step, and how it stood; ``seen`` from which entry on its steps counted."""

    part: str
    entry: str
    shut_by: dict[str, Entry]
    out: bool = False
    stood: FastenerFact | None = None
    seen: dict[str, int] = field(default_factory=dict)


@dataclass
class Facts:
    """What happened in a visit so far.

    ``last`` holds by step the entry that completes it, as long as nothing has undone it since;
    ``events`` by reservoir what a filling consists of, oldest first; ``opened`` the reservoirs of
    which anything was opened; ``undone`` which steps something undid; ``against`` the entries that
    were written down against a need, ``answered`` what was said of them; ``taken`` by step who has it
    in hand, ``waits`` what the visit waits for, ``newest`` what happened last, ``stance`` how the bike
    stands, ``hands`` a second pair of them; ``opened_again`` by reservoir what let oil out of it while
    it was full, ``covers`` the entries that say that a cover leaked there, ``prefill_gone`` what a filter
    that was changed again had been pre-filled with, ml; ``looked_up_anew`` the reservoirs of which the
    sheet's capacity is in doubt; ``emptied``: when all that had been poured was out again, last;
    ``counts_from``: which of a step's entries count since what it shuts was opened; ``torn``: steps whose
    seal tore.
    """

    last: dict[str, Entry] = field(default_factory=dict)
    flows: list[Flow] = field(default_factory=list)
    fasteners: dict[tuple[str, str], FastenerFact] = field(default_factory=dict)
    timers: dict[str, Timer] = field(default_factory=dict)
    runs: list[Timer] = field(default_factory=list)
    events: dict[str, list[Entry]] = field(default_factory=dict)
    opened: set[str] = field(default_factory=set)
    undone: set[str] = field(default_factory=set)
    against: list[Entry] = field(default_factory=list)
    answered: dict[str, Entry] = field(default_factory=dict)
    taken: dict[str, Entry] = field(default_factory=dict)
    waits: Entry | None = None
    newest: Entry | None = None
    stance: Stance | None = None
    hands: Hands | None = None
    prefill_gone: dict[str, Decimal] = field(default_factory=dict)
    opened_again: dict[str, list[OpenedAgain]] = field(default_factory=dict)
    covers: dict[str, list[str]] = field(default_factory=dict)
    looked_up_anew: set[str] = field(default_factory=set)
    emptied: dict[str, datetime] = field(default_factory=dict)
    by_step: dict[str, list[Entry]] = field(default_factory=dict)
    counts_from: dict[str, int] = field(default_factory=dict)
    torn: set[str] = field(default_factory=set)

    def since_opened(self, step: str) -> list[Entry]:
        """What was written down at a step since what it shuts was opened last, oldest first."""
        if step not in self.last:
            return []
        return self.by_step.get(step, [])[self.counts_from.get(step, 0) :]

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

    def filter_anew(self, reservoir: str) -> datetime | None:
        """When a filter went on after the engine had run on what was poured there."""
        ran = self.ran_on(reservoir)
        on = [f.at for f in self.flows if f.reservoir == reservoir and f.way == Way.PREFILL]
        return on[-1] if ran and on and on[-1] > ran[0].started else None

    def ran_on(self, reservoir: str) -> list[Timer]:
        """The runs of the engine on what was poured there; before that it was warmed up."""
        poured = self.poured(reservoir)
        return [run for run in self.runs if poured and run.started >= poured[0].at]

    def poured(self, reservoir: str) -> list[Flow]:
        """What was poured or drawn off, oldest first."""
        ways = (Way.IN, Way.DRAWN)
        return [f for f in self.flows if f.reservoir == reservoir and f.way in ways]
