"""What bikes are built like, and which reservoirs each kind usually has."""

from dataclasses import dataclass

from ..errors import CoreError
from .kinds import ReservoirKind as Kind

ENGINES = (
    "single",
    "parallel twin",
    "V-twin",
    "boxer",
    "in-line three",
    "in-line four",
    "in-line six",
    "V-four",
)
DRIVES = ("chain", "belt", "shaft")
SCOOTER = "scooter, gear case"
LAYOUTS = (*(f"{engine}, {drive}" for engine in ENGINES for drive in DRIVES), SCOOTER)


@dataclass(frozen=True)
class Offer:
    """A reservoir a layout usually has: its kind, its key on the sheet, and what it is called."""

    kind: Kind
    key: str
    label: str


def _named(kind: Kind, key: str = "", label: str = "") -> Offer:
    return Offer(kind, key or kind.value, label or key or kind.value)


_LEGS = (
    _named(Kind.FORK, "fork left", "fork, left"),
    _named(Kind.FORK, "fork right", "fork, right"),
)
_BRAKES = (_named(Kind.FRONT_BRAKE), _named(Kind.REAR_BRAKE))
_GEARBOX, _PRIMARY = _named(Kind.GEARBOX), _named(Kind.PRIMARY)
_COOLANT = _named(Kind.COOLANT)
_OWN_CASES = {"V-twin, belt": (_PRIMARY, _GEARBOX), "V-twin, chain": (_PRIMARY, _GEARBOX)}
_OWN_GEARBOX = ("boxer, shaft", "V-twin, shaft")
_AIR_COOLED = ("single", "boxer", "V-twin")


def proposed(layout: str) -> tuple[Offer, ...]:
    """The reservoirs a new sheet of this layout begins with, in the order a bike is drawn [trade:
    common practice, no source]. Raises CoreError ``sheet.choose`` for no layout."""
    if layout not in LAYOUTS:
        raise CoreError("sheet.choose", field="layout", options=list(LAYOUTS))
    engine, drive = layout.split(", ")
    found = [_named(Kind.ENGINE), *_OWN_CASES.get(layout, ())]
    if layout in _OWN_GEARBOX:
        found.append(_GEARBOX)
    if drive == "shaft":
        found.append(_named(Kind.FINAL_DRIVE))
    if layout == SCOOTER:
        found.append(_named(Kind.GEAR_CASE))
    found += [*_LEGS, _named(Kind.SHOCK)]
    if engine not in (*_AIR_COOLED, "scooter"):
        found.append(_COOLANT)
    return (*found, *_BRAKES)
