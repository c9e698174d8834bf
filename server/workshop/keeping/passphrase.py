"""The passphrase of a workshop's backups: as it is shown, as it is typed, and the keys that come of it,
one for each purpose, so that who has one of them has neither the others nor itself."""

import secrets
from hashlib import sha256

LETTERS = "ABCDEFGHJKMNPQRSTVWXYZ23456789"  # none that reads like another; 30 to the 25th: 122 bits
GROUPS, EACH = 5, 5
BACKUP, AUTHORITY, TYPED = "backup", "authority", "typed back"


def new() -> str:
    groups = ("".join(secrets.choice(LETTERS) for _ in range(EACH)) for _ in range(GROUPS))
    return "-".join(groups)


def key_for(purpose: str, passphrase: str) -> str:
    """What seals for this purpose. It is as random as the passphrase: nobody guesses it, so it is not
    made slow. By hand: printf 'oilward PURPOSE:PASSPHRASE' | sha256sum."""
    return sha256(f"oilward {purpose}:{passphrase}".encode(errors="replace")).hexdigest()


def tidy(typed: str) -> str:
    """A passphrase as it was shown, from as somebody types it."""
    letters = "".join(typed.upper().split()).replace("-", "")
    return "-".join(letters[at : at + EACH] for at in range(0, len(letters), EACH))
