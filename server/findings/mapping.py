"""Between findings' rows and the core."""

from dataclasses import dataclass
from decimal import Decimal

from oilward_core.bench import part_from
from oilward_core.debris import Form, LevelWord, Matter, Observation, OilLook
from oilward_core.spec import ReservoirKind

from .models import Finding


@dataclass(frozen=True)
class PlugPart:
    """One kind of debris, for drawing on the plug tip."""

    form: Form
    matter: Matter
    share: float
    largest_mm: float | None


@dataclass(frozen=True)
class Plug:
    """A finding as the plug tip shows it."""

    found_on: str
    level: LevelWord
    origin: str
    action: str
    note: str
    parts: list[PlugPart]
    oil: list[OilLook]
    rules: list[str]
    again: str


def seen(row: Finding, kind: ReservoirKind, km_since_wiped: Decimal, first: bool) -> Observation:
    """What was seen, for judging it on another distance."""
    return Observation(
        kind,
        tuple(part_from(part) for part in row.parts),
        frozenset(OilLook(look) for look in row.oil),
        km_since_wiped,
        first,
    )


def plug_part(data: dict[str, object]) -> PlugPart:
    part = part_from(data)
    largest = None if part.largest_mm is None else float(part.largest_mm)
    return PlugPart(part.form, part.matter, float(part.share), largest)


def plug(row: Finding, again: str = "") -> Plug:
    """``again``: what a later correction makes of it, in words."""
    return Plug(
        row.found_on.isoformat(),
        LevelWord(row.level),
        row.origin,
        row.action,
        row.note,
        [plug_part(part) for part in row.parts],
        [OilLook(look) for look in row.oil],
        list(row.rules),
        again,
    )
