"""What the API says of the stock: bottles, seals and filters, and what happened to them. ``act`` is
always the client's id of what is done: sent twice it is done once."""

from dataclasses import dataclass

from workshop.shapes import upto


@dataclass(frozen=True, kw_only=True)
class BottleForm:
    """A bottle as it is found. ``id`` is the client's, ``version`` what it was seen at (0: a new one);
    an empty ``opened_on`` is a sealed one; ``left`` empty: full, or as it stands; ``batch``
    empty: as it is known."""

    act: str
    id: str
    fluid: int
    version: int
    size: str = upto(100, blank=True)
    left: str = upto(100, blank=True, default="")
    opened_on: str = upto(40, blank=True, default="")
    batch: str = upto(40, blank=True, default="")


@dataclass(frozen=True, kw_only=True)
class BottleUse:
    """So much poured out of a bottle; ``gone``: it is thrown away instead, with what is left."""

    act: str
    id: str
    used: str = upto(100, blank=True, default="")
    gone: bool = False


@dataclass(frozen=True, kw_only=True)
class BottleLine:
    """``version`` counts what happened to it."""

    id: str
    fluid: int
    version: int
    size: str
    left: str
    share: float
    opened_on: str
    batch: str


@dataclass(frozen=True, kw_only=True)
class SealForm:
    """So many of a seal or filter ``counted``, ``used``, ``thrown away`` or ``came in``. A count names
    the number it replaces as ``seen``, None where there was none."""

    act: str
    name: str = upto(200, blank=True)
    count: str = upto(100, blank=True)
    kind: str = upto(12, blank=True, default="counted")
    seen: int | None = None


@dataclass(frozen=True)
class Bottles:
    """So many bottles of a size."""

    ml: int
    count: int


@dataclass(frozen=True, kw_only=True)
class Arrival:
    """What has come from the counter: sealed bottles of the fluid ``what``, or ``count`` of a seal
    or filter of that name."""

    act: str
    what: str = upto(200)
    bottles: list[Bottles]
    count: int


@dataclass(frozen=True)
class SealCount:
    name: str
    count: int


@dataclass(frozen=True)
class Stock:
    """What stands there: bottles, and the seals and filters in the drawer."""

    bottles: list[BottleLine]
    seals: list[SealCount]


@dataclass(frozen=True, kw_only=True)
class LedgerLine:
    """What happened, when, by whom: ``change`` in words, like +1000 ml or −2."""

    id: int
    kind: str
    what: str
    change: str
    on: str
    by: str


@dataclass(frozen=True)
class Ledger:
    """The latest lines, newest first."""

    lines: list[LedgerLine]
