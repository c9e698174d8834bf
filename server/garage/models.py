"""Bikes, their models and the versioned spec sheets their numbers come from."""

import uuid

from django.conf import settings
from django.db import models
from django.utils import timezone
from workshop.models import Fact

person = settings.AUTH_USER_MODEL


class BikeModel(models.Model):
    """``gone_by``: who took it out of the lists. Its approved sheets stay."""

    make = models.CharField(max_length=60)
    name = models.CharField(max_length=60)
    year = models.PositiveSmallIntegerField()
    layout = models.CharField(max_length=40)
    displacement_cc = models.PositiveIntegerField()
    gone_by = models.CharField(max_length=80, blank=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["make", "name", "year"], name="one_model_a_year")
        ]


class SpecSheet(models.Model):
    """One version of a model's numbers. Approved versions never change: a change is a new one.
    ``unchecked`` are the numbers that matter and were approved by name, unchecked."""

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
    unchecked = models.JSONField(default=list)

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["model"], condition=models.Q(state="draft"), name="one_draft_a_model"
            ),
            models.UniqueConstraint(fields=["model", "version"], name="one_sheet_a_version"),
            models.CheckConstraint(
                condition=models.Q(state="draft")
                | models.Q(approved_by__isnull=False, approved_at__isnull=False),
                name="approved_by_somebody",
            ),
        ]


class CellRow(models.Model):
    """A value as the manual gives it, where it stands there, who wrote it and who checked it: what they
    were called then, and as which persons (``…_who``; nobody where nobody knows which).

    ``low``/``high`` are canonical (ml, N·m, km, mm, min, cSt) for numbers, equal for a single one.
    ``revision`` counts its changes: a write has to name the one it saw.
    """

    reservoir = models.CharField(max_length=40)
    part = models.CharField(max_length=40, blank=True)
    field = models.CharField(max_length=40)
    written = models.CharField(max_length=400)
    low = models.DecimalField(max_digits=18, decimal_places=6, null=True)
    high = models.DecimalField(max_digits=18, decimal_places=6, null=True)
    document = models.CharField(max_length=120, blank=True)
    page = models.CharField(max_length=20, blank=True)
    entered_by = models.CharField(max_length=80)
    entered_on = models.DateField()
    checked_by = models.CharField(max_length=80, blank=True)
    checked_on = models.DateField(null=True)
    entered_who = models.ForeignKey(person, models.PROTECT, related_name="+", null=True)
    checked_who = models.ForeignKey(person, models.PROTECT, related_name="+", null=True)
    revision = models.PositiveIntegerField(default=1)

    class Meta:
        abstract = True
        ordering = ["id"]


class SheetCell(CellRow):
    """A value of a spec sheet's version."""

    sheet = models.ForeignKey(SpecSheet, models.CASCADE, related_name="cells")

    class Meta(CellRow.Meta):
        constraints = [
            models.UniqueConstraint(
                fields=["sheet", "reservoir", "part", "field"], name="one_cell_a_path"
            ),
            models.CheckConstraint(
                condition=models.Q(low__lte=models.F("high")), name="cell_low_high"
            ),
        ]


class AnsweredDoubt(models.Model):
    """Somebody looked at a doubt again and says the manual really says so."""

    sheet = models.ForeignKey(SpecSheet, models.CASCADE, related_name="answers")
    rule = models.CharField(max_length=40)
    reservoir = models.CharField(max_length=40)
    text = models.CharField(max_length=400)
    reason = models.CharField(max_length=200)
    answered_by = models.CharField(max_length=80)
    answered_on = models.DateField()

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["sheet", "rule", "reservoir", "text"], name="one_answer_a_doubt"
            )
        ]


class Bike(models.Model):
    """``version`` counts its changes: a write has to name the one it saw. ``offset_km`` is what
    earlier odometers had run before the one fitted now. An engine that was swapped had run
    ``engine_had_km`` when it was fitted at ``engine_at_km`` of the bike's life."""

    class Records(models.TextChoices):
        FROM_NEW = "from new"
        SOME = "some"
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
    offset_km = models.DecimalField(max_digits=12, decimal_places=3, default=0)
    counts_hours = models.BooleanField(default=False)
    notes = models.TextField(blank=True)
    plate = models.CharField(max_length=20, blank=True)
    frame_number = models.CharField(max_length=40, blank=True)
    year_built = models.PositiveSmallIntegerField(null=True)
    engine_number = models.CharField(max_length=40, blank=True)
    engine_at_km = models.DecimalField(max_digits=12, decimal_places=3, null=True)
    engine_had_km = models.DecimalField(max_digits=12, decimal_places=3, null=True)
    changed_by = models.CharField(max_length=80, blank=True)

    class Meta:
        ordering = ["name", "id"]


class OwnCell(CellRow):
    """A value that differs on one bike from its model's sheet."""

    bike = models.ForeignKey(Bike, models.PROTECT, related_name="own_cells")

    class Meta(CellRow.Meta):
        constraints = [
            models.UniqueConstraint(
                fields=["bike", "reservoir", "part", "field"], name="one_own_cell_a_path"
            )
        ]


class OwnSchool(models.Model):
    """A practice chosen for one bike, before the workshop's."""

    bike = models.ForeignKey(Bike, models.PROTECT, related_name="own_schools")
    kind = models.CharField(max_length=20)
    topic = models.CharField(max_length=12)
    choice = models.CharField(max_length=40)
    chosen_by = models.CharField(max_length=80)
    chosen_on = models.DateField()

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["bike", "kind", "topic"], name="one_own_school")
        ]


class BikePhoto(models.Model):
    """A picture of a bike, cleaned of what a camera writes into it."""

    id = models.UUIDField(primary_key=True)
    bike = models.ForeignKey(Bike, models.PROTECT, related_name="photos")
    jpeg = models.BinaryField()
    caption = models.CharField(max_length=120, blank=True)
    taken_on = models.DateField()
    taken_by = models.CharField(max_length=80)

    class Meta:
        ordering = ["taken_on", "id"]


class OdometerReading(Fact):
    """``km`` is the whole life of the bike, ``offset_km`` what earlier odometers had run of it (None:
    nobody knows); hours only for bikes that have an hour meter; ``replaced``: a new odometer was fitted
    at this reading. One with ``corrects`` supersedes that reading, for a ``reason``; of several the
    latest stands."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4)
    bike = models.ForeignKey(Bike, models.PROTECT, related_name="odometer")
    km = models.DecimalField(max_digits=12, decimal_places=3)
    hours = models.DecimalField(max_digits=9, decimal_places=1, null=True)
    as_written = models.CharField(max_length=40)
    replaced = models.BooleanField(default=False)
    read_on = models.DateField()
    read_by = models.ForeignKey(person, models.PROTECT, related_name="+")
    offset_km = models.DecimalField(max_digits=12, decimal_places=3, null=True, default=0)
    corrects = models.ForeignKey("self", models.PROTECT, related_name="corrections", null=True)
    reason = models.CharField(max_length=200, blank=True)
    written_at = models.DateTimeField(default=timezone.now)

    class Meta:
        ordering = ["read_on", "km"]
        constraints = [
            models.CheckConstraint(condition=models.Q(km__gte=0), name="odometer_from_zero")
        ]
