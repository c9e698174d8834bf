"""What is due, kept up to date: written when something about a bike changes and when a day passes,
never worked out for the whole fleet on a request."""

from uuid import uuid4

from django.conf import settings
from django.db import models
from django.db.models import Q
from django.utils import timezone
from garage.models import Bike, OdometerReading
from workshop.models import Fact


class WardRow(models.Model):
    """A bike as the ward shows it, and what of it runs with the calendar alone (``clocks``, by
    reservoir): what is read on a later day is said from those. Its most urgent reservoir's share of life
    is ``starts − falls · day``, the day counted as `date.toordinal`; ``first_due`` when it is expected;
    ``asking``: a finding asks for something; ``tally`` what it adds to the fleet's counts. It is worked
    out anew on the day ``changes_on`` (none: not by the calendar alone), and when the workshop's
    ``generation`` has passed; ``made`` is another one each time."""

    bike = models.OneToOneField(Bike, models.CASCADE, primary_key=True, related_name="ward_row")
    name = models.CharField(max_length=60)
    searched = models.TextField()
    use_class = models.CharField(max_length=30)
    starts = models.FloatField(default=0)
    falls = models.FloatField(default=0)
    first_due = models.DateField(null=True)
    in_shop = models.BooleanField(default=False)
    on_hold = models.BooleanField(default=False)
    asking = models.BooleanField(default=False)
    changes_on = models.DateField(null=True)
    generation = models.PositiveIntegerField(default=0)
    made = models.UUIDField(default=uuid4)
    shape = models.JSONField()
    clocks = models.JSONField(default=dict)
    tally = models.JSONField()

    class Meta:
        indexes = [
            models.Index(fields=["first_due"], name="ward_by_due"),
            models.Index(fields=["changes_on"], name="ward_by_change"),
            models.Index(fields=["generation"], name="ward_by_generation"),
            models.Index(fields=["name"], condition=Q(asking=True), name="ward_asking"),
        ]


class DueRow(models.Model):
    """One reservoir of one bike: when its limits fall and when that is expected to be. ``left`` is what
    was left on the day it was worked out."""

    bike = models.ForeignKey(Bike, models.CASCADE, related_name="due_rows")
    reservoir = models.CharField(max_length=40)
    kind = models.CharField(max_length=20)
    label = models.CharField(max_length=60)
    fluid = models.CharField(max_length=300)
    state = models.CharField(max_length=12)
    left = models.DecimalField(max_digits=10, decimal_places=3)
    due_on = models.DateField(null=True)
    due_km = models.DecimalField(max_digits=12, decimal_places=3, null=True)
    due_hours = models.DecimalField(max_digits=9, decimal_places=1, null=True)
    forecast_on = models.DateField(null=True)
    forecast_early = models.DateField(null=True)
    forecast_late = models.DateField(null=True)
    lasts_days = models.PositiveIntegerField(null=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["bike", "reservoir"], name="one_due_a_reservoir")
        ]
        indexes = [models.Index(fields=["fluid"], name="due_by_fluid")]


class KeptOrder(models.Model):
    """A run order as it was worked out, by what it was worked out of; dropped after a while."""

    of = models.CharField(max_length=64, primary_key=True)
    order = models.JSONField()
    refused = models.TextField(blank=True)
    at = models.DateTimeField(db_index=True)


class KeptHistory(models.Model):
    """A reservoir's findings over distance as last shown, ready to be sent. It is dropped when anything
    is written about the bike; ``stamp`` tells of what else it was made from."""

    bike = models.ForeignKey(Bike, models.CASCADE, related_name="+")
    reservoir = models.CharField(max_length=40)
    kind = models.CharField(max_length=20)
    stamp = models.CharField(max_length=200)
    page = models.TextField()

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["bike", "reservoir"], name="one_kept_history")
        ]


class Tally(models.Model):
    """A count over the whole fleet, kept as things are written: bikes, needing, month:2027-03 …"""

    name = models.CharField(max_length=320, primary_key=True)
    count = models.IntegerField()


