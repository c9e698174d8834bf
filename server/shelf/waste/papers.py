"""The slip that goes with used oil."""

from collections.abc import Iterable

from oilward_core.calendar import date_words
from oilward_core.kit import WasteKind, waste_level
from oilward_core.quantity import show
from oilward_core.said import waste as said
from workshop.paper import block, number, print_pages, words

from shelf.models import WasteRow

from .mapping import line


def slip(collected: WasteRow, inside: Iterable[WasteRow], unit: str) -> bytes:
    """A PDF of one page or more: ``inside`` is what had run in since the last one, oldest first."""
    ran_in = [row for row in inside if row.kind != WasteKind.CONTAINER]
    rows = [
        [words(date_words(row.on)), words(row.note or said.KINDS[WasteKind(row.kind)]),
         number(show(row.ml, unit)), words(row.by.name)]
        for row in ran_in
    ]  # fmt: skip
    total = waste_level([line(row) for row in ran_in]).ml
    about = [
        [words("Taken by"), words(collected.note or " ")],
        [words("On"), words(date_words(collected.on))],
        [words("How much"), number(f"{show(collected.ml, unit)}, {said.MEASURED_BY}")],
        [words("By this ledger"), number(show(total, unit))],
        [words("Handed over by"), words(collected.by.name)],
        [words("Signature"), words(" ")],
    ]
    flow = [words(said.APART), block("Collected", about, [50, 128])]
    if rows:
        flow.append(block("What was in it", rows, [30, 88, 30, 30]))
    return print_pages("Used oil", date_words(collected.on), flow)
