"""A spring's free length against new and its limit. Lengths in mm."""

from dataclasses import dataclass

from ..errors import CoreError
from ..guard import Sound, guarded

LENGTHS_APART = (
    2.0  # mm, two springs of a pair are alike within [trade: common practice, no source]
)


@dataclass(frozen=True, kw_only=True)
class FreeLength(Sound):
    """What a sheet says of a spring: its free length new, and the shortest it may be."""

    new: float
    limit: float

    def __post_init__(self) -> None:
        """Raises CoreError ``suspension.limit``: a limit lies below new, above nothing."""
        super().__post_init__()
        if not 0 < self.limit < self.new:
            raise CoreError("suspension.limit", field="spring_limit")


@guarded
def worn(length: float, book: FreeLength) -> float:
    """How far on the way from new (0) to its limit (1) a spring is; below 0 it is longer than new,
    above 1 it is done. Raises CoreError ``suspension.length``."""
    if length <= 0:
        raise CoreError("suspension.length", field="spring")
    return (book.new - length) / (book.new - book.limit)


@guarded
def renew_both(first: float, second: float, book: FreeLength | None = None) -> bool:
    """Whether a pair of springs is renewed: one of them under the limit, or the two over 2 mm apart. One
    alone is never [trade: common practice, no source]. Raises as `worn`."""
    if min(first, second) <= 0:
        raise CoreError("suspension.length", field="spring")
    short = book is not None and min(first, second) < book.limit
    return short or abs(first - second) > LENGTHS_APART
