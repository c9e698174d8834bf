"""Who may what: one row a role, whole at import. Nobody may anything that does not stand here."""

from enum import StrEnum

from django.db import models
from oilward_core.guard import whole_table


class Role(models.TextChoices):
    """What somebody is in this workshop."""

    TECHNICIAN = "technician"
    LEAD = "lead"
    APPRENTICE = "apprentice"
    READER = "reader"


class Right(StrEnum):
    """What somebody may: write at all; sign, check a number and read a plug anew without a lead beside;
    and what a lead may: approve sheets, set schools and prices, correct readings, lift a hold."""

    WORK = "work"
    STAND_ALONE = "stand alone"
    LEAD = "lead"


RIGHTS: dict[Role, frozenset[Right]] = whole_table(
    Role,
    {
        Role.TECHNICIAN: frozenset({Right.WORK, Right.STAND_ALONE}),
        Role.APPRENTICE: frozenset({Right.WORK}),
        Role.LEAD: frozenset(Right),
        Role.READER: frozenset(),
    },
)
# what each does here, as whoever gives the roles out reads it
DOES: dict[Role, str] = whole_table(
    Role,
    {
        Role.TECHNICIAN: "services bikes and signs",
        Role.APPRENTICE: "services bikes, signs with a lead beside",
        Role.LEAD: "approves sheets, sets the workshop, adds people",
        Role.READER: "looks, and writes nothing",
    },
)


def rights_of(role: str) -> frozenset[Right]:
    """What a role may; one that is none may nothing."""
    return RIGHTS[Role(role)] if role in Role.values else frozenset()


def with_right(right: Right) -> list[Role]:
    """The roles that have a right."""
    return [role for role, rights in RIGHTS.items() if right in rights]
