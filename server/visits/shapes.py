"""What the bench's API takes; what it answers is `oilward_bench`'s."""

from dataclasses import dataclass, field
from typing import Any, get_args

from oilward_bench.shapes import FluidChoice, VisitState
from oilward_core.fill import Action
from workshop.shapes import upto

LAST_DESCRIPTION = 2
VISIT_STATES, ACTIONS = get_args(VisitState), get_args(Action)


@dataclass(frozen=True, kw_only=True)
class Offer:
    """A reservoir a visit can consist of: which capacities it has, the proposed one first, and which
    fluids fit, the best first; ``pours``: a fluid goes into it."""

    key: str
    label: str
    variants: list[str]
    pours: bool
    fluids: list[FluidChoice]


@dataclass(frozen=True, kw_only=True)
class NewTask:
    """A reservoir to service: a key of the spec sheet, which capacity, which fluid (empty: the best
    that fits); of an oil that is not on the shelf its ``label`` as well, grade and class."""

    reservoir: str = upto(40)
    variant: str = upto(12, blank=True, default="")
    fluid: str = upto(80, blank=True, default="")
    label: str = upto(40, blank=True, default="")


@dataclass(frozen=True, kw_only=True)
class NewVisit:
    """A visit to open: ``id`` is the client's, ``cold`` the cold jobs in it, ``order`` its jobs as
    they were planned, ``sure`` the answers to earlier questions about the odometer, ``wants`` what it is
    for in the owner's words, ``ride_in`` how the bike felt on the way in."""

    id: str
    bike: str
    tasks: list[NewTask]
    odometer: str = upto(200, blank=True)
    hours: str = upto(100, blank=True, default="")
    cold: list[str] = field(default_factory=list)
    order: list[str] = field(default_factory=list)
    sure: list[str] = field(default_factory=list)
    wants: str = upto(500, blank=True, default="")
    ride_in: str = upto(500, blank=True, default="")


@dataclass(frozen=True, kw_only=True)
class AddedTask:
    """A reservoir to add to an open visit. ``entry``: its plug was opened by mistake, and this is the
    client's id for saying so."""

    reservoir: str = upto(40)
    variant: str = upto(12, blank=True, default="")
    fluid: str = upto(80, blank=True, default="")
    label: str = upto(40, blank=True, default="")
    entry: str = upto(40, blank=True, default="")


@dataclass(frozen=True, kw_only=True)
class NewEntry:
    """An entry to write down: ``id`` is the client's, ``data`` as typed. ``at`` is when it happened
    and ``sent_at`` when it was sent, both by the tablet's own clock. ``accepts`` is what was asked
    about it before and answered yes, in codes: that it goes against a need, or what it reopens.
    ``remembered``: it was done before it was written down. ``description``: of which description of the
    work its data are; a device of the last release does not say, and speaks in words."""

    id: str
    step: str = upto(200)
    kind: str = upto(12)
    at: str = upto(40)
    sent_at: str = upto(40, blank=True, default="")
    data: dict[str, Any] = field(default_factory=dict)
    supersedes: str | None = None
    accepts: str = upto(4000, blank=True, default="")
    remembered: bool = False
    description: int = LAST_DESCRIPTION


@dataclass(frozen=True, kw_only=True)
class SecondLook:
    """Somebody looks at a fastener that two stand for: at which ``step``, by name and PIN or password;
    ``id`` is the client's."""

    id: str
    step: str = upto(200)
    username: str = upto(150)
    password: str = upto(1000)


@dataclass(frozen=True)
class TakenOff:
    """So much out of a ``bottle``, by its id, or so many of a ``part``, by its name."""

    amount: str = upto(100, blank=True)
    bottle: str = upto(40, blank=True, default="")
    part: str = upto(200, blank=True, default="")


@dataclass(frozen=True, kw_only=True)
class Signature:
    """A lead's name and password, where one signs beside whoever is signed in; how the bike felt on the
    ride out; what is taken off the shelf (``taken``)."""

    username: str = upto(150, blank=True, default="")
    password: str = upto(1000, blank=True, default="")
    ride_out: str = upto(500, blank=True, default="")
    taken: list[TakenOff] = field(default_factory=list)


@dataclass(frozen=True)
class Reason:
    reason: str = upto(500, blank=True)
