"""What is renewed along with a service, not on its own: filters every n-th change, seals after so
many uses."""

from collections.abc import Sequence
from dataclasses import dataclass

from .codes.roles import Role
from .codes.schools import Practice
from .guard import Sound
from .said import due as say
from .schools import FILTER, Schools
from .spec import ReservoirSpec, Variant


@dataclass(frozen=True)
class Renewal(Sound):
    """A part that goes on new with every ``every``-th service; it has had ``had`` since the last."""

    part: str
    every: int
    had: int

    @property
    def due(self) -> bool:
        """Whether it goes on new with the next service."""
        return self.had + 1 >= self.every

    def __str__(self) -> str:
        """``oil filter: new with the next service`` or ``O-ring 28 mm: 1 of 3 services so far``."""
        if self.due:
            return say.new_next_time(self.part)
        return say.so_far(self.part, self.had, self.every)


def filter_renewal(spec: ReservoirSpec, schools: Schools, done: Sequence[str]) -> Renewal | None:
    """The filter, by the workshop's school or the sheet's own n-th; ``done`` are the variants of
    the services so far, oldest first. None where the reservoir has no filter to change."""
    if Variant.WITH_FILTER not in spec.capacities and spec.fastener(Role.FILTER) is None:
        return None
    school = schools.of(spec.kind, FILTER).choice
    every = 1
    if school == Practice.EVERY_THIRD:
        every = 3
    elif school == Practice.AS_THE_SHEET:
        every = spec.filter_every or 1
    return Renewal("oil filter", every, since_filter(done))


def since_filter(done: Sequence[str]) -> int:
    """How many services, oldest first, went without a filter since the last one with."""
    count = 0
    for variant in done:
        count = 0 if variant == Variant.WITH_FILTER else count + 1
    return count


def seal_renewal(spec: ReservoirSpec, done: int) -> Renewal | None:
    """The filler's seal, where the sheet gives its life in services; ``done`` counts all services
    on record."""
    plug = spec.fastener(Role.FILL_PLUG)
    if plug is None or not plug.seal or not spec.seal_life:
        return None
    return Renewal(say.of_the_filler(plug.seal), spec.seal_life, done % spec.seal_life)


def renewals(spec: ReservoirSpec, schools: Schools, done: Sequence[str]) -> tuple[Renewal, ...]:
    """Everything that is renewed along with services of this reservoir."""
    found = (filter_renewal(spec, schools, done), seal_renewal(spec, len(done)))
    return tuple(one for one in found if one)


def goes_on_new(
    spec: ReservoirSpec, schools: Schools, done: Sequence[str], variant: Variant
) -> tuple[str, ...]:
    """The parts that are renewed along with a service in this variant."""
    unit, seal = filter_renewal(spec, schools, done), seal_renewal(spec, len(done))
    parts = [unit.part] if unit and variant != Variant.DRAIN_ONLY else []
    return (*parts, seal.part) if seal and seal.due else tuple(parts)


def variants(spec: ReservoirSpec, schools: Schools, done: Sequence[str]) -> tuple[Variant, ...]:
    """What a job here can be, the proposed one first: with the filter when that is due."""
    known = [
        v for v in (Variant.WITH_FILTER, Variant.DRAIN_ONLY, Variant.DRY) if v in spec.capacities
    ]
    unit = filter_renewal(spec, schools, done)
    if Variant.DRAIN_ONLY in known and not (unit and unit.due):
        known.sort(key=lambda v: v != Variant.DRAIN_ONLY)
    return tuple(known) or (Variant.DRAIN_ONLY,)
