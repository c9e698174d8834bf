"""What the API says of who changed what."""

from dataclasses import dataclass


@dataclass(frozen=True, kw_only=True)
class AuditLine:
    """Somebody did something: ``about`` says to what, ``was`` what stood there before, in words."""

    at: str
    by: str
    act: str
    about: str
    was: str


@dataclass(frozen=True, kw_only=True)
class Audit:
    """A page of it, the newest first, with what it may be narrowed to."""

    lines: list[AuditLine]
    count: int
    page: int
    pages: int
    people: list[str]
    acts: list[str]


@dataclass(frozen=True, kw_only=True)
class AuditAsked:
    """What is wanted: a person's, one kind of act, from a day to a day, with a word in it."""

    page: int = 1
    by: str = ""
    act: str = ""
    since: str = ""
    until: str = ""
    text: str = ""
