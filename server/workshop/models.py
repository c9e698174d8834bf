"""People, their roles and what they like to read."""

import secrets
from typing import ClassVar

from django.conf import settings
from django.contrib.auth.base_user import AbstractBaseUser, BaseUserManager
from django.db import models

from .rights import Role


class Fact(models.Model):
    """What happened. Rows are only added: the database refuses the server to change or delete one."""

    class Meta:
        abstract = True


class PersonManager(BaseUserManager["Person"]):
    def create_person(self, username: str, password: str, **fields: str) -> "Person":
        person = self.model(username=username, **fields)
        person.set_password(password)
        person.save(using=self._db)
        return person


class Person(AbstractBaseUser):
    """``pin`` is hashed like a password, and good on a paired tablet only; ``version`` counts what leads
    changed."""

    username = models.CharField(max_length=40, unique=True)
    name = models.CharField(max_length=80)
    role = models.CharField(max_length=12, choices=Role.choices)
    volume_unit = models.CharField(max_length=12, default="ml")
    torque_unit = models.CharField(max_length=12, default="N·m")
    ounces = models.CharField(
        max_length=8, choices=[("us", "US"), ("imperial", "imperial")], default="us"
    )
    is_active = models.BooleanField(default=True)
    qualifications = models.JSONField(default=list)
    pin = models.CharField(max_length=128, blank=True)
    version = models.PositiveIntegerField(default=1)

    objects: ClassVar[PersonManager] = PersonManager()

    USERNAME_FIELD = "username"

    class Meta:
        constraints = [
            models.CheckConstraint(condition=models.Q(role__in=Role.values), name="person_role")
        ]


class Tries(models.Model):
    """Wrong tries in a row to prove who one is, by a digest of who is tried and from where; until then
    none is looked at."""

    key = models.CharField(max_length=64, primary_key=True)
    wrong = models.PositiveIntegerField(default=0)
    last = models.DateTimeField()
    until = models.DateTimeField(null=True)


class Welcome(models.Model):
    """A link that lets its person choose a password, once, ``until`` then. Of the secret in it only the
    digest is kept."""

    person = models.ForeignKey(Person, models.PROTECT, related_name="+")
    digest = models.CharField(max_length=64, unique=True)
    until = models.DateTimeField()
    used_at = models.DateTimeField(null=True)


class Tablet(models.Model):
    """A tablet that belongs to a bench: whoever has a PIN may tap their name on it. Its secret lies in
    the tablet's cookie; ``unpaired_at``: it belongs nowhere any more."""

    id = models.UUIDField(primary_key=True)
    name = models.CharField(max_length=60)
    digest = models.CharField(max_length=64)
    paired_by = models.ForeignKey(Person, models.PROTECT, related_name="+")
    paired_at = models.DateTimeField()
    unpaired_at = models.DateTimeField(null=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["name"], condition=models.Q(unpaired_at=None), name="one_tablet_of_a_name"
            )
        ]


def new_token() -> str:
    return secrets.token_urlsafe(24)


class CounterSignature(Fact):
    """A lead looked over somebody's shoulder and put a name to it: ``about`` says to what, like
    ``visit/…``."""

    lead = models.ForeignKey(Person, models.PROTECT, related_name="+")
    beside = models.ForeignKey(Person, models.PROTECT, related_name="+")
    about = models.CharField(max_length=80)
    signed_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["lead", "about"], name="one_countersignature"),
            models.CheckConstraint(
                condition=~models.Q(lead=models.F("beside")), name="countersigned_by_another"
            ),
        ]


class Trace(Fact):
    """Who did what to something that keeps no history of its own: ``was`` is what stood there."""

    by = models.ForeignKey(Person, models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now_add=True)
    act = models.CharField(max_length=40)
    about = models.CharField(max_length=200)
    was = models.JSONField(default=dict)


def local_zone() -> str:
    return str(settings.TIME_ZONE)


class Workshop(models.Model):
    """The one workshop of this installation, where it stands (``time_zone``), the coldest start
    expected, °C, its prices (``version`` counts their changes), and the secret in the address of its
    calendar. ``generation`` counts what changed for every bike at once, under
    the rules of ``release``. New people read in its units;
    ``week_begins``: 0 is Monday; on a bench's tablet nobody is left signed in for more than
    ``idle_minutes`` without touching it."""

    name = models.CharField(max_length=120)
    time_zone = models.CharField(max_length=64, default=local_zone)
    coldest_start = models.DecimalField(max_digits=4, decimal_places=1, default=0)
    hour_price = models.DecimalField(max_digits=8, decimal_places=2, default=60)
    flat_price = models.DecimalField(max_digits=8, decimal_places=2, default=140)
    currency = models.CharField(max_length=5, default="€")
    volume_unit = models.CharField(max_length=12, default="ml")
    torque_unit = models.CharField(max_length=12, default="N·m")
    ounces = models.CharField(max_length=8, default="us")
    week_begins = models.PositiveSmallIntegerField(default=0)
    idle_minutes = models.PositiveSmallIntegerField(default=10)
    version = models.PositiveIntegerField(default=1)
    changed_by = models.CharField(max_length=80, blank=True)
    generation = models.PositiveIntegerField(default=0)
    release = models.CharField(max_length=64, blank=True)
    calendar_token = models.CharField(max_length=64, default=new_token)


class SchoolRow(models.Model):
    """A practice the workshop chose for a kind of reservoir."""

    kind = models.CharField(max_length=20)
    topic = models.CharField(max_length=12)
    choice = models.CharField(max_length=40)
    chosen_by = models.CharField(max_length=80)
    chosen_on = models.DateField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["kind", "topic"], name="one_school")]


class PassphraseTyped(models.Model):
    """Somebody has typed a passphrase of the backups back: it is kept where people find it. ``check_of``
    tells which one, and opens nothing."""

    check_of = models.CharField(max_length=64, unique=True)
    person = models.ForeignKey(Person, on_delete=models.PROTECT)
    at = models.DateTimeField()
