"""What the API says of owners' data."""

from dataclasses import dataclass
from typing import Any

from workshop.shapes import upto


@dataclass(frozen=True)
class Owner:
    """A name that stands on bikes here, and on how many."""

    name: str
    bikes: int


@dataclass(frozen=True)
class OwnersName:
    """Give out what is held about this owner; ``id`` is the client's, of this act."""

    id: str = upto(36)
    name: str = upto(80, blank=True)


@dataclass(frozen=True, kw_only=True)
class OwnersData:
    """Everything held about an owner, in one document: format ``oil-ward/owner/1``."""

    format: str
    workshop: str
    owner: str
    given_out_on: str
    bikes: list[dict[str, Any]]


@dataclass(frozen=True)
class Erasure:
    """Take an owner's name out; ``id`` is the client's, of this act."""

    id: str = upto(36)
    name: str = upto(80, blank=True)


@dataclass(frozen=True)
class Erased:
    """On how many bikes it stood."""

    bikes: int
