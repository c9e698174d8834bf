"""What the API says of used oil."""

from dataclasses import dataclass

from workshop.shapes import upto


@dataclass(frozen=True, kw_only=True)
class WasteForm:
    """``container``: one of this size was put there; ``added``: so much was poured in by hand;
    ``collected``: a recycler took it, so much by their meter, under the number of their slip;
    ``counted``: so much was found in it. ``id`` is the client's: sent twice it is done once."""

    id: str
    kind: str = upto(12)
    amount: str = upto(100, blank=True)
    note: str = upto(120, blank=True, default="")


@dataclass(frozen=True, kw_only=True)
class WasteRow:
    """What happened, by how much, where it came from or who took it; ``slip``: it can be printed."""

    id: str
    on: str
    kind: str
    amount: str
    note: str
    by: str
    slip: bool


@dataclass(frozen=True, kw_only=True)
class Waste:
    """What lies in the container, in words and as a share of it, and what happened, newest first."""

    level: str
    share: float | None
    full: str
    rows: list[WasteRow]
