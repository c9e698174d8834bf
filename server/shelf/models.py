"""What stands on the shelf: fluids and torque wrenches."""

from django.db import models


class Fluid(models.Model):
    name = models.CharField(max_length=80, unique=True)
    grade = models.CharField(max_length=40)
    friction_class = models.CharField(max_length=10, blank=True)
    serves = models.CharField(max_length=20)
    bottle_ml = models.DecimalField(max_digits=12, decimal_places=6)

    class Meta:
        ordering = ["name"]


class WrenchRow(models.Model):
    """A torque wrench. Numbers are in its own unit; accuracy is a share of the reading."""

    name = models.CharField(max_length=60, unique=True)
    unit = models.CharField(max_length=12)
    low = models.DecimalField(max_digits=8, decimal_places=2)
    high = models.DecimalField(max_digits=8, decimal_places=2)
    resolution = models.DecimalField(max_digits=6, decimal_places=2)
    accuracy = models.DecimalField(max_digits=4, decimal_places=3)
    simulated = models.BooleanField(default=False)

    class Meta:
        ordering = ["id"]
