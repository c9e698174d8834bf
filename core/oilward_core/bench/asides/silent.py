"""Asides that say all by being there."""

from collections.abc import Callable

from ...said import bench as said
from ..acts import Act
from ..entries import Data, Entry
from ..fold.taking import Taking
from ..typed import Nothing


def silent(data: Data, take: Callable[[Taking, Entry, Data], None]) -> Act[Nothing, Data]:
    """An aside of one kind, and what it does."""
    return Act(
        typed=Nothing,
        data=type(data),
        field="",
        read=lambda hearing, typed: data,
        take=take,
        says=lambda data, speaker: said.DONE,
    )


def does_nothing(taking: Taking, entry: Entry, data: Data) -> None:
    """Whose hands the visit is in is the newest entry's: that is all."""
