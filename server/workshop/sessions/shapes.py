"""What the API says of where somebody is signed in."""

from dataclasses import dataclass


@dataclass(frozen=True, kw_only=True)
class SignedIn:
    """A place where one is signed in: ``id`` names it and opens nothing; ``here``: the one that asks."""

    id: str
    device: str
    since: str
    here: bool
