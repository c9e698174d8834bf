"""The demo's invented fleet, read from fleet.json: an island harbour workshop.

Nothing in it is a real make, person or number. Values are written as a manual would give them; the
loader reads them with the core.
"""

import json
from dataclasses import dataclass
from pathlib import Path
from typing import Any


@dataclass(frozen=True)
class Plug:
    """A fastener with its torque as the manual writes it."""

    role: str
    place: str
    thread: str
    drive: str
    torque: str
    seal: str = ""
    magnet: bool = False
    soft: bool = True


@dataclass(frozen=True)
class Tank:
    """A reservoir of a sheet. ``values`` maps a value's name to the manual's words."""

    key: str
    kind: str
    label: str
    rule: str
    fluid: str
    values: dict[str, str]
    plugs: tuple[Plug, ...] = ()
    gauge: str = ""
    attitude: str = ""


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


@dataclass(frozen=True)
class Machine:
    """A bike with its model and its sheet. ``new_days``: how long ago it was new, if known."""

    make: str
    model: str
    year: int
    layout: str
    cc: int
    name: str
    owner: str
    use: str
    unit: str
    km: int
    manual: str
    tanks: tuple[Tank, ...]
    past: tuple[Past, ...] = ()
    new_days: int | None = None
    hours: int | None = None
    severity: str = "1"


def _tank(data: dict[str, Any]) -> Tank:
    plugs = tuple(Plug(**plug) for plug in data.pop("plugs", ()))
    return Tank(**data, plugs=plugs)


def _machine(data: dict[str, Any]) -> Machine:
    tanks = tuple(_tank(tank) for tank in data.pop("tanks"))
    past = tuple(Past(**past) for past in data.pop("past", ()))
    return Machine(**data, tanks=tanks, past=past)


DATA = json.loads((Path(__file__).parent / "fleet.json").read_text())
FLEET = tuple(_machine(bike) for bike in DATA["bikes"])
