"""Torque wrenches of the workshop. A visit that was signed keeps those it was set with."""

from collections.abc import Mapping
from decimal import Decimal

from config.problems import Conflict
from django.db import transaction
from django.db.models import F
from django.http import Http404
from oilward_core.errors import CoreError, at
from oilward_core.people import TORQUES
from oilward_core.quantity import read_number
from workshop.days import day_typed, today
from workshop.models import Person
from workshop.repeated import stands, unchanged
from workshop.traces import stood, trace

from shelf.models import WrenchRow

from .shapes import WrenchForm

# least and most of each number, as the columns hold them
_LIMITS = {
    "low": ("0", "9999"),
    "high": ("0.1", "9999"),
    "resolution": ("0.01", "999"),
    "accuracy": ("0.1", "50"),
}


def _number(form: WrenchForm, name: str) -> Decimal:
    least, most = map(Decimal, _LIMITS[name])
    with at(name):
        return read_number(getattr(form, name), least, most)


def _columns(form: WrenchForm) -> dict[str, object]:
    """The form as columns; a fault names its field."""
    if not form.name.strip():
        raise CoreError("garage.name_it", field="name")
    if form.unit not in TORQUES:
        raise CoreError("people.unit", field="unit")
    low, high = _number(form, "low"), _number(form, "high")
    if low >= high:
        raise CoreError("wrench.ends", field="high")
    length = None
    if form.length.strip():
        with at("length"):
            length = read_number(form.length, Decimal(30), Decimal(3000))
    calibrated = None
    if form.calibrated.strip():
        calibrated = day_typed(form.calibrated, "calibrated", latest=today())
    return {
        "calibrated_on": calibrated,
        "name": form.name.strip(),
        "unit": form.unit,
        "low": low,
        "high": high,
        "resolution": _number(form, "resolution"),
        "accuracy": _number(form, "accuracy") / 100,
        "length_mm": length,
    }


@transaction.atomic
def save_wrench(form: WrenchForm, *, actor: Person) -> WrenchRow:
    """A new wrench, or a change of one. Raises Conflict ``shelf.name_taken``, ``garage.edited``."""
    columns = _columns(form)
    same = WrenchRow.objects.filter(name__iexact=str(columns["name"])).exclude(pk=form.id).first()
    if same is not None:
        if not form.id and stands(same, columns):
            return same
        raise Conflict("shelf.name_taken", name=columns["name"])
    if not form.id:
        return WrenchRow.objects.create(**columns)
    row = WrenchRow.objects.select_for_update().filter(pk=form.id).first()
    if row is None:
        raise Http404
    if stands(row, columns):
        return row
    unchanged(row, form.version, by="Somebody")
    trace("wrench changed", row.name, actor=actor, was=stood(row))
    pulls = row.pulls if row.calibrated_on == columns["calibrated_on"] else 0
    WrenchRow.objects.filter(pk=row.pk).update(**columns, pulls=pulls, version=row.version + 1)
    row.refresh_from_db()
    return row


def count_pulls(pulls: Mapping[str, int]) -> None:
    """So many more pulls of these wrenches, by their ids."""
    for wrench, more in sorted(pulls.items()):
        if wrench.isdecimal():
            WrenchRow.objects.filter(pk=int(wrench)).update(pulls=F("pulls") + more)
