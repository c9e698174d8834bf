"""What the API says of backups."""

from dataclasses import dataclass


@dataclass(frozen=True, kw_only=True)
class Keeping:
    """How the backups stand, in words ready to be read; ``kept`` is False where nobody keeps any, as in
    a demo. ``aside``: work in the background that was set aside. ``passphrase``: what is known of it;
    ``typed``: somebody has typed it back, or there is none. ``minutes``: how far they reach, and on
    which disk. ``alarm``: something has to be done."""

    kept: bool
    alarm: bool
    last: str
    free: str
    drill: str
    where: str
    failed: str
    aside: str
    passphrase: str
    typed: bool
    minutes: str


@dataclass(frozen=True, kw_only=True)
class Passphrase:
    """The backups' passphrase, typed back from where it is kept."""

    passphrase: str
