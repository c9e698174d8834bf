"""What plugs and oil showed, service after service."""

import uuid

from django.conf import settings
from django.db import models
from garage.models import Bike, OdometerReading
from workshop.models import Fact


class Finding(Fact):
    """``level``, ``origin``, ``action``, ``rules`` and ``wear`` are the core's verdict at the time, on
    ``km_since_wiped`` as known then; ``parts`` and ``oil`` are what was seen."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4)
    bike = models.ForeignKey(Bike, models.PROTECT, related_name="findings")
    reservoir = models.CharField(max_length=40)
    found_on = models.DateField()
    reading = models.ForeignKey(OdometerReading, models.PROTECT, related_name="+")
    km_since_wiped = models.DecimalField(max_digits=12, decimal_places=3)
    parts = models.JSONField()
    oil = models.JSONField()
    note = models.TextField(blank=True)
    level = models.CharField(max_length=12)
    origin = models.CharField(max_length=120)
    action = models.CharField(max_length=200)
    rules = models.JSONField()
    wear = models.JSONField()
    found_by = models.ForeignKey(settings.AUTH_USER_MODEL, models.PROTECT, related_name="+")

    class Meta:
        ordering = ["found_on", "reading__km"]
        indexes = [models.Index(fields=["bike", "reservoir"])]
