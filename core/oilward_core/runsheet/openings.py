"""What a job opens: every plug, filter and cover once, and the step at which a wrench closes it."""

from collections.abc import Iterator
from dataclasses import dataclass, replace

from ..codes.roles import LEG_HELD_BY, PINCHED_LAST, WHEEL_HELD_BY, Role
from ..codes.steps import Name
from ..errors import CoreError
from ..spec import Fastener, FillRule, Recipe, ReservoirSpec, Variant
from ..torque import read_thread
from .ids import StepId

LEVEL_PLUG = "level plug"  # a gauge that is a plug
_SMALL = 10  # mm: what a filter of so thin a thread stands behind is a cover's screw [trade]


@dataclass(frozen=True, kw_only=True)
class Opening:
    """A ``fastener`` that is taken out, what is pulled to shut it again (``closes``: itself, or the
    screws of its cover), what it is called by facts and leaks (``part``), and its wrench ``card``."""

    fastener: Fastener
    closes: Fastener
    part: str
    card: StepId

    @property
    def role(self) -> str:
        """What it is there for."""
        return self.fastener.role

    @property
    def by_wrench(self) -> bool:
        """Whether its sheet names a torque for it."""
        return self.closes.torque is not None and self.closes.torque.by_wrench

    @property
    def covered(self) -> bool:
        """Whether what is pulled is a cover."""
        return self.closes.role == Role.COVER_SCREW or self.closes.ring

    def step(self, name: Name) -> StepId:
        """A step about it, of that name."""
        return StepId(self.card.reservoir, name, self.card.part)


def seal_at(opened: Opening) -> str:
    """The seal of what is opened, by name: its own, or that of its cover; a filter brings its own."""
    name = opened.closes.seal or opened.fastener.seal
    return "" if "own" in name.lower().split() else name


def part_of(fastener: Fastener, number: int) -> str:
    """What the ``number``-th (from 1) of its role is called: the first by the role, others by their
    key."""
    if number == 1:
        return fastener.role
    key = fastener.key
    return f"{fastener.role} {key or number}" if not key or key.isdigit() else key


def is_ring(fastener: Fastener) -> bool:
    """Whether its seal is an O-ring, as its sheet says or calls it."""
    return fastener.seal_kind == "O-ring" or (
        not fastener.seal_kind and "o-ring" in fastener.seal.lower()
    )


def _thin(fastener: Fastener) -> bool:
    try:
        return read_thread(fastener.thread).diameter <= _SMALL
    except CoreError:
        return False


def is_element(unit: Fastener, spec: ReservoirSpec) -> bool:
    """Whether a filter is an element behind a cover, not one that is spun on: as its sheet says, or
    because it has screws, a way round, or a thread that only screws have (common practice, no source)."""
    if unit.element is not None:
        return unit.element
    has_cover = spec.facts.runs_engine and spec.fastener(Role.COVER_SCREW) is not None
    return unit.count > 1 or bool(unit.direction) or has_cover or _thin(unit)


def _of_role(spec: ReservoirSpec, role: str) -> Iterator[tuple[str, Fastener]]:
    for number, one in enumerate((one for one in spec.fasteners if one.role == role), 1):
        yield part_of(one, number), one


def _itself(spec: ReservoirSpec, part: str, plug: Fastener, name: Name) -> Opening:
    """A plug that is pulled itself; the first of its role needs no other name."""
    card = StepId(spec.key, name, "" if part == plug.role else part)
    return Opening(fastener=plug, closes=plug, part=part, card=card)


def _filters(spec: ReservoirSpec, variant: Variant) -> Iterator[tuple[str, Fastener]]:
    """Filters where they are changed; a screen along with them, or wherever there is nothing else."""
    changed = variant in (Variant.WITH_FILTER, Variant.DRY)
    own = spec.facts.recipe == Recipe.CIRCUIT
    if changed or own:
        yield from _of_role(spec, Role.FILTER)
        yield from _of_role(spec, Role.SECOND_FILTER)
    if changed or own or spec.fastener(Role.FILTER) is None:
        yield from _of_role(spec, Role.SCREEN)


def _filtered(spec: ReservoirSpec, variant: Variant) -> tuple[list[Opening], list[Fastener]]:
    """Filters and screens, each with the cover it stands behind, and the covers that are left."""
    covers = [one for one in spec.fasteners if one.role == Role.COVER_SCREW]
    found: list[Opening] = []
    for n, (part, unit) in enumerate(_filters(spec, variant)):
        behind = not unit.ring and unit.role != Role.SCREEN and is_element(unit, spec)
        closes = covers.pop(0) if behind and covers else unit
        # whatever it is, the first of a case is its filter
        called = Role.FILTER.value if n == 0 and unit.role != Role.SCREEN else part
        own = "" if called == Role.FILTER else called
        card = StepId(spec.key, Name.TORQUE_FILTER, own)
        found.append(Opening(fastener=unit, closes=closes, part=called, card=card))
    return found, covers


_HELD_BY = (
    (Name.TORQUE_LEG, LEG_HELD_BY),
    (Name.TORQUE_WHEEL, (*WHEEL_HELD_BY, *PINCHED_LAST)),
)


def _of_leg(spec: ReservoirSpec) -> Iterator[Opening]:
    """What holds a fork leg and the wheel in it, in the order in which it is torqued. Two people stand
    for each of them, whatever the sheet says."""
    for name, roles in _HELD_BY:
        for role in roles:
            for part, plug in _of_role(spec, role):
                held = replace(plug, critical=True)
                card = StepId(spec.key, name, part)
                yield Opening(fastener=held, closes=held, part=part, card=card)


def openings(spec: ReservoirSpec, variant: Variant) -> tuple[Opening, ...]:
    """Every fastener that a job opens, in the order it is opened: filler, drain plugs, filters and
    screens, a level plug, the cover of a case that is filled through it; of a fork leg in the order in
    which it is torqued."""
    found: list[Opening] = []
    if spec.facts.recipe == Recipe.FORK:
        return tuple(_of_leg(spec))
    if spec.facts.recipe == Recipe.CIRCUIT:
        return tuple(_filtered(spec, variant)[0][:1])
    if not spec.facts.drained:
        return ()
    filler = spec.fastener(Role.FILL_PLUG)
    if filler is not None:
        found.append(_itself(spec, Role.FILL_PLUG, filler, Name.TORQUE_FILLER))
    for part, plug in _of_role(spec, Role.DRAIN_PLUG):
        found.append(_itself(spec, part, plug, Name.TORQUE))
    filters, covers = _filtered(spec, variant)
    found += filters
    level = spec.fastener(Role.LEVEL_PLUG)
    read = spec.level is not None and spec.level.edge and spec.level.gauge == LEVEL_PLUG
    if level is not None and read and spec.fill_rule == FillRule.LEVEL:
        found.append(_itself(spec, Role.LEVEL_PLUG, level, Name.TORQUE_LEVEL))
    if spec.facts.clutch:
        for number, cover in enumerate(covers, 1):
            part = part_of(cover, number)
            card = StepId(spec.key, Name.TORQUE_COVER, part)
            found.append(Opening(fastener=cover, closes=cover, part=part, card=card))
    return tuple(found)
