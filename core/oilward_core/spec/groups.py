"""How a reservoir's values stand together where they are read: capacity, level, fluid, intervals, then
part by part."""

from collections.abc import Collection, Iterable

from ..said import standing as words
from .changes import sentence_case
from .fields import PART_FIELDS, RESERVOIR_FIELDS, field_of
from .form import Path
from .kinds import FillRule
from .sheet import ReservoirSpec

_SAID_ELSEWHERE = ("kind", "label", "fill rule", "role", "spot", "place")
_FIRST = ("Capacity", "Level", "Leg", "Spring", "Settings", "Ride", "Fluid", "When", "What")
_LAST = "Words"
_IN_ORDER = {field: n for n, field in enumerate((*RESERVOIR_FIELDS, *PART_FIELDS))}


def grouped(paths: Iterable[Path], own: Collection[Path]) -> list[tuple[str, list[Path]]]:
    """The values of one reservoir by what they are about, each group with its title; what is said
    elsewhere stands here only where it is the bike's ``own``. Raises CoreError ``spec.no_field``."""
    found: dict[str, list[Path]] = {title: [] for title in _FIRST}
    for path in sorted(paths, key=lambda one: (one.part, _IN_ORDER[field_of(one)])):
        if path.field in _SAID_ELSEWHERE and path not in own:
            continue
        found.setdefault(path.part or field_of(path).plate, []).append(path)
    last = found.pop(_LAST, [])
    return [(title, group) for title, group in (*found.items(), (_LAST, last)) if group]


def short_name(path: Path) -> str:
    """What a value is called among its own kind: ``With filter`` under *Capacity*. Raises CoreError
    ``spec.no_field``."""
    field = field_of(path)
    return sentence_case(field.label.removeprefix(f"{field.plate}, "))


def level_note(spec: ReservoirSpec) -> tuple[str, str]:
    """How the level is read, and under which group that belongs; an exact quantity has no level to
    stand under."""
    level = spec.level
    if level is None:
        return "Capacity", words.EXACT if spec.fill_rule == FillRule.EXACT else ""
    return "Level", words.level(
        level.gauge, level.dipstick, level.attitude, level.run_minutes, level.settle_minutes
    )
