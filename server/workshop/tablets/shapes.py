"""What the API says of tablets, and takes."""

from dataclasses import dataclass

from workshop.shapes import upto


@dataclass(frozen=True, kw_only=True)
class TabletLine:
    """A tablet that belongs to a bench; ``here``: it is the one that asks."""

    id: str
    name: str
    paired_by: str
    paired_on: str
    here: bool


@dataclass(frozen=True)
class NewTablet:
    """``id`` is the client's; ``name`` says where it belongs: Bench 2, left."""

    id: str = upto(36)
    name: str = upto(200, blank=True)


@dataclass(frozen=True)
class Tapped:
    """A name that was tapped on a bench's tablet, and the PIN."""

    username: str = upto(150)
    pin: str = upto(20, blank=True)


@dataclass(frozen=True)
class Face:
    """Somebody who may tap their name."""

    username: str
    name: str


@dataclass(frozen=True)
class Doorway:
    """What this tablet shows while nobody writes on it; without a ``name`` it belongs to no bench."""

    name: str
    people: list[Face]
