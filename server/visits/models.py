"""Visits: one bike, one stay. Entries are the truth; everything else is worked out from them."""

import uuid
from dataclasses import dataclass
from decimal import Decimal
from typing import Any

from django.conf import settings
from django.db import models
from django.db.models import Q
from garage.models import Bike, BikeModel, OdometerReading, SpecSheet
from oilward_core.bench import DESCRIPTION, Closing
from oilward_core.codes.away import Came, Part, Waits
from oilward_core.codes.options import Did
from oilward_core.spec import Variant
from shelf.models import Fluid
from workshop.models import Fact

person = settings.AUTH_USER_MODEL


# what the shelf is told apart by: how many fluids, the newest, their versions, the newest line of stock
Shelf = tuple[int | None, ...]


@dataclass(frozen=True)
class Counted:
    """What a run sheet is worked out from, counted."""

    facts: list[Any]
    shelf: Shelf


class Visit(models.Model):
    """Keeps the spec sheet version it was opened with. One open visit a bike. ``cold`` are the cold
    jobs in it, ``order`` its jobs as they were planned, ``wants`` what it is for in the owner's words,
    ``ride_in`` and ``ride_out`` how the bike felt before and after, ``learned`` the minutes that
    were known when it was opened, ``stands`` where it stood after the last
    entry: what the ward says of it."""

    class State(models.TextChoices):
        OPEN = "open"
        SIGNED = "signed"
        LEFT = "left"

    id = models.UUIDField(primary_key=True)
    bike = models.ForeignKey(Bike, models.PROTECT, related_name="visits")
    sheet = models.ForeignKey(SpecSheet, models.PROTECT, related_name="+")
    odometer = models.OneToOneField(OdometerReading, models.PROTECT, related_name="+")
    state = models.CharField(max_length=6, choices=State.choices, default=State.OPEN)
    opened_by = models.ForeignKey(person, models.PROTECT, related_name="+")
    opened_at = models.DateTimeField()
    closed_by = models.ForeignKey(person, models.PROTECT, related_name="+", null=True)
    closed_at = models.DateTimeField(null=True)
    reason = models.CharField(max_length=500, blank=True)
    wants = models.CharField(max_length=500, blank=True)
    ride_in = models.CharField(max_length=500, blank=True)
    ride_out = models.CharField(max_length=500, blank=True)
    cold = models.JSONField(default=list)
    order = models.JSONField(default=list)
    learned = models.JSONField(default=dict)
    stands = models.JSONField(default=dict)
    # how it stood when it was last worked out in this request, and what was counted then; no columns
    worked_out: Closing | None = None
    counted: Counted | None = None

    class Meta:
        ordering = ["-opened_at"]
        constraints = [
            models.UniqueConstraint(
                fields=["bike"], condition=Q(state="open"), name="one_open_visit_a_bike"
            ),
            models.CheckConstraint(
                condition=Q(state="open") | Q(closed_by__isnull=False, closed_at__isnull=False),
                name="closed_by_somebody",
            ),
        ]


class Task(models.Model):
    """One reservoir's service in a visit. ``spec`` are its values as they were when it was added, the
    bike's own ones included, and ``schools`` the choices that counted then. ``taken_out``: it was
    taken out again before anything of it was opened. ``of_model``: what the model's other bikes took, and
    how far their level fell; ``fine_last_time``: the last finding there showed
    much fine steel; ``dipstick_excused``: a flaking dipstick has explained one before; ``sample``: the
    last finding asks for one; ``low_last``: it was low at the last look; ``topped_up`` since the last
    service; ``density15`` of what is in it;
    ``so_far`` what its findings before come to (None: of an earlier release);
    ``waiting`` are the bike's own values that no second person had compared;
    ``other_fluid``: an oil that is none of the shelf's, ``other_label`` what stands on its bottle."""

    visit = models.ForeignKey(Visit, models.PROTECT, related_name="tasks")
    reservoir = models.CharField(max_length=40)
    spec = models.JSONField(default=dict)
    schools = models.JSONField(default=list)
    variant = models.CharField(max_length=12, choices=[(v.value, v.value) for v in Variant])
    fluid = models.ForeignKey(Fluid, models.PROTECT, related_name="+", null=True)
    other_fluid = models.CharField(max_length=80, blank=True)
    other_label = models.CharField(max_length=40, blank=True)
    fine_last_time = models.BooleanField(default=False)
    sample = models.BooleanField(default=False)
    topped_up = models.DecimalField(max_digits=12, decimal_places=3, default=0)
    density15 = models.DecimalField(max_digits=6, decimal_places=1, null=True)
    dipstick_excused = models.BooleanField(default=False)
    low_last = models.BooleanField(default=False)
    so_far = models.JSONField(null=True)
    waiting = models.JSONField(default=dict)
    of_model = models.JSONField(default=dict)
    taken_out = models.BooleanField(default=False)

    class Meta:
        ordering = ["pk"]
        constraints = [
            models.UniqueConstraint(fields=["visit", "reservoir"], name="one_task_a_reservoir")
        ]

    @property
    def chosen(self) -> str:
        """The oil that was chosen before anything was poured, by its name."""
        return self.other_fluid or (self.fluid.name if self.fluid else "")


