"""What stands on the shelf: fluids and torque wrenches."""

from django.conf import settings
from django.db import models
from django.utils import timezone
from oilward_core.kit import LineKind, WasteKind
from workshop.models import Fact


class Fluid(models.Model):
    """A fluid as label and data sheet describe it. ``version`` counts its changes: a write has to
    name the one it saw."""

    name = models.CharField(max_length=80, unique=True)
    family = models.CharField(max_length=12, default="engine")
    grade = models.CharField(max_length=40, blank=True)
    friction_class = models.CharField(max_length=10, blank=True)
    service = models.CharField(max_length=120, blank=True)
    base = models.CharField(max_length=40, blank=True)
    approvals = models.CharField(max_length=200, blank=True)
    bottle_ml = models.DecimalField(max_digits=12, decimal_places=6)
    # from the data sheet: cSt at 40 and 100 °C, mPa·s at 150 °C and at the W grade's temperatures,
    # kg/m³ at 15 °C, °C
    kv40 = models.DecimalField(max_digits=8, decimal_places=2, null=True)
    kv100 = models.DecimalField(max_digits=8, decimal_places=2, null=True)
    hths = models.DecimalField(max_digits=5, decimal_places=2, null=True)
    cranking = models.DecimalField(max_digits=8, decimal_places=0, null=True)
    pumping = models.DecimalField(max_digits=8, decimal_places=0, null=True)
    density15 = models.DecimalField(max_digits=6, decimal_places=1, null=True)
    pour_point = models.DecimalField(max_digits=4, decimal_places=0, null=True)
    # friction indices: dynamic, static, stop time
    dfi = models.DecimalField(max_digits=4, decimal_places=2, null=True)
    sfi = models.DecimalField(max_digits=4, decimal_places=2, null=True)
    sti = models.DecimalField(max_digits=4, decimal_places=2, null=True)
    retired = models.BooleanField(default=False)
    version = models.PositiveIntegerField(default=1)
    changed_by = models.CharField(max_length=80, blank=True)

    class Meta:
        ordering = ["family", "name"]
        constraints = [
            models.CheckConstraint(
                condition=models.Q(kv40__isnull=True)
                | models.Q(kv100__isnull=True)
                | models.Q(kv40__gt=models.F("kv100"), kv100__gt=0),
                name="fluid_thins_with_heat",
            )
        ]


class WrenchRow(models.Model):
    """A torque wrench. Numbers are in its own unit; accuracy is a share of the reading; the length
    is from the middle of its drive to the middle of the grip."""

    name = models.CharField(max_length=60, unique=True)
    unit = models.CharField(max_length=12)
    low = models.DecimalField(max_digits=8, decimal_places=2)
    high = models.DecimalField(max_digits=8, decimal_places=2)
    resolution = models.DecimalField(max_digits=6, decimal_places=2)
    accuracy = models.DecimalField(max_digits=4, decimal_places=3)
    length_mm = models.DecimalField(max_digits=6, decimal_places=1, null=True)
    simulated = models.BooleanField(default=False)
    version = models.PositiveIntegerField(default=1)
    calibrated_on = models.DateField(null=True)
    pulls = models.PositiveIntegerField(default=0)  # since then, in visits that were signed

    class Meta:
        ordering = ["id"]


class StockLine(Fact):
    """Something that happened to a bottle, or to seals and filters of one name: the shelf is the sum of
    its lines. ``act`` is the client's id of what was done; one act may write several lines. ``batch``:
    what is printed on the bottle, on the line that says so."""

    class Kind(models.TextChoices):
        CAME = LineKind.CAME
        OPENED = LineKind.OPENED
        USED = LineKind.USED
        THROWN = LineKind.THROWN
        COUNTED = LineKind.COUNTED

    act = models.UUIDField(db_index=True)
    sent = models.CharField(max_length=64, blank=True)
    kind = models.CharField(max_length=12, choices=Kind.choices)
    bottle = models.UUIDField(null=True, db_index=True)
    fluid = models.ForeignKey(Fluid, models.PROTECT, related_name="+", null=True)
    size_ml = models.DecimalField(max_digits=12, decimal_places=3, null=True)
    batch = models.CharField(max_length=40, blank=True)
    part = models.CharField(max_length=200, blank=True, db_index=True)
    change = models.DecimalField(max_digits=12, decimal_places=3)
    on = models.DateField()
    by = models.ForeignKey(settings.AUTH_USER_MODEL, models.PROTECT, related_name="+")
    written_at = models.DateTimeField(default=timezone.now)

    class Meta:
        ordering = ["id"]
        constraints = [
            models.CheckConstraint(
                condition=models.Q(
                    bottle__isnull=False, fluid__isnull=False, size_ml__gt=0, part=""
                )
                | (models.Q(bottle=None, fluid=None, size_ml=None) & ~models.Q(part="")),
                name="a_bottle_or_a_part",
            )
        ]


class WasteRow(Fact):
    """Something that happened to the container of used oil; in the order of ``number``. ``note``: where
    it came from, or who took it, under which slip."""

    class Kind(models.TextChoices):
        CONTAINER = WasteKind.CONTAINER
        DRAINED = WasteKind.DRAINED
        ADDED = WasteKind.ADDED
        COLLECTED = WasteKind.COLLECTED
        COUNTED = WasteKind.COUNTED

    number = models.BigAutoField(primary_key=True)
    id = models.UUIDField(unique=True)
    sent = models.CharField(max_length=64, blank=True)
    kind = models.CharField(max_length=12, choices=Kind.choices)
    ml = models.DecimalField(max_digits=12, decimal_places=3)
    note = models.CharField(max_length=200, blank=True)
    on = models.DateField()
    by = models.ForeignKey(settings.AUTH_USER_MODEL, models.PROTECT, related_name="+")

    class Meta:
        ordering = ["number"]
        constraints = [
            models.CheckConstraint(condition=models.Q(ml__gt=0), name="waste_is_an_amount")
        ]
