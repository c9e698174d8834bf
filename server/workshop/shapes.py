"""What the workshop's API says."""

from dataclasses import dataclass, field
from typing import Any

from .rights import Right, Role

# of a text that may come empty: what it is for says so itself, in its own sentence
BLANK: dict[str, Any] = {"serializer_kwargs": {"allow_blank": True}}


def upto(most: int, *, blank: bool = False, **more: Any) -> Any:
    """A text of at most so many characters, which may be ``blank``; a longer one is refused at its
    field."""
    told = {"max_length": most} | ({"allow_blank": True} if blank else {})
    return field(metadata={"serializer_kwargs": told}, **more)


@dataclass(frozen=True, kw_only=True)
class Session:
    """Who is signed in here, as which person (``id``), and what they may; ``practice`` is set where
    minutes run faster than the clock; ``events`` is where changes are told as they happen, like
    ``:8001/events/``, empty where nobody tells. On a ``tablet`` of a bench it ends after
    ``idle_minutes`` without a touch. ``news``: what happened to one's password and PIN since one signed
    in last, said once, at signing in."""

    signed_in: bool
    id: str
    username: str
    name: str
    role: Role | None
    rights: list[Right]
    may_work: bool
    volume_unit: str
    torque_unit: str
    workshop: str
    practice: bool
    events: str
    tablet: str
    idle_minutes: int
    news: list[str] = field(default_factory=list)


@dataclass(frozen=True, kw_only=True)
class WorkshopSettings:
    """What a lead sets for the workshop, everything as typed; ``version`` is the one it replaces, what is
    left empty of place, money and units stays as it is. New people read in these units;
    ``week_begins``: 0 is Monday."""

    coldest_start: str = upto(100, blank=True)
    hour_price: str = upto(100, blank=True)
    flat_price: str = upto(100, blank=True)
    time_zone: str = upto(64, blank=True, default="")
    currency: str = upto(5, blank=True, default="")
    version: int = 0
    name: str = upto(200, blank=True, default="")
    volume_unit: str = upto(12, blank=True, default="")
    torque_unit: str = upto(12, blank=True, default="")
    ounces: str = upto(8, blank=True, default="")
    week_begins: int = 0
    idle_minutes: int = 10


@dataclass(frozen=True)
class Credentials:
    """Where a second factor is asked for, ``second`` is what one's app shows, or a recovery code;
    ``passkey`` what the browser gives for the passkey it was asked to show."""

    username: str = upto(150)
    password: str = upto(1000)
    second: str = upto(40, blank=True, default="")
    passkey: str = upto(8000, blank=True, default="")


@dataclass(frozen=True)
class Nudge:
    """``−10 ml``, and what the field says then."""

    label: str
    text: str


@dataclass(frozen=True)
class Amount:
    """A typed amount as understood: in words, and as a number of the unit asked for; ``nudges`` are
    the same a little less and a little more, ready for the field."""

    words: str
    number: float
    nudges: list[Nudge]


@dataclass(frozen=True)
class QuickSum:
    """The answer of a line of bench arithmetic, ready to be read or put into a field."""

    words: str
    kind: str
