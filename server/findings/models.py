"""What plugs and oil showed, service after service."""

import uuid
from typing import ClassVar

from django.conf import settings
from django.db import models
from garage.models import Bike, OdometerReading
from workshop.models import Fact


class Finding(Fact):
    """``level``, ``origin``, ``action``, ``rules`` and ``wear`` are the core's verdict at the time,
    on ``km_since_wiped`` as known then; ``oil`` is what it looked and smelt like, ``run_in`` whether
    fine shavings were to be expected. ``chance`` is the chance that a fault was growing, as worked
    out and ``said``, with how many times likelier the form and the amount made it, and on how many
    findings it stands (``chance_before``: None where nobody knows any more); none of older findings.
    ``fine_last_time``, ``wet_clutch`` and ``excused`` are what else was known of its reservoir then;
    None where nobody knows any more. ``found_by`` graded it; a ``regrade_of`` another counts instead
    of it, and both stand. ``kept``: where debris and sample are;
    ``pan_clean``: None where nobody said; ``no_magnet``: it has none. ``look``: what a look showed
    between two marks, or at a shock, where no plug was read; ``kept_at``: findings of one day stand in
    the order in which they were written down."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4)
    bike = models.ForeignKey(Bike, models.PROTECT, related_name="findings")
    reservoir = models.CharField(max_length=40)
    kind = models.CharField(max_length=20, blank=True)
    found_on = models.DateField()
    reading = models.ForeignKey(OdometerReading, models.PROTECT, related_name="+")
    km_since_wiped = models.DecimalField(max_digits=12, decimal_places=3)
    run_in = models.BooleanField(default=False)
    oil = models.JSONField()
    pan_clean = models.BooleanField(null=True)
    dipstick_flakes = models.BooleanField(default=False)
    seal_missing = models.BooleanField(default=False)
    no_magnet = models.BooleanField(default=False)
    look = models.CharField(max_length=12, blank=True)
    kept_at = models.DateTimeField(auto_now_add=True)
    fine_last_time = models.BooleanField(null=True)
    wet_clutch = models.BooleanField(null=True)
    excused = models.BooleanField(null=True)
    kept = models.CharField(max_length=200, blank=True)
    note = models.TextField(blank=True)
    level = models.CharField(max_length=12)
    origin = models.CharField(max_length=120)
    action = models.CharField(max_length=200)
    rules = models.JSONField()
    wear = models.JSONField()
    chance = models.FloatField(null=True)
    said = models.FloatField(null=True)
    form_times = models.FloatField(null=True)
    amount_times = models.FloatField(null=True)
    chance_before = models.PositiveIntegerField(null=True)
    found_by = models.ForeignKey(settings.AUTH_USER_MODEL, models.PROTECT, related_name="+")
    regrade_of = models.ForeignKey("self", models.PROTECT, related_name="regrades", null=True)

    class Meta:
        ordering: ClassVar[list[str]] = ["found_on", "kept_at"]
        indexes: ClassVar[list[models.Index]] = [
            models.Index(fields=["bike", "reservoir"]),
            models.Index(fields=["kind", "found_on"], name="finding_by_kind"),
            models.Index(fields=["-found_on", "-kept_at", "-id"], name="finding_newest"),
        ]


class Answer(Fact):
    """What came of looking into a finding, in words as well; a hold is answered by a lead."""

    id = models.UUIDField(primary_key=True)
    finding = models.ForeignKey(Finding, models.PROTECT, related_name="answers")
    outcome = models.CharField(max_length=40)
    words = models.CharField(max_length=500)
    by = models.ForeignKey(settings.AUTH_USER_MODEL, models.PROTECT, related_name="+")
    at = models.DateTimeField()
    sent = models.CharField(max_length=64)

    class Meta:
        ordering: ClassVar[list[str]] = ["at", "id"]


class Debris(Fact):
    """One kind of debris of a finding: where it was, its form and matter, its share of the magnet's face
    (0 to 1), how high it stood, its largest piece, how many, and whether a magnet held it."""

    finding = models.ForeignKey(Finding, models.PROTECT, related_name="debris")
    place = models.CharField(max_length=8)
    form = models.CharField(max_length=12)
    matter = models.CharField(max_length=12)
    share = models.DecimalField(max_digits=7, decimal_places=5)
    pile_mm = models.DecimalField(max_digits=6, decimal_places=2, null=True)
    largest_mm = models.DecimalField(max_digits=7, decimal_places=2, null=True)
    count = models.PositiveIntegerField(null=True)
    magnetic = models.BooleanField(null=True)

    class Meta:
        ordering: ClassVar[list[str]] = ["pk"]


class Overruling(Fact):
    """A lead sees a finding otherwise, for a reason: the newest level counts, the verdict stands."""

    id = models.UUIDField(primary_key=True)
    finding = models.ForeignKey(Finding, models.PROTECT, related_name="overrulings")
    level = models.CharField(max_length=12)
    reason = models.CharField(max_length=500)
    by = models.ForeignKey(settings.AUTH_USER_MODEL, models.PROTECT, related_name="+")
    at = models.DateTimeField()
    sent = models.CharField(max_length=64)

    class Meta:
        ordering: ClassVar[list[str]] = ["at", "id"]


class Picture(Fact):
    """A picture of a plug, a pan or a filter, cleaned of what a camera writes into it. It is taken before
    its finding is written down."""

    id = models.UUIDField(primary_key=True)
    bike = models.ForeignKey(Bike, models.PROTECT, related_name="plug_pictures")
    jpeg = models.BinaryField()
    by = models.ForeignKey(settings.AUTH_USER_MODEL, models.PROTECT, related_name="+")
    at = models.DateTimeField()


class Pictured(Fact):
    """A picture of a finding, with the spot that was marked on it, as shares of its width and height."""

    finding = models.ForeignKey(Finding, models.PROTECT, related_name="pictured")
    picture = models.ForeignKey(Picture, models.PROTECT, related_name="+")
    x = models.FloatField(null=True)
    y = models.FloatField(null=True)

    class Meta:
        ordering: ClassVar[list[str]] = ["pk"]
