"""A fork leg's oil: what a millimetre of level is in oil, over-filled and drawn down, one leg beside the
other. Lengths in mm, volumes in ml."""

from dataclasses import dataclass
from math import pi

from ..codes.suspension import GapRod
from ..errors import CoreError
from ..guard import Sound, guarded
from ..spec import LegSpec

OVER = 10.0  # mm of level that more than the book is poured, to be drawn down again [trade]
GAPS_APART = (
    2.0  # mm, two legs are as full as each other within [trade: common practice, no source]
)
POURED_APART = 5.0  # ml, at equal gaps more asks what stayed in one of them [the same]
OFF_BOOK = 0.05  # of the book's amount, at the right gap [the same]
UNKNOWN_START = 1.05  # of what came out, where nobody knows what goes in [the same]


@dataclass(frozen=True, kw_only=True)
class Bore(Sound):
    """The room the oil stands in: a tube's inner diameter, and that of a rod which stands in the oil
    where its level is (0: none)."""

    inner: float
    rod: float = 0.0

    def __post_init__(self) -> None:
        """Raises CoreError ``suspension.bore``, ``suspension.rod`` for one that fills the tube."""
        super().__post_init__()
        if self.inner <= 0:
            raise CoreError("suspension.bore", field="inner_bore")
        if not 0 <= self.rod < self.inner:
            raise CoreError("suspension.rod", field="rod")

    @property
    def area(self) -> float:
        """Of the oil's surface, mm²: ``π/4·(D² − d²)``."""
        return pi / 4 * (self.inner**2 - self.rod**2)


@guarded
def surface(leg: LegSpec) -> Bore | None:
    """Where the oil's level stands while a leg's gap is read, by its sheet: the rod stands in it where it
    is up. None: the sheet does not say, or what it says cannot be."""
    rod = leg.rod if leg.gap_rod == GapRod.UP else None
    if not leg.bore or leg.bore <= (rod or 0):
        return None
    return Bore(inner=float(leg.bore), rod=float(rod or 0))


@guarded
def volume_of(height: float, bore: Bore) -> float:
    """So many millimetres of level, in oil: ``π/4·(D² − d²)·Δh`` [derived]."""
    return bore.area * height / 1000


@guarded
def height_of(volume: float, bore: Bore) -> float:
    """So much oil, in millimetres of level; the inverse of `volume_of`."""
    return volume * 1000 / bore.area


@guarded
def over_filled(book: float, bore: Bore) -> float:
    """What is poured first where the gap is set by drawing down: the book's amount and 10 mm of level
    [trade: common practice, no source]. Raises CoreError ``suspension.amount``."""
    if book <= 0:
        raise CoreError("suspension.amount")
    return book + volume_of(OVER, bore)


@guarded
def to_draw(read: float, wanted: float, bore: Bore) -> float:
    """What comes out for the gap to be as wanted, ml; negative: what goes in. The gap is from the tube's
    edge down to the oil, so a short one means too much oil. Raises CoreError ``suspension.gap``."""
    if read < 0 or wanted <= 0:
        raise CoreError("suspension.gap", field="air_gap")
    return volume_of(wanted - read, bore)


@guarded
def gap_after(read: float, drawn: float, bore: Bore) -> float:
    """The gap after so much was drawn out (negative: poured in)."""
    return read + height_of(drawn, bore)


@dataclass(frozen=True, kw_only=True)
class Filled(Sound):
    """What is known of a leg that was filled: the gap it was left at, what went in, and the ``book``'s
    gap and amount (None: the sheet has none)."""

    gap: float
    poured: float
    book_gap: float | None = None
    book_poured: float | None = None


@dataclass(frozen=True, kw_only=True)
class Apart(Sound):
    """How two legs stand beside each other. ``gap``: by how much more the second's is, where they are
    further apart than legs may be, else 0; ``poured``: by how much more went into the second at equal
    gaps, where that asks what stayed in one of them, else 0."""

    gap: float
    poured: float


def _more(first: float, second: float, book: float | None, other: float | None) -> float:
    """By how much more the second's is than by their sheets. What one sheet alone gives is not held
    against the other leg."""
    if book is None or other is None:
        return second - first if book is other else 0.0
    return (second - other) - (first - book)


@guarded
def apart(first: Filled, second: Filled) -> Apart:
    """Two legs side by side. Where the sheet gives each its own, each is held against its own: legs that
    are equal by their sheets are never called unequal [trade: common practice, no source]."""
    gap = _more(first.gap, second.gap, first.book_gap, second.book_gap)
    if abs(gap) > GAPS_APART:
        return Apart(gap=gap, poured=0.0)
    poured = _more(first.poured, second.poured, first.book_poured, second.book_poured)
    return Apart(gap=0.0, poured=poured if abs(poured) > POURED_APART else 0.0)


@guarded
def off_book(leg: Filled) -> float:
    """By what share of the book more (or, negative, less) went in at the right gap; 0 where that is
    usual, or the gap is not right, or there is no book [trade: common practice, no source]."""
    if not leg.book_poured or leg.book_poured < 0 or leg.book_gap is None:
        return 0.0
    if abs(leg.gap - leg.book_gap) > GAPS_APART:
        return 0.0
    share = leg.poured / leg.book_poured - 1
    return share if abs(share) > OFF_BOOK else 0.0
