"""What to lay out besides oil: seals, tools, wrenches and what is used up."""

from collections import Counter
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass

from ..codes.roles import Role
from ..codes.schools import Practice
from ..guard import Sound
from ..renewals import seal_renewal
from ..runsheet import PlannedTask
from ..schools import RING, WASHER, Schools, sealant_of
from ..spec import FILTERS, Fastener, Recipe, Variant


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
    """The fasteners a task takes out."""
    roles = [Role.DRAIN_PLUG, Role.FILL_PLUG, Role.CAP]
    if task.variant != Variant.DRAIN_ONLY or task.spec.facts.recipe == Recipe.CIRCUIT:
        roles += FILTERS[:2]
    return [f for f in task.spec.fasteners if f.role in roles]


def _seal(task: PlannedTask, fastener: Fastener, schools: Schools) -> str:
    """The seal that goes on new, by the workshop's school; empty where the old one stays."""
    # a filter brings its own gasket
    if not fastener.seal or "own" in fastener.seal.lower().split():
        return ""
    if fastener.role == Role.FILL_PLUG:  # stays until its life in services is over
        renewal = seal_renewal(task.spec, len(task.done))
        return fastener.seal if renewal and renewal.due else ""
    topic = RING if "o-ring" in fastener.seal.lower() else WASHER
    if task.spec.facts.drained and fastener.role == Role.DRAIN_PLUG:
        fresh = schools.of(task.spec.kind, topic).choice == Practice.NEW_EACH_TIME
        return fastener.seal if fresh else ""
    return fastener.seal


def filter_name(label: str, model: str) -> str:
    """What a filter is called in drawer and shopping list: it fits one model's reservoir."""
    return f"filter for the {label}" + (f", {model}" if model else "")


def one_use_name(fastener: Fastener) -> str:
    """What a fastener that is used once is called in drawer and shopping list: what it is there for, and
    its thread."""
    return f"{fastener.role}, {fastener.thread}" if fastener.thread else fastener.role


def _new(task: PlannedTask, fastener: Fastener, schools: Schools) -> Iterator[str]:
    """What goes on new with a fastener: its seal, and itself where it is used once."""
    if seal := _seal(task, fastener, schools):
        yield seal
    if fastener.one_use:
        yield one_use_name(fastener)


def things(tasks: Iterable[PlannedTask], schools: Schools, model: str = "") -> Things:
    """Seals, filters, tools, consumables and torque settings for these tasks on a ``model``."""
    seals: Counter[str] = Counter()
    filters: Counter[str] = Counter()
    tools: dict[str, None] = {}
    used: dict[str, None] = dict.fromkeys(_ALWAYS)
    torqued = []
    for task in tasks:
        for fastener in _opened(task):
            for new in _new(task, fastener, schools):
                seals[new] += fastener.count
            if fastener.drive and fastener.drive != "by hand":
                tools[fastener.drive] = None
            if fastener.torque and fastener.torque.by_wrench:
                torqued.append((task.spec.label, fastener))
            if fastener.role in FILTERS:
                filters[filter_name(task.spec.label, model)] += 1
        if task.spec.facts.drained:
            plug = task.spec.fastener(Role.DRAIN_PLUG)
            if sealant := sealant_of(plug.sealant if plug else "", task.spec.kind, schools):
                used[sealant] = None
            if plug and plug.safety_wire:
                used["safety wire"] = None
    parts = (*sorted(seals.items()), *filters.items())
    return Things(parts=parts, tools=tuple(tools), consumables=tuple(used), torqued=tuple(torqued))


def short(parts: Mapping[str, int], drawer: Mapping[str, int]) -> dict[str, int]:
    """Which seals and filters the drawer has too few of, and how many are missing."""
    missing = {name: count - drawer.get(name, 0) for name, count in sorted(parts.items())}
    return {name: count for name, count in missing.items() if count > 0}
