"""Every write to the shelf. Each is safe to repeat; a change names the version it saw."""

from decimal import Decimal
from typing import Any

from config.problems import Conflict
from django.db import transaction
from django.http import Http404
from oilward_core.errors import CoreError, at
from oilward_core.fluid import TwoPoint, check_family, read_density
from oilward_core.quantity import Kind, parse_single, read_number
from workshop.models import Person
from workshop.repeated import stands, unchanged
from workshop.traces import stood, trace

from .models import Fluid
from .shapes import FluidForm

# most that fits the column, and the field's name in words
_NUMBERS = {
    "hths": 100,
    "cranking": 10_000_000,
    "pumping": 10_000_000,
    "dfi": 10,
    "sfi": 10,
    "sti": 10,
}
LEAST_INDEX = Decimal("0.001")
_WORDS = ("grade", "friction_class", "service", "base", "approvals")
FRICTION = ("", "MA", "MA1", "MA2", "MB")


def _said(form: FluidForm, name: str) -> str:
    return str(getattr(form, name)).strip()


def _number(form: FluidForm, name: str, most: int) -> Decimal | None:
    with at(name):
        said = _said(form, name)
        return read_number(said, LEAST_INDEX, Decimal(most)) if said else None


def _measure(form: FluidForm, name: str, kind: Kind, unit: str) -> Decimal | None:
    with at(name):
        said = _said(form, name)
        return parse_single(said, kind, unit).low if said else None


def _density(form: FluidForm) -> Decimal | None:
    with at("density15"):
        return read_density(form.density15) if form.density15.strip() else None


def _read(form: FluidForm) -> dict[str, Any]:
    """The form as columns; a fault names its field."""
    if not form.name.strip():
        raise CoreError("garage.name_it", field="name")
    check_family(form.family)
    if form.friction_class not in FRICTION:
        raise CoreError("sheet.choose", field="friction_class", options=list(FRICTION[1:]))
    bottle = _measure(form, "bottle", Kind.VOLUME, "ml")
    if bottle is None or bottle <= 0:
        raise CoreError("quantity.empty", field="bottle")
    kv40 = _measure(form, "kv40", Kind.VISCOSITY, "cSt")
    kv100 = _measure(form, "kv100", Kind.VISCOSITY, "cSt")
    if kv40 is not None and kv100 is not None:
        with at("kv100"):
            TwoPoint(t1=40, v1=float(kv40), t2=100, v2=float(kv100))
    return {
        "name": form.name.strip(),
        "family": form.family,
        "bottle_ml": bottle,
        "kv40": kv40,
        "kv100": kv100,
        "density15": _density(form),
        "pour_point": _measure(form, "pour_point", Kind.TEMPERATURE, "°C"),
        "retired": form.retired,
        **{word: str(getattr(form, word)).strip() for word in _WORDS},
        **{name: _number(form, name, most) for name, most in _NUMBERS.items()},
    }


@transaction.atomic
def save_fluid(form: FluidForm, *, actor: Person) -> Fluid:
    """A new fluid, or a change of one. Raises Conflict ``shelf.name_taken``, ``garage.edited``."""
    columns = _read(form)
    same_name = Fluid.objects.filter(name=columns["name"]).exclude(pk=form.id).first()
    if same_name is not None:
        if not form.id and stands(same_name, columns):
            return same_name
        raise Conflict("shelf.name_taken", name=columns["name"])
    if not form.id:
        return Fluid.objects.create(**columns, changed_by=actor.name)
    fluid = Fluid.objects.select_for_update().filter(pk=form.id).first()
    if fluid is None:
        raise Http404
    if stands(fluid, columns):
        return fluid
    unchanged(fluid, form.version, by=fluid.changed_by or "Somebody")
    trace("fluid changed", fluid.name, actor=actor, was=stood(fluid))
    for name, value in columns.items():
        setattr(fluid, name, value)
    fluid.version, fluid.changed_by = fluid.version + 1, actor.name
    fluid.save()
    return fluid
