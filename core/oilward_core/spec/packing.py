"""Cells as plain data, for keeping with a piece of work and for the open document."""

from dataclasses import replace
from datetime import date
from typing import Any

from .cells import Cell, Cells
from .form import Path

Json = dict[str, Any]


def written_of(cell: Cell) -> Json:
    """A cell as JSON-able data; `cell_of` is its way back."""
    return {
        "written": cell.written,
        "document": cell.document,
        "page": cell.page,
        "entered_by": cell.entered_by,
        "entered_on": cell.entered_on.isoformat() if cell.entered_on else None,
        "checked_by": cell.checked_by,
        "checked_on": cell.checked_on.isoformat() if cell.checked_on else None,
    }


def cell_of(value: Json) -> Cell:
    """A cell from its kept data.

    Raises ValueError where a day is none."""

    def day(name: str) -> date | None:
        text = value.get(name)
        return date.fromisoformat(text) if text else None

    def text(name: str) -> str:
        return str(value.get(name, ""))

    return Cell(
        written=text("written"),
        document=text("document"),
        page=text("page"),
        entered_by=text("entered_by"),
        entered_on=day("entered_on"),
        checked_by=text("checked_by"),
        checked_on=day("checked_on"),
    )


def pack(cells: Cells) -> Json:
    """Cells as JSON-able data, for keeping with a piece of work, with who wrote and checked them by id;
    `unpack` is its way back."""
    return {
        str(path): {
            **written_of(cell),
            "entered_by_who": cell.entered_by_who,
            "checked_by_who": cell.checked_by_who,
        }
        for path, cell in cells.items()
    }


def unpack(data: Json) -> dict[Path, Cell]:
    """Cells from kept data."""
    return {
        Path.of(path): replace(
            cell_of(value),
            entered_by_who=str(value.get("entered_by_who", "")),
            checked_by_who=str(value.get("checked_by_who", "")),
        )
        for path, value in data.items()
    }