class Roller(models.Model):
    """When the process that brings everything forward last ran. One row."""

    ran_at = models.DateTimeField()


class PlannedVisit(models.Model):
    """A visit that is to come: what to do, by how many hands. ``version`` counts its changes;
    ``done`` says which signed visit has done which of its reservoirs, ``hands`` which people are named
    for it, by their ids."""

    class State(models.TextChoices):
        PLANNED = "planned"
        DONE = "done"
        DROPPED = "dropped"

    id = models.UUIDField(primary_key=True)
    bike = models.ForeignKey(Bike, models.PROTECT, related_name="planned")
    on = models.DateField()
    tasks = models.JSONField()
    cold = models.JSONField(default=list)
    wishes = models.JSONField(default=list)
    technicians = models.PositiveSmallIntegerField(default=1)
    hands = models.JSONField(default=list)
    pans = models.PositiveSmallIntegerField(default=2)
    minutes = models.PositiveIntegerField(default=0)
    state = models.CharField(max_length=8, choices=State.choices, default=State.PLANNED)
    version = models.PositiveIntegerField(default=1)
    planned_by = models.CharField(max_length=80)
    planned_at = models.DateTimeField(default=timezone.now)
    done = models.JSONField(default=dict)

    class Meta:
        ordering = ["on", "id"]
        constraints = [
            models.CheckConstraint(
                condition=Q(technicians__gte=1, technicians__lte=4), name="one_to_four_hands"
            )
        ]


class Sample(Fact):
    """Oil in a bottle on its way to a laboratory, under a label. ``km_on_oil``: how far the bike ran on
    it; of ``fresh`` oil there is no bike."""

    id = models.UUIDField(primary_key=True)
    label = models.CharField(max_length=20, unique=True)
    bike = models.ForeignKey(Bike, models.PROTECT, related_name="samples", null=True)
    reservoir = models.CharField(max_length=40, blank=True)
    reading = models.ForeignKey(OdometerReading, models.PROTECT, related_name="+", null=True)
    km_on_oil = models.DecimalField(max_digits=12, decimal_places=3, null=True)
    fluid = models.CharField(max_length=80, blank=True)
    fresh = models.BooleanField(default=False)
    taken_on = models.DateField()
    by = models.ForeignKey(settings.AUTH_USER_MODEL, models.PROTECT, related_name="+")

    class Meta:
        ordering = ["taken_on", "id"]
        indexes = [models.Index(fields=["bike", "reservoir"], name="sample_of")]


class LabFile(models.Model):
    """A laboratory's file on its way in: how many of its lines are done, how many reports were taken, and
    the faults of the others. ``text`` is as it was sent."""

    id = models.UUIDField(primary_key=True)
    text = models.TextField()
    by = models.ForeignKey(settings.AUTH_USER_MODEL, models.PROTECT, related_name="+")
    at = models.DateTimeField()
    lines = models.PositiveIntegerField(default=0)
    done = models.PositiveIntegerField(default=0)
    taken = models.PositiveIntegerField(default=0)
    faults = models.JSONField(default=list)
    refused = models.CharField(max_length=300, blank=True)
    finished_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["-at", "id"]


class LabReport(Fact):
    """What a laboratory says of a sample; ``simulated``: nobody measured anything."""

    id = models.UUIDField(primary_key=True)
    sample = models.ForeignKey(Sample, models.PROTECT, related_name="reports")
    received = models.DateField()
    laboratory = models.CharField(max_length=80, blank=True)
    simulated = models.BooleanField(default=False)

    class Meta:
        ordering = ["received", "id"]


class LabValue(Fact):
    """A value of a report: an element in mg/kg, or what the format calls it."""

    report = models.ForeignKey(LabReport, models.PROTECT, related_name="values")
    name = models.CharField(max_length=8)
    value = models.DecimalField(max_digits=16, decimal_places=4)

    class Meta:
        ordering = ["id"]
