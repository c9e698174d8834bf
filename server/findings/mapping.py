"""Between findings' rows and the core."""

from dataclasses import dataclass

from oilward_core.sheet import part_from

from .models import Finding


@dataclass(frozen=True)
class PlugPart:
    """One kind of debris, for drawing on the plug tip."""

    form: str
    matter: str
    share: float
    largest_mm: float | None


@dataclass(frozen=True)
class Plug:
    """A finding as the plug tip shows it."""

    found_on: str
    level: str
    origin: str
    action: str
    note: str
    parts: list[PlugPart]
    oil: list[str]
    rules: list[str]


def plug_part(data: dict[str, object]) -> PlugPart:
    part = part_from(data)
    largest = None if part.largest_mm is None else float(part.largest_mm)
    return PlugPart(part.form.value, part.matter.value, float(part.share), largest)


def plug(row: Finding) -> Plug:
    return Plug(
        row.found_on.isoformat(),
        row.level,
        row.origin,
        row.action,
        row.note,
        [plug_part(part) for part in row.parts],
        list(row.oil),
        list(row.rules),
    )
