"""People, their roles and what they like to read."""

from typing import ClassVar

from django.contrib.auth.base_user import AbstractBaseUser, BaseUserManager
from django.db import models


class Role(models.TextChoices):
    TECHNICIAN = "technician"
    LEAD = "lead"
    READER = "reader"


class PersonManager(BaseUserManager["Person"]):
    def create_person(self, username: str, password: str, **fields: str) -> "Person":
        person = self.model(username=username, **fields)
        person.set_password(password)
        person.save(using=self._db)
        return person


class Person(AbstractBaseUser):
    username = models.CharField(max_length=40, unique=True)
    name = models.CharField(max_length=80)
    role = models.CharField(max_length=12, choices=Role.choices)
    volume_unit = models.CharField(max_length=12, default="ml")
    torque_unit = models.CharField(max_length=12, default="N·m")
    ounces = models.CharField(
        max_length=8, choices=[("us", "US"), ("imperial", "imperial")], default="us"
    )
    is_active = models.BooleanField(default=True)

    objects: ClassVar[PersonManager] = PersonManager()

    USERNAME_FIELD = "username"

    class Meta:
        constraints = [
            models.CheckConstraint(condition=models.Q(role__in=Role.values), name="person_role")
        ]


class Workshop(models.Model):
    """The one workshop of this installation, with its chosen practices."""

    name = models.CharField(max_length=120)
    torque_school = models.CharField(
        max_length=12,
        choices=[("middle", "middle"), ("lower third", "lower third")],
        default="middle",
    )
