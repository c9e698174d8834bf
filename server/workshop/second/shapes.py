"""What the API says of a second factor, and takes."""

from dataclasses import dataclass

from workshop.shapes import upto


@dataclass(frozen=True, kw_only=True)
class PasskeyLine:
    """A passkey: what its owner calls it, the name of the workshop it is good under, when it was made and
    last shown ("": never)."""

    id: int
    name: str
    host: str
    since: str
    used: str


@dataclass(frozen=True, kw_only=True)
class SecondPage:
    """Whether one has a second factor, may have one, has it from an app, and how many recovery codes are
    left. ``here``: the name a passkey made now is good under, "" where one came by number; ``by_name``:
    the address to come to for one, "" where there is none."""

    on: bool
    may: bool
    app: bool
    codes_left: int
    passkeys: list[PasskeyLine]
    here: str
    by_name: str


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
class PasskeyBegun:
    """What one's device is told to make a passkey: JSON, for the browser alone."""

    options: str


@dataclass(frozen=True)
class PasskeyMade:
    """What the device made: JSON, as the browser gives it; and what its owner calls it."""

    answer: str = upto(8000)
    name: str = upto(60)


@dataclass(frozen=True)
class SecondCodes:
    """Recovery codes, each good once; shown this once. None where one has some already."""

    codes: list[str]
