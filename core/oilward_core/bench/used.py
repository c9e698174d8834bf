"""What a visit has used up: oil out of its bottles, seals and filters out of the drawer."""

from collections import Counter
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from decimal import Decimal

from ..codes.options import Seal, Tick
from ..codes.roles import Role
from ..codes.steps import Name
from ..guard import Sound, guarded
from ..kit.things import filter_name, one_use_name
from ..runsheet import Opening, StepId, TaskPlan, openings, seal_at
from .asks.choice import Chosen
from .asks.common import Confirmed
from .asks.fill import PouredIn
from .asks.filter import FilterOn
from .asks.torque import Pulled, TickedAtCard
from .closing import TaskClosing
from .entries import Entry, in_order
from .fold.facts import Way
from .fold.gather import gathered
from .fold.state import Sheet


@dataclass(frozen=True, kw_only=True)
class Used(Sound):
    """So many ml by fluid, so many seals and filters by their names in the drawer."""

    fluids: tuple[tuple[str, Decimal], ...]
    parts: tuple[tuple[str, int], ...]


_NEW_FILTER = (Name.CIRCUIT, Name.ELEMENT)


def _opened_at(step: StepId, task: TaskPlan) -> Opening | None:
    """What a step is about, of all that a job opens."""
    found = openings(task.reservoir, task.variant)
    if step.name == Name.CIRCUIT:
        return next(iter(found), None)
    return next((one for one in found if one.part == step.fastener), None)


def _parts(task: TaskPlan, entry: Entry, model: str) -> Iterable[str]:
    """What one entry put on new; a filter brings its own gasket, and a screen is washed."""
    spec, data = task.reservoir, entry.data
    step = StepId.of(entry.step)
    one = _opened_at(step, task)
    changed = step.name in _NEW_FILTER and isinstance(data, Confirmed)
    if isinstance(data, FilterOn) or (changed and (one is None or one.role != Role.SCREEN)):
        yield filter_name(spec.label, model, step.part)
    if one is None:
        return
    plug = one.fastener
    if step.name == Name.REFIT and isinstance(data, Confirmed) and plug.one_use:
        yield from [one_use_name(plug)] * plug.count
    if step.name == Name.WASHER and isinstance(data, Chosen) and data.value == Seal.NEW:
        yield from [plug.seal] * bool(plug.seal) * plug.count
    if isinstance(data, Pulled) and data.seal == Seal.NEW:
        yield seal_at(one)
    if isinstance(data, Pulled | TickedAtCard) and Tick.NEW_SCREWS in data.items:
        yield from [one_use_name(one.closes)] * one.closes.count


@guarded
def seals_on(task: TaskPlan, sheet: Sheet) -> dict[str, str]:
    """What seal went on at each fastener of a reservoir, by what that is called, as far as it was
    said."""
    found: dict[str, str] = {}
    for state in sheet.steps:
        data, step = (state.entry.data if state.entry else None), state.step.id
        if step.reservoir != task.reservoir.key:
            continue
        if step.name == Name.WASHER and isinstance(data, Chosen):
            found[step.fastener] = data.value
        card = sheet.card(str(step))
        pulled = card.entry.data if card and card.entry else None
        if isinstance(pulled, Pulled) and pulled.seal:
            found[step.fastener] = pulled.seal
    return found


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
            parts.update(_parts(one.plan, entry, model))
    poured = tuple((name, Decimal(ml)) for name, ml in fluids.items() if ml > 0)
    return Used(fluids=poured, parts=tuple(sorted(parts.items())))
