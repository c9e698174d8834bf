"""Every write to the shelf. Each is safe to repeat; a change names the version it saw."""

from datetime import date
from decimal import Decimal
from typing import Any
from uuid import uuid5

from config.problems import Conflict
from django.db import transaction
from django.http import Http404
from oilward_core.errors import CoreError, at
from oilward_core.fluid import TwoPoint, check_family, read_density
from oilward_core.quantity import Kind, parse_single, read_count, read_number
from workshop.access import as_id
from workshop.models import Person

from .models import BottleRow, Fluid, SealRow
from .shapes import Arrival, BottleForm, FluidForm, SealForm

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
            TwoPoint(40, float(kv40), 100, float(kv100))
    return {
        "name": form.name.strip()[:80],
        "family": form.family,
        "bottle_ml": bottle,
        "kv40": kv40,
        "kv100": kv100,
        "density15": _density(form),
        "pour_point": _measure(form, "pour_point", Kind.TEMPERATURE, "°C"),
        "retired": form.retired,
        **{word: str(getattr(form, word)).strip()[:120] for word in _WORDS},
        **{name: _number(form, name, most) for name, most in _NUMBERS.items()},
    }


@transaction.atomic
def save_fluid(form: FluidForm, *, actor: Person) -> Fluid:
    """A new fluid, or a change of one. Raises Conflict ``shelf.name_taken``, ``garage.edited``."""
    columns = _read(form)
    same_name = Fluid.objects.filter(name=columns["name"]).exclude(pk=form.id).first()
    if same_name is not None:
        if not form.id and all(getattr(same_name, k) == v for k, v in columns.items()):
            return same_name
        raise Conflict("shelf.name_taken", name=columns["name"])
    if not form.id:
        return Fluid.objects.create(**columns, changed_by=actor.name)
    fluid = Fluid.objects.select_for_update().filter(pk=form.id).first()
    if fluid is None:
        raise Http404
    if all(getattr(fluid, name) == value for name, value in columns.items()):
        return fluid
    if fluid.version != form.version:
        raise Conflict("garage.edited", by=fluid.changed_by or "Somebody")
    for name, value in columns.items():
        setattr(fluid, name, value)
    fluid.version, fluid.changed_by = fluid.version + 1, actor.name
    fluid.save()
    return fluid


def _day(text: str, today: date) -> date | None:
    if not text.strip():
        return None
    try:
        day = date.fromisoformat(text.strip())
    except ValueError as error:
        raise CoreError("garage.date", field="opened_on") from error
    if day > today:
        raise CoreError("garage.date", field="opened_on")
    return day


def _volume(text: str, field: str) -> Decimal:
    with at(field):
        return parse_single(text, Kind.VOLUME, "ml").low


@transaction.atomic
def save_bottle(form: BottleForm, *, actor: Person, today: date) -> None:
    """A bottle on the shelf, or what is left in one. Raises Conflict ``garage.edited``."""
    row = BottleRow.objects.select_for_update().filter(pk=as_id(form.id)).first()
    if form.gone:
        if row:
            row.delete()
        return
    size = _volume(form.size, "size")
    left = _volume(form.left, "left") if form.left.strip() else size
    if left > size:
        raise CoreError("shelf.bottle", field="left")
    opened = _day(form.opened_on, today) or (today if left < size else None)
    columns = {"size_ml": size, "left_ml": left, "opened_on": opened}
    if row is None:
        if not Fluid.objects.filter(pk=form.fluid).exists():
            raise Http404
        BottleRow.objects.create(
            pk=as_id(form.id), fluid_id=form.fluid, changed_by=actor.name, **columns
        )
        return
    if all(getattr(row, name) == value for name, value in columns.items()):
        return
    if row.version != form.version:
        raise Conflict("garage.edited", by=row.changed_by or "Somebody")
    BottleRow.objects.filter(pk=row.pk).update(
        **columns, version=row.version + 1, changed_by=actor.name
    )


_MOST_BOTTLES, _MOST_ML = 50, 100_000


@transaction.atomic
def put_away(came: Arrival, *, actor: Person) -> None:
    """Put what has come from the counter on the shelf or into the drawer. Safe to repeat: bottles
    are known by ids made from the arrival's, a count by what it replaces. Raises Conflict
    ``shelf.counted``."""
    if not came.bottles:
        count = f"{(came.seen or 0) + came.count}"
        save_seals(SealForm(came.what, count, came.seen), actor=actor)
        return
    if any(not (0 < b.ml < _MOST_ML and 0 < b.count <= _MOST_BOTTLES) for b in came.bottles):
        raise CoreError("shelf.count", field="bottles")
    fluid = Fluid.objects.filter(name=came.what).first()
    if fluid is None:
        raise Http404
    for size in came.bottles:
        for n in range(size.count):
            full = {"size_ml": size.ml, "left_ml": size.ml, "changed_by": actor.name}
            one = uuid5(as_id(came.id), f"{size.ml}/{n}")
            BottleRow.objects.get_or_create(pk=one, defaults={"fluid": fluid, **full})


@transaction.atomic
def save_seals(form: SealForm, *, actor: Person) -> None:
    """How many of a seal are in the drawer. Raises Conflict ``shelf.counted``."""
    name, said = form.name.strip()[:200], form.count.strip()
    if not name:
        raise CoreError("garage.name_it", field="name")
    with at("count"):
        count = read_count(said)
    row, made = SealRow.objects.select_for_update().get_or_create(
        name=name, defaults={"count": count}
    )
    if made or row.count == count:
        return
    if row.count != form.seen:
        raise Conflict("shelf.counted", name=name, count=row.count)
    row.count = count
    row.save(update_fields=["count"])
