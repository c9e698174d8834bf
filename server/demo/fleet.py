"""The demo's invented fleet, read from fleet.json and its spec sheets from sheets/.

An island harbour workshop; nothing in it is a real make, person or number. Sheets are in the open
format everybody can export and import.
"""

import json
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from oilward_core.codes.options import Did
from oilward_core.quantity import UNITS

HERE = Path(__file__).parent


Part = tuple[str, str, float]


@dataclass(frozen=True, kw_only=True)
class Past:
    """A service in the past: days ago, km (and hours), amounts in ml, plug parts, oil looks, and who read
    the plug."""

    tank: str
    days: int
    km: int
    took: int | None = None
    drained: int | None = None
    parts: tuple[Part, ...] = ()
    oil: tuple[str, ...] = ("dark",)
    hours: int | None = None
    variant: str = "with filter"
    first: bool = False
    note: str = ""
    by: str = "mira"
    did: Did = Did.CHANGED


@dataclass(frozen=True)
class Replaced:
    """A new odometer: days ago, what the old one showed at last and the new one at first, km."""

    days: int
    old: int
    new_shows: int


@dataclass(frozen=True, kw_only=True)
class Machine:
    """A bike with its model's sheet. ``km`` is what the odometer shows, in its ``unit``;
    ``new_days``: how long ago it was new, if known; ``km_an_hour``: how far it goes in an hour of its
    meter. One with a ``story`` has its past written down, the others theirs worked out."""

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
    plate: str = ""
    frame_number: str = ""
    year_built: int | None = None
    engine_number: str = ""
    km_an_hour: float | None = None
    story: bool = True
    replaced: Replaced | None = None
    own: tuple[dict[str, str], ...] = ()
    schools: tuple[dict[str, str], ...] = ()
    document: dict[str, Any] = field(default_factory=dict)

    @property
    def age_days(self) -> int:
        return self.new_days or 0

    @property
    def km_a_day(self) -> float:
        """How far it goes in a day, all its life long."""
        shown = float(self.km * UNITS[self.unit].factor)
        return shown / max(1, self.age_days)


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
STORIES = tuple(machine for machine in FLEET if machine.story)
