"""What a spec sheet does not say yet: a list that leads to the field where it belongs."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from ..codes.roles import Role
from ..guard import guarded
from ..said import sheet as say
from .changes import what
from .doubts import wet_clutch
from .form import Path
from .kinds import FillRule, Recipe
from .needed import missing
from .sheet import ReservoirSpec


@dataclass(frozen=True, kw_only=True)
class Gap:
    """Something nobody has written yet. ``path``: the field it belongs in; ``add``: the part (drain
    plug, fill plug) the reservoir lacks for it; ``asked``: a run sheet will have to ask for it."""

    path: Path
    text: str
    add: str = ""
    asked: bool = False


def _asked(spec: ReservoirSpec) -> Iterator[Gap]:
    for path in missing(spec):
        yield Gap(path=path, text=what(path._replace(reservoir="")), asked=True)


def _plugs(spec: ReservoirSpec) -> Iterator[Gap]:
    for role in (Role.DRAIN_PLUG, Role.FILL_PLUG):
        if spec.facts.drained and spec.fastener(role) is None:
            path = Path(spec.key, role, "place")
            yield Gap(path=path, text=say.which_plug(role), add=role)


def _own(spec: ReservoirSpec) -> Iterator[Gap]:
    """What no run sheet asks for, but the bike cannot do without for long."""
    need, level, limits = spec.requirement, spec.level, spec.limits
    known = str(need) or need.kv40 or need.kv100 or need.friction
    if not known and spec.fill_rule != FillRule.WATCH:
        yield Gap(path=Path(spec.key, "", "fluid.grade"), text=say.WHICH_OIL)
    if not (limits.repeat_km or limits.repeat_months or limits.repeat_hours):
        yield Gap(path=Path(spec.key, "", "repeat.km"), text=say.WHICH_INTERVAL)
    if level and level.assumed:
        yield Gap(path=Path(spec.key, "", "level.between"), text=say.WHICH_MARKS)
    if level and level.gauge == "dipstick" and not level.dipstick:
        yield Gap(path=Path(spec.key, "", "level.dipstick"), text=say.HOW_DIPPED)
    if spec.facts.recipe == Recipe.FORK and spec.air_gap is None:
        yield Gap(path=Path(spec.key, "", "level.air gap"), text=say.WHICH_AIR_GAP)


@guarded
def gaps(sheet: Sequence[ReservoirSpec]) -> tuple[Gap, ...]:
    """Everything a sheet does not say yet, reservoir by reservoir: what a run sheet has to ask for
    first, then what else is wanted. Empty: nothing is missing."""
    clutch = {spec.key for spec in wet_clutch(sheet) if not spec.requirement.friction}
    found: list[Gap] = []
    for spec in sheet:
        found += [*_asked(spec), *_plugs(spec), *_own(spec)]
        if spec.key in clutch:
            path = Path(spec.key, "", "fluid.friction")
            found.append(Gap(path=path, text=say.WHICH_FRICTION))
    return tuple(found)
