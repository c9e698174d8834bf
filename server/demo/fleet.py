"""The demo's invented fleet, read from fleet.json and its spec sheets from sheets/.

An island harbour workshop; nothing in it is a real make, person or number. Sheets are in the open
format everybody can export and import.
"""

import json
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

HERE = Path(__file__).parent


@dataclass(frozen=True)
class Past:
    """A service in the past: days ago, km (and hours), amounts in ml, plug parts, oil looks."""

    tank: str
    days: int
    km: int
    took: int | None = None
    drained: int | None = None
    parts: tuple[tuple[str, str, float], ...] = ()
    oil: tuple[str, ...] = ("dark",)
    hours: int | None = None
    variant: str = "with filter"
    first: bool = False
    note: str = ""


@dataclass(frozen=True)
class Replaced:
    """A new odometer: days ago, what the old one showed at last and the new one at first, km."""

    days: int
    old: int
    new_shows: int


@dataclass(frozen=True)
class Machine:
    """A bike with its model's sheet. ``km`` is what the odometer shows, in its ``unit``;
    ``new_days``: how long ago it was new, if known."""

    sheet: str
    name: str
    owner: str
    use: str
    unit: str
    km: int
    past: tuple[Past, ...] = ()
    new_days: int | None = None
    hours: int | None = None
    severity: str = "1"
    counts_hours: bool = False
    notes: str = ""
    replaced: Replaced | None = None
    own: tuple[dict[str, str], ...] = ()
    schools: tuple[dict[str, str], ...] = ()
    document: dict[str, Any] = field(default_factory=dict)


def _machine(data: dict[str, Any]) -> Machine:
    past = tuple(Past(**past) for past in data.pop("past", ()))
    replaced = data.pop("replaced", None)
    document = json.loads((HERE / "sheets" / data["sheet"]).read_text())
    return Machine(
        **data,
        past=past,
        replaced=Replaced(**replaced) if replaced else None,
        document=document,
    )


DATA = json.loads((HERE / "fleet.json").read_text())
FLEET = tuple(_machine(bike) for bike in DATA["bikes"])
