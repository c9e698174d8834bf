"""What plugs and oil showed, service after service."""

import uuid

from django.conf import settings
from django.db import models
from garage.models import Bike


class Finding(models.Model):
    """Append-only. ``level``, ``origin``, ``action``, ``rules`` and ``wear`` are the core's verdict
    at the time; ``parts`` and ``oil`` are what was seen."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4)
    bike = models.ForeignKey(Bike, models.PROTECT, related_name="findings")
    reservoir = models.CharField(max_length=40)
    found_on = models.DateField()
    km = models.DecimalField(max_digits=12, decimal_places=3)
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
        ordering = ["found_on", "km"]
        indexes = [models.Index(fields=["bike", "reservoir"])]
