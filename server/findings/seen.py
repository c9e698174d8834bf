"""What a plug showed, and what was known of its reservoir then: between a finding's rows and the core."""

from dataclasses import fields
from decimal import Decimal
from typing import Any

from oilward_core.debris import Form, Matter, Observation, OilLook, Part, Place
from oilward_core.spec import ReservoirKind

from .models import Debris, Finding


def part(row: Debris) -> Part:
    return Part(
        form=Form(row.form),
        matter=Matter(row.matter),
        share=row.share,
        largest_mm=row.largest_mm,
        count=row.count,
        magnetic=row.magnetic,
        place=Place(row.place),
        pile_mm=row.pile_mm,
    )


def parts(row: Finding) -> tuple[Part, ...]:
    """What was seen, in the order it was written down."""
    return tuple(part(one) for one in row.debris.all())


def debris(row: Finding, seen: Part) -> Debris:
    return Debris(
        finding=row,
        place=seen.place,
        form=seen.form,
        matter=seen.matter,
        share=seen.share,
        largest_mm=seen.largest_mm,
        count=seen.count,
        magnetic=seen.magnetic,
        pile_mm=seen.pile_mm,
    )


# what an observation knows and a finding keeps by the same name; what was not kept then is not known
_FLAGS = {
    one.name: one.default
    for one in fields(Observation)
    if one.name not in ("reservoir", "parts", "oil", "km_since_wiped", "first_service")
}


def known(seen: Observation) -> dict[str, Any]:
    """What was known of the reservoir when its plug was read, by column."""
    return {name: getattr(seen, name) for name in _FLAGS}


def _known_then(row: Finding) -> dict[str, Any]:
    kept = {name: getattr(row, name) for name in _FLAGS}
    return {name: _FLAGS[name] if value is None else value for name, value in kept.items()}


def seen(row: Finding, kind: ReservoirKind, km_since_wiped: Decimal, first: bool) -> Observation:
    """What was seen, with what was known of its reservoir then, for judging it on another distance."""
    return Observation(
        reservoir=kind,
        parts=parts(row),
        oil=frozenset(OilLook(look) for look in row.oil),
        km_since_wiped=km_since_wiped,
        first_service=first,
        **_known_then(row),
    )
