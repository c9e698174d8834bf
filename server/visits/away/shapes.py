"""Parts that are with a specialist, as the API takes and tells them."""

from dataclasses import dataclass, field

from oilward_core.codes.away import Came, Waits
from workshop.shapes import upto


@dataclass(frozen=True, kw_only=True)
class HandOut:
    """A shock, or a sealed cartridge of a leg, that leaves: ``to`` whom, or to which of one's ``own``
    people (by their id), ``qualified`` by what; ``back_by`` the day as typed. ``id`` is the client's."""

    id: str
    reservoir: str = upto(40)
    to: str = upto(80, blank=True, default="")
    own: str = upto(150, blank=True, default="")
    qualified: str = upto(200, blank=True, default="")
    wanted: str = upto(300, blank=True, default="")
    waits: Waits | None = None
    back_by: str = upto(40, blank=True, default="")


@dataclass(frozen=True, kw_only=True)
class Back:
    """What came back; ``pressure`` and ``temperature`` as typed where its gas was read. ``sure``: the
    answers to earlier questions."""

    id: str
    came: Came | None = None
    oil: str = upto(80, blank=True, default="")
    pressure: str = upto(100, blank=True, default="")
    temperature: str = upto(100, blank=True, default="")
    paper: str = upto(200, blank=True, default="")
    note: str = upto(300, blank=True, default="")
    sure: list[str] = field(default_factory=list)


@dataclass(frozen=True, kw_only=True)
class Fitted:
    """It is on the bike again: how its bolts were ``torqued``, and who looked at them, by name and PIN or
    password."""

    id: str
    torqued: str = upto(200, blank=True, default="")
    username: str = upto(150)
    password: str = upto(1000)


@dataclass(frozen=True)
class Way:
    """Something to choose: its code, and what it is called."""

    code: str
    words: str


@dataclass(frozen=True, kw_only=True)
class AwayLine:
    """A part that went out: under which ``tag``, and how it stands (``state``: ``out``, ``back``,
    ``fitted``); ``overdue``: it should have been back by now. ``back`` and ``fitted`` in words, empty
    until then."""

    id: str
    tag: str
    part: str
    state: str
    to: str
    qualified: str
    wanted: str
    waits: str
    out_on: str
    back_by: str
    overdue: bool
    by: str
    back: str
    back_on: str
    fitted: str


@dataclass(frozen=True, kw_only=True)
class Away:
    """What of a reservoir went out so far, the newest first; ``part``: what of it may; whether its gas
    may be read (``gas``), and who of the house may look at it (``own``, id and name)."""

    reservoir: str
    part: str
    gas: bool
    lines: list[AwayLine]
    waits: list[Way]
    came: list[Way]
    own: list[Way]
