"""Which values a job cannot do without."""

from ..codes.roles import Role
from .form import Path
from .kinds import FillRule
from .sheet import ReservoirSpec, Variant


def needed(spec: ReservoirSpec, variant: Variant) -> tuple[Path, ...]:
    """The values that are missing and that a run sheet for this variant has to ask for."""
    wanted: list[tuple[str, str, bool]] = [
        ("", f"capacity.{variant.value}", variant in spec.capacities)
    ]
    if spec.fill_rule == FillRule.LEVEL:
        known = spec.level is not None
        wanted += [("", "level.gauge", known)]
        wanted += [("", "level.attitude", bool(spec.level and spec.level.attitude))]
    roles = [Role.DRAIN_PLUG] + ([Role.FILTER] if variant != Variant.DRAIN_ONLY else [])
    for role in roles:
        found = spec.fastener(role)
        if found is not None:
            wanted.append((found.key or role, "torque", found.torque is not None))
    return tuple(Path(spec.key, part, field) for part, field, known in wanted if not known)


def missing(spec: ReservoirSpec) -> tuple[Path, ...]:
    """Every value some job on this reservoir would have to ask for."""
    if not spec.facts.drained:
        return ()
    variants = [v for v in Variant if v in spec.capacities] or [Variant.DRAIN_ONLY]
    return tuple(dict.fromkeys(path for v in variants for path in needed(spec, v)))
