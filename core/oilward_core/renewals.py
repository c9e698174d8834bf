"""What is renewed along with a service, not on its own: filters every n-th change, seals after so
many uses."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from .codes.options import Seal
from .codes.roles import Role
from .codes.schools import Practice
from .guard import Sound
from .runsheet.openings import openings
from .said import due as say
from .schools import FILTER, Schools
from .spec import Fastener, ReservoirSpec, Variant


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


# seals that stay until their life in services is over; a drain plug's is the school's
LASTING = (Role.FILL_PLUG, Role.LEVEL_PLUG, Role.COVER_SCREW)
Seals = Sequence[Mapping[str, str]]


def _had(part: str, done: int, every: int, seals: Seals) -> int:
    """How many services a seal has had: since the last that put a new one on, as far as that was written
    down; else counted from all of them."""
    newest_first = enumerate(reversed(seals))
    since = next((n for n, service in newest_first if service.get(part) == Seal.NEW), None)
    return done % every if since is None else since


def _called(plug: Fastener, spec: ReservoirSpec) -> str:
    """What a service on record calls it: as the card that shuts it does; else its role or, a cover, its
    key."""
    own = plug.key if plug.role == Role.COVER_SCREW else ""
    opened = openings(spec, Variant.WITH_FILTER)
    cards = (one.card.fastener for one in opened if one.closes is plug)
    return next(cards, own or plug.role)


def seal_renewals(spec: ReservoirSpec, done: int, seals: Seals = ()) -> tuple[Renewal, ...]:
    """The seals of filler, level plug and covers, where the sheet gives their life in services; ``done``
    counts all services on record, ``seals`` says of the last of them, oldest first, what went on where,
    by what the fastener is called."""
    if not spec.seal_life:
        return ()
    found = []
    for plug in spec.fasteners:
        if plug.role in LASTING and plug.seal:
            had = _had(_called(plug, spec), done, spec.seal_life, seals)
            found.append(Renewal(say.seal_of(plug.seal, plug.role), spec.seal_life, had))
    return tuple(found)


def renewals(
    spec: ReservoirSpec, schools: Schools, done: Sequence[str], seals: Seals = ()
) -> tuple[Renewal, ...]:
    """Everything that is renewed along with services of this reservoir."""
    unit = filter_renewal(spec, schools, done)
    return (*([unit] if unit else []), *seal_renewals(spec, len(done), seals))


def goes_on_new(
    spec: ReservoirSpec,
    schools: Schools,
    done: Sequence[str],
    variant: Variant,
    seals: Seals = (),
) -> tuple[str, ...]:
    """The parts that are renewed along with a service in this variant."""
    unit = filter_renewal(spec, schools, done)
    parts = [unit.part] if unit and variant != Variant.DRAIN_ONLY else []
    due = [one.part for one in seal_renewals(spec, len(done), seals) if one.due]
    return (*parts, *due)


def variants(spec: ReservoirSpec, schools: Schools, done: Sequence[str]) -> tuple[Variant, ...]:
    """What a job here can be, the proposed one first: with the filter when that is due."""
    known = [
        v for v in (Variant.WITH_FILTER, Variant.DRAIN_ONLY, Variant.DRY) if v in spec.capacities
    ]
    unit = filter_renewal(spec, schools, done)
    if Variant.DRAIN_ONLY in known and not (unit and unit.due):
        known.sort(key=lambda v: v != Variant.DRAIN_ONLY)
    return tuple(known) or (Variant.DRAIN_ONLY,)
