"""What the API says of people, and takes."""

from dataclasses import dataclass, field

from workshop.rights import Role
from workshop.shapes import upto


@dataclass(frozen=True, kw_only=True)
class PersonLine:
    """Somebody who works here, or did; ``waits``: nobody has chosen a password under that name yet;
    ``second``: they have a second factor."""

    id: int
    username: str
    name: str
    role: Role
    qualifications: list[str]
    active: bool
    waits: bool
    has_pin: bool
    second: bool
    version: int


@dataclass(frozen=True)
class RoleLine:
    """A role there is, and what somebody in it does."""

    role: Role
    does: str


@dataclass(frozen=True)
class People:
    people: list[PersonLine]
    qualifications: list[str]
    roles: list[RoleLine]


@dataclass(frozen=True, kw_only=True)
class NewPerson:
    """``id`` is the client's, of this act: sent again, it adds nobody twice."""

    id: str = upto(36)
    username: str = upto(200, blank=True)
    name: str = upto(200, blank=True)
    role: str = upto(20, blank=True)
    qualifications: list[str] = field(default_factory=list)


@dataclass(frozen=True, kw_only=True)
class ChangedPerson:
    """What a lead changes of somebody; ``version`` is the one it replaces."""

    name: str = upto(200, blank=True)
    role: str = upto(20, blank=True)
    active: bool = True
    version: int = 0
    qualifications: list[str] = field(default_factory=list)


@dataclass(frozen=True)
class NewWelcome:
    id: str = upto(36)


@dataclass(frozen=True)
class WelcomeLink:
    """A link for one person and one use, to be handed over."""

    name: str
    path: str
    hours: int


@dataclass(frozen=True)
class WelcomePage:
    """What a link opens with."""

    name: str
    username: str
    workshop: str


@dataclass(frozen=True)
class Chosen:
    """What somebody chooses through their link; no PIN is none."""

    password: str = upto(1000, blank=True)
    pin: str = upto(20, blank=True, default="")


@dataclass(frozen=True)
class OwnUnits:
    """How a person reads volumes and torques, and which ounces they mean."""

    volume_unit: str = upto(12, blank=True)
    torque_unit: str = upto(12, blank=True)
    ounces: str = upto(8, blank=True)


@dataclass(frozen=True, kw_only=True)
class OwnPage:
    """What everyone sees and changes of themselves."""

    username: str
    name: str
    role: Role
    qualifications: list[str]
    volume_unit: str
    torque_unit: str
    ounces: str
    volume_units: list[str]
    torque_units: list[str]
    has_pin: bool


@dataclass(frozen=True)
class NewPassword:
    current: str = upto(1000, blank=True)
    password: str = upto(1000, blank=True)


@dataclass(frozen=True)
class Proof:
    """One's password, typed again."""

    current: str = upto(1000, blank=True)


@dataclass(frozen=True)
class NewPin:
    """A PIN, with the password that says who sets it."""

    current: str = upto(1000, blank=True)
    pin: str = upto(20, blank=True)
