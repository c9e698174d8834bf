"""What to lay out besides oil: seals, tools, wrenches and what is used up."""

from collections import Counter
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass

from ..codes.roles import Role
from ..codes.schools import Practice
from ..codes.steps import Name
from ..guard import Sound
from ..renewals import LASTING, seal_renewals
from ..runsheet import PlannedTask, openings
from ..said.due import seal_of
from ..schools import RING, WASHER, Schools, sealant_of
from ..spec import Fastener


@dataclass(frozen=True, kw_only=True)
class Things(Sound):
    """What to lay out besides oil: seals and filters (``parts``) with how many, tools, what is used
    up, and every fastener that a torque wrench is needed for."""

    parts: tuple[tuple[str, int], ...]
    tools: tuple[str, ...]
    consumables: tuple[str, ...]
    torqued: tuple[tuple[str, Fastener], ...]


_ALWAYS = ("rags", "gloves and glasses", "clean low pan", "funnel", "measuring jug")


def _opened(task: PlannedTask) -> list[Fastener]:
    """The fasteners a task takes out, with the screws of the covers they stand behind."""
    found: dict[int, Fastener] = {}
    for one in openings(task.spec, task.variant):
        found |= {id(one.fastener): one.fastener, id(one.closes): one.closes}
    if not task.spec.facts.drained and not found:
        found |= {id(f): f for f in task.spec.fasteners if f.role == Role.CAP}
    return list(found.values())


def _seal(task: PlannedTask, fastener: Fastener, schools: Schools) -> str:
    """The seal that goes on new, by the workshop's school; empty where the old one stays."""
    # a filter brings its own gasket
    if not fastener.seal or "own" in fastener.seal.lower().split():
        return ""
    lasting = fastener.role == Role.FILL_PLUG or bool(task.spec.seal_life)
    if lasting and fastener.role in LASTING:  # stays until its life in services is over
        due = (one.part for one in seal_renewals(task.spec, len(task.done), task.seals) if one.due)
        return fastener.seal if seal_of(fastener.seal, fastener.role) in due else ""
    topic = RING if "o-ring" in fastener.seal.lower() else WASHER
    if task.spec.facts.drained and fastener.role == Role.DRAIN_PLUG:
        fresh = schools.of(task.spec.kind, topic).choice == Practice.NEW_EACH_TIME
        return fastener.seal if fresh else ""
    return fastener.seal


def filter_name(label: str, model: str, part: str = "") -> str:
    """What a filter is called in drawer and shopping list: it fits one model's reservoir; a further one
    by its ``part``."""
    return f"{part or 'filter'} for the {label}" + (f", {model}" if model else "")


def _filters(task: PlannedTask) -> Iterator[str]:
    """The filters that go on new, by what further ones are called; a screen is washed."""
    for one in openings(task.spec, task.variant):
        if one.card.name == Name.TORQUE_FILTER and one.role != Role.SCREEN:
            yield one.card.part


def one_use_name(fastener: Fastener) -> str:
    """What a fastener that is used once is called in drawer and shopping list: what it is there for, and
    its thread."""
    return f"{fastener.role}, {fastener.thread}" if fastener.thread else fastener.role


def _new(task: PlannedTask, fastener: Fastener, schools: Schools) -> Iterator[str]:
    """What goes on new with a fastener: its seal, and itself where it is used once."""
    if seal := _seal(task, fastener, schools):
        # a cover has one, however many its screws are
        yield from [seal] * (1 if fastener.ring else fastener.count)
    if fastener.one_use:
        yield from [one_use_name(fastener)] * fastener.count


def _used_up(task: PlannedTask, schools: Schools) -> Iterator[str]:
    """What goes on threads, and wire."""
    if task.spec.facts.drained:
        plug = task.spec.fastener(Role.DRAIN_PLUG)
        if sealant := sealant_of(plug.sealant if plug else "", task.spec.kind, schools):
            yield sealant
    for fastener in _opened(task):
        if fastener.role != Role.DRAIN_PLUG and fastener.sealant:
            yield fastener.sealant
        if fastener.safety_wire:
            yield "safety wire"


def things(tasks: Iterable[PlannedTask], schools: Schools, model: str = "") -> Things:
    """Seals, filters, tools, consumables and torque settings for these tasks on a ``model``."""
    seals: Counter[str] = Counter()
    filters: Counter[str] = Counter()
    tools: dict[str, None] = {}
    used: dict[str, None] = dict.fromkeys(_ALWAYS)
    torqued = []
    for task in tasks:
        for fastener in _opened(task):
            seals.update(_new(task, fastener, schools))
            if fastener.drive and fastener.drive != "by hand":
                tools[fastener.drive] = None
            if fastener.torque and fastener.torque.by_wrench:
                torqued.append((task.spec.label, fastener))
        for part in _filters(task):
            filters[filter_name(task.spec.label, model, part)] += 1
        used |= dict.fromkeys(_used_up(task, schools))
    parts = (*sorted(seals.items()), *filters.items())
    return Things(parts=parts, tools=tuple(tools), consumables=tuple(used), torqued=tuple(torqued))


def short(parts: Mapping[str, int], drawer: Mapping[str, int]) -> dict[str, int]:
    """Which seals and filters the drawer has too few of, and how many are missing."""
    missing = {name: count - drawer.get(name, 0) for name, count in sorted(parts.items())}
    return {name: count for name, count in missing.items() if count > 0}
