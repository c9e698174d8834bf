"""What the API says of a second factor, and takes."""

from dataclasses import dataclass

from workshop.shapes import upto


@dataclass(frozen=True, kw_only=True)
class SecondPage:
    """Whether one has a second factor, may have one, and how many recovery codes are left."""

    on: bool
    may: bool
    codes_left: int


@dataclass(frozen=True)
class SecondBegun:
    """What an app takes in: as a code to be photographed, and to be typed."""

    address: str
    secret: str


@dataclass(frozen=True)
class SecondCode:
    """What the app shows now."""

    code: str = upto(40, blank=True)


@dataclass(frozen=True)
class SecondCodes:
    """Recovery codes, each good once; shown this once."""

    codes: list[str]
