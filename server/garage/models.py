"""Bikes, their models and the versioned spec sheets their numbers come from."""

import uuid

from django.conf import settings
from django.db import models
from oilward_core.spec import FillRule, ReservoirKind

person = settings.AUTH_USER_MODEL


def _choices(words: type[ReservoirKind] | type[FillRule]) -> list[tuple[str, str]]:
    return [(word.value, word.value) for word in words]


class BikeModel(models.Model):
    make = models.CharField(max_length=60)
    name = models.CharField(max_length=60)
    year = models.PositiveSmallIntegerField()
    layout = models.CharField(max_length=40)
    displacement_cc = models.PositiveIntegerField()

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["make", "name", "year"], name="one_model_a_year")
        ]


class SpecSheet(models.Model):
    """One version of a model's numbers. Approved versions never change: a change is a new one."""

    class State(models.TextChoices):
        DRAFT = "draft"
        APPROVED = "approved"

    model = models.ForeignKey(BikeModel, models.PROTECT, related_name="sheets")
    version = models.PositiveIntegerField()
    state = models.CharField(max_length=10, choices=State.choices, default=State.DRAFT)
    entered_by = models.ForeignKey(person, models.PROTECT, related_name="+")
    entered_at = models.DateTimeField(auto_now_add=True)
    approved_by = models.ForeignKey(person, models.PROTECT, related_name="+", null=True)
    approved_at = models.DateTimeField(null=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["model", "version"], name="one_sheet_a_version"),
            models.CheckConstraint(
                condition=models.Q(state="draft")
                | models.Q(approved_by__isnull=False, approved_at__isnull=False),
                name="approved_by_somebody",
            ),
        ]


class ReservoirRow(models.Model):
    """One reservoir of a spec sheet. Its numbers are `SpecValue` rows, its plugs `FastenerRow`."""

    sheet = models.ForeignKey(SpecSheet, models.CASCADE, related_name="reservoirs")
    key = models.CharField(max_length=40)
    kind = models.CharField(max_length=20, choices=_choices(ReservoirKind))
    label = models.CharField(max_length=60)
    order = models.PositiveSmallIntegerField()
    fill_rule = models.CharField(max_length=10, choices=_choices(FillRule))
    fluid = models.CharField(max_length=120, blank=True)
    gauge = models.CharField(max_length=40, blank=True)
    attitude = models.CharField(max_length=20, blank=True)

    class Meta:
        ordering = ["order"]
        constraints = [
            models.UniqueConstraint(fields=["sheet", "key"], name="one_reservoir_a_key"),
            models.CheckConstraint(
                condition=models.Q(kind__in=[kind.value for kind in ReservoirKind]),
                name="reservoir_kind",
            ),
        ]


class Sourced(models.Model):
    """What every number on a sheet carries: the manual's words, where they stand, who checked."""

    as_written = models.CharField(max_length=80)
    source_document = models.CharField(max_length=120)
    source_page = models.CharField(max_length=20, blank=True)
    entered_by = models.ForeignKey(person, models.PROTECT, related_name="+")
    checked_by = models.ForeignKey(person, models.PROTECT, related_name="+", null=True)

    class Meta:
        abstract = True


class SpecValue(Sourced):
    """A number of a reservoir: ``capacity.with filter``, ``level.settle``, ``repeat.km`` …

    ``low``/``high`` are canonical (ml, N·m, km, mm, min), equal for a single value.
    """

    reservoir = models.ForeignKey(ReservoirRow, models.CASCADE, related_name="values")
    name = models.CharField(max_length=40)
    low = models.DecimalField(max_digits=18, decimal_places=6)
    high = models.DecimalField(max_digits=18, decimal_places=6)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["reservoir", "name"], name="one_value_a_name"),
            models.CheckConstraint(condition=models.Q(low__lte=models.F("high")), name="low_high"),
        ]


class FastenerRow(Sourced):
    """A plug, filter or screw; ``as_written`` is its torque as the manual gives it."""

    reservoir = models.ForeignKey(ReservoirRow, models.CASCADE, related_name="fasteners")
    role = models.CharField(max_length=30)
    place = models.CharField(max_length=160)
    thread = models.CharField(max_length=20, blank=True)
    drive = models.CharField(max_length=40)
    magnet = models.BooleanField(default=False)
    soft = models.BooleanField(default=False)
    seal = models.CharField(max_length=80, blank=True)

    class Meta:
        ordering = ["id"]


class Bike(models.Model):
    class Records(models.TextChoices):
        FROM_NEW = "from new"
        NONE = "none"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4)
    model = models.ForeignKey(BikeModel, models.PROTECT, related_name="bikes")
    name = models.CharField(max_length=60)
    owner = models.CharField(max_length=80, blank=True)
    use_class = models.CharField(max_length=30)
    odometer_unit = models.CharField(max_length=2, choices=[("km", "km"), ("mi", "mi")])
    records = models.CharField(max_length=10, choices=Records.choices)
    new_on = models.DateField(null=True)
    severity = models.DecimalField(max_digits=3, decimal_places=2, default=1)
    version = models.PositiveIntegerField(default=1)
    archived = models.BooleanField(default=False)

    class Meta:
        ordering = ["name", "id"]


class OdometerReading(models.Model):
    """Append-only. Hours only for bikes that have an hour meter."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4)
    bike = models.ForeignKey(Bike, models.PROTECT, related_name="odometer")
    km = models.DecimalField(max_digits=12, decimal_places=3)
    hours = models.DecimalField(max_digits=9, decimal_places=1, null=True)
    as_written = models.CharField(max_length=40)
    read_on = models.DateField()
    read_by = models.ForeignKey(person, models.PROTECT, related_name="+")

    class Meta:
        ordering = ["read_on", "km"]
        constraints = [
            models.CheckConstraint(condition=models.Q(km__gte=0), name="odometer_from_zero")
        ]
