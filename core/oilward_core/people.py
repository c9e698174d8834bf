"""Who works here: sign-in names, PINs, and what somebody is qualified for."""

import re
from enum import StrEnum
from itertools import pairwise

from .errors import CoreError

SHORTEST_PIN, LONGEST_PIN = 4, 8
# what a person may read amounts in
VOLUMES = ("ml", "l", "fl oz", "qt")
TORQUES = ("N·m", "lbf·ft", "lbf·in", "kgf·m")
OUNCES = ("us", "imperial")
_NAME = re.compile(r"[a-z][a-z0-9._-]{1,39}")


class Qualification(StrEnum):
    """What a second signature, or a specialist, is asked for."""

    BRAKES = "brakes and clutch fluid"
    AXLES = "axles and bars"
    TYRES = "tyres"
    GAS = "gas-charged shocks"


def sign_in_name(text: str) -> str:
    """A name to sign in with: small letters, figures, dot, dash, underscore; it begins with a letter.

    Raises CoreError ``people.username`` for any other.
    """
    name = text.strip().lower()
    if not _NAME.fullmatch(name):
        raise CoreError("people.username", field="username")
    return name


def reads(volume: str, torque: str, ounces: str) -> tuple[str, str, str]:
    """How somebody reads volumes and torques, and which ounces they mean. Raises CoreError
    ``people.unit`` for a unit nobody reads a dose or a setting in."""
    known = {"volume_unit": VOLUMES, "torque_unit": TORQUES, "ounces": OUNCES}
    for (field, units), given in zip(known.items(), (volume, torque, ounces), strict=True):
        if given not in units:
            raise CoreError("people.unit", field=field, options=units)
    return volume, torque, ounces


def full_name(text: str) -> str:
    """A person's name as it stands on sheets. Raises CoreError ``people.name`` for an empty one, or one
    of more than 80 characters."""
    name = " ".join(text.split())
    if not name or len(name) > 80 or not name.isprintable():
        raise CoreError("people.name", field="name")
    return name


def pin(text: str) -> str:
    """A PIN of four to eight figures that is neither one figure over and over nor a run of them.

    Raises CoreError ``people.pin`` for what is none, ``people.pin_easy`` for one anybody tries first.
    """
    given = text.strip()
    if not re.fullmatch(rf"[0-9]{{{SHORTEST_PIN},{LONGEST_PIN}}}", given):
        raise CoreError("people.pin", field="pin", shortest=SHORTEST_PIN, longest=LONGEST_PIN)
    steps = {int(after) - int(before) for before, after in pairwise(given)}
    if len(steps) == 1 and steps <= {-1, 0, 1}:
        raise CoreError("people.pin_easy", field="pin")
    return given
