"""What a visit has used up: oil out of its bottles, seals and filters out of the drawer."""

from collections import Counter
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from decimal import Decimal

from ..codes.options import Seal
from ..codes.roles import Role
from ..codes.steps import Name
from ..guard import Sound, guarded
from ..kit.things import filter_name, one_use_name
from ..runsheet import StepId
from ..spec import ReservoirSpec
from .asks.choice import Chosen
from .asks.common import Confirmed
from .asks.fill import PouredIn
from .asks.filter import FilterOn
from .closing import TaskClosing
from .entries import Entry, in_order
from .fold.facts import Way
from .fold.gather import gathered


@dataclass(frozen=True, kw_only=True)
class Used(Sound):
    """So many ml by fluid, so many seals and filters by their names in the drawer."""

    fluids: tuple[tuple[str, Decimal], ...]
    parts: tuple[tuple[str, int], ...]


def _seal(spec: ReservoirSpec) -> Iterable[str]:
    plug = spec.fastener(Role.DRAIN_PLUG)
    if plug and plug.seal:
        yield from [plug.seal] * plug.count


def _parts(spec: ReservoirSpec, entry: Entry, model: str) -> Iterable[str]:
    """What one entry put on new; a filter brings its own gasket."""
    name, data = StepId.of(entry.step).name, entry.data
    if isinstance(data, FilterOn) or (name == Name.CIRCUIT and isinstance(data, Confirmed)):
        yield filter_name(spec.label, model)
    plug = spec.fastener(Role.DRAIN_PLUG)
    if name == Name.REFIT and isinstance(data, Confirmed) and plug and plug.one_use:
        yield from [one_use_name(plug)] * plug.count
    if name == Name.WASHER and isinstance(data, Chosen) and data.value == Seal.NEW:
        yield from _seal(spec)


@guarded
def used(
    tasks: Sequence[TaskClosing],
    entries: Iterable[Entry],
    model: str = "",
    chosen: Mapping[str, str] | None = None,
) -> Used:
    """What was poured, whatever became of it later, and what went on new: each time it was renewed, one
    more. ``model``: what filters are called after; ``chosen``: by reservoir the oil that was chosen
    before anything was poured, where that is not what was poured last."""
    of = {one.plan.reservoir.key: one for one in tasks}
    counted = in_order(entries)
    fluids: Counter[str] = Counter()
    for flow in gathered(counted).flows:
        task = of.get(flow.reservoir)
        if task is None or flow.way not in (Way.IN, Way.PREFILL):
            continue
        named = flow.entry.data.fluid if isinstance(flow.entry.data, PouredIn) else ""
        if name := named or (chosen or {}).get(flow.reservoir) or task.fluid:
            fluids[name] += flow.ml  # type: ignore[assignment]
    parts: Counter[str] = Counter()
    for entry in counted:
        one = of.get(StepId.of(entry.step).reservoir)
        if one is not None:
            parts.update(_parts(one.plan.reservoir, entry, model))
    poured = tuple((name, Decimal(ml)) for name, ml in fluids.items() if ml > 0)
    return Used(fluids=poured, parts=tuple(sorted(parts.items())))