class EntryRow(Fact):
    """Append-only: the database itself refuses to change or delete one. ``id`` is the client's,
    ``sent`` a digest of what it sent: the same id with anything else is no repetition;
    ``description`` which description of the work it was written down by."""

    id = models.UUIDField(primary_key=True)
    visit = models.ForeignKey(Visit, models.PROTECT, related_name="entries")
    step = models.CharField(max_length=200)
    kind = models.CharField(max_length=12)
    data = models.JSONField()
    at = models.DateTimeField()
    sent = models.CharField(max_length=64, blank=True)
    recorded_at = models.DateTimeField(auto_now_add=True)
    by = models.ForeignKey(person, models.PROTECT, related_name="+")
    description = models.PositiveSmallIntegerField(default=DESCRIPTION)
    supersedes = models.ForeignKey("self", models.PROTECT, related_name="+", null=True)

    class Meta:
        ordering = ["at", "id"]


class AheadRow(models.Model):
    """When an open visit will be through, as it was last worked out from ``of``."""

    visit = models.OneToOneField(Visit, models.CASCADE, primary_key=True, related_name="+")
    of = models.CharField(max_length=64)
    worked_out = models.DateTimeField()
    document = models.JSONField()


class Tip(Fact):
    """What helps whoever is next at a fastener, or a step, on a bike of this model: what comes off first,
    which tool fits (``tools``, parted by commas). The newest counts; an empty one takes the last one
    away."""

    id = models.UUIDField(primary_key=True)
    model = models.ForeignKey(BikeModel, models.PROTECT, related_name="+")
    step = models.CharField(max_length=200)
    text = models.CharField(max_length=400, blank=True)
    tools = models.CharField(max_length=120, blank=True)
    by = models.ForeignKey(person, models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now_add=True)
    sent = models.CharField(max_length=64)

    class Meta:
        ordering = ["at", "id"]


class ClosingRow(Fact):
    """What a visit answered when it was closed. Written once, read ever after, never folded anew."""

    visit = models.OneToOneField(Visit, models.PROTECT, primary_key=True, related_name="closing")
    document = models.JSONField()
    kept_at = models.DateTimeField(auto_now_add=True)


class Service(Fact):
    """What a reservoir got, one row a service: from a signed visit, or from elsewhere. ``took_ml``: what
    went in; ``takes_ml``: what brings it to the target, by all that was poured and read.
    ``not_learned``: why the coach does not learn from what it took, if so; ``fell_ml``: how far the
    level fell at the first start, and how surely that was seen (``fell_sd_ml``); ``tilt``: how much
    higher it read on a lift, as a share of what is between its marks; ``by_word``: somebody
    says it was done, and nobody has a record; ``proof`` what says so (an invoice, an old book); ``found``
    what was found where nothing was poured; ``left``: why its level was left where it stood;
    ``batch`` what is printed on the bottles its oil came out of; ``seals`` what went on where, by
    what its fasteners are called; ``measured`` what the next one is held against, by name. ``did`` says
    what was done: only a change makes what is in it younger."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4)
    bike = models.ForeignKey(Bike, models.PROTECT, related_name="services")
    reservoir = models.CharField(max_length=40)
    variant = models.CharField(max_length=12)
    did = models.CharField(
        max_length=12, choices=[(d.value, d.value) for d in Did], default=Did.CHANGED
    )
    visit = models.ForeignKey(Visit, models.PROTECT, related_name="services", null=True)
    done_on = models.DateField()
    reading = models.ForeignKey(OdometerReading, models.PROTECT, related_name="+")
    drained_ml = models.DecimalField(max_digits=12, decimal_places=3, null=True)
    took_ml = models.DecimalField(max_digits=12, decimal_places=3, null=True)
    takes_ml = models.DecimalField(max_digits=12, decimal_places=3, null=True)
    not_learned = models.CharField(max_length=300, blank=True)
    left = models.CharField(max_length=20, blank=True)
    fell_ml = models.DecimalField(max_digits=12, decimal_places=3, null=True)
    fell_sd_ml = models.DecimalField(max_digits=12, decimal_places=3, null=True)
    tilt = models.DecimalField(max_digits=6, decimal_places=3, null=True)
    fluid = models.CharField(max_length=80, blank=True)
    batch = models.CharField(max_length=200, blank=True)
    seals = models.JSONField(default=dict)
    measured = models.JSONField(default=dict)
    done_by = models.CharField(max_length=80)
    by_word = models.BooleanField(default=False)
    proof = models.CharField(max_length=200, blank=True)
    found = models.CharField(max_length=200, blank=True)

    class Meta:
        ordering = ["done_on", "reading__km"]
        indexes = [models.Index(fields=["bike", "reservoir"])]
        constraints = [
            models.UniqueConstraint(
                fields=["visit", "reservoir"],
                condition=Q(visit__isnull=False),
                name="one_service_a_visit",
            )
        ]

    @property
    def km(self) -> Decimal:
        return self.reading.km

    @property
    def hours(self) -> Decimal | None:
        return self.reading.hours


class TopUp(Fact):
    """Oil added between two services: without it, what a bike burns per distance is fiction."""

    id = models.UUIDField(primary_key=True)
    bike = models.ForeignKey(Bike, models.PROTECT, related_name="top_ups")
    reservoir = models.CharField(max_length=40)
    done_on = models.DateField()
    reading = models.ForeignKey(OdometerReading, models.PROTECT, related_name="+")
    ml = models.DecimalField(max_digits=12, decimal_places=3)
    fluid = models.CharField(max_length=80, blank=True)
    done_by = models.CharField(max_length=80)

    class Meta:
        ordering = ["done_on", "reading__km"]
        indexes = [models.Index(fields=["bike", "reservoir"], name="top_up_of")]


class HandedOut(Fact):
    """A part that only a specialist opens, on its way out: ``to`` whom (empty: to ``own``), what is
    ``wanted``, when it is to be back, and how its bike ``waits`` without it; ``own``: one of the
    workshop's own people, who is ``qualified`` by what is named."""

    id = models.UUIDField(primary_key=True)
    bike = models.ForeignKey(Bike, models.PROTECT, related_name="handed_out")
    reservoir = models.CharField(max_length=40)
    part = models.CharField(max_length=12, choices=[(one.value, one.value) for one in Part])
    to = models.CharField(max_length=80, blank=True)
    own = models.ForeignKey(person, models.PROTECT, related_name="+", null=True)
    qualified = models.CharField(max_length=200, blank=True)
    wanted = models.CharField(max_length=300)
    waits = models.CharField(max_length=16, choices=[(one.value, one.value) for one in Waits])
    back_by = models.DateField()
    out_on = models.DateField()
    by = models.ForeignKey(person, models.PROTECT, related_name="+")
    at = models.DateTimeField()

    class Meta:
        ordering = ["at", "id"]
        indexes = [models.Index(fields=["bike", "reservoir"], name="handed_out_of")]


class CameBack(Fact):
    """It is back: what was done to it, which oil is in it, its gas (kPa, at °C) where it was read, and
    what paper says so."""

    id = models.UUIDField(primary_key=True)
    handed = models.OneToOneField(HandedOut, models.PROTECT, related_name="back")
    came = models.CharField(max_length=16, choices=[(one.value, one.value) for one in Came])
    oil = models.CharField(max_length=80, blank=True)
    pressure = models.DecimalField(max_digits=8, decimal_places=1, null=True)
    celsius = models.DecimalField(max_digits=5, decimal_places=1, null=True)
    paper = models.CharField(max_length=200, blank=True)
    note = models.CharField(max_length=300, blank=True)
    came_on = models.DateField()
    by = models.ForeignKey(person, models.PROTECT, related_name="+")
    at = models.DateTimeField()

    class Meta:
        ordering = ["at", "id"]


class FittedAgain(Fact):
    """It is on its bike again, its bolts torqued, and a second person has looked at them; ``alone``:
    there is nobody else."""

    id = models.UUIDField(primary_key=True)
    handed = models.OneToOneField(HandedOut, models.PROTECT, related_name="fitted")
    torqued = models.CharField(max_length=200)
    by = models.ForeignKey(person, models.PROTECT, related_name="+")
    looked = models.ForeignKey(person, models.PROTECT, related_name="+")
    alone = models.BooleanField(default=False)
    at = models.DateTimeField()

    class Meta:
        ordering = ["at", "id"]
