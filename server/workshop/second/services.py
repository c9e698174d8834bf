"""A second factor is begun, confirmed, asked for, cleared. The arithmetic is django-otp's (RFC 6238)."""

import secrets
from hashlib import sha256

from django.db import transaction
from django_otp.plugins.otp_static.models import StaticDevice, StaticToken
from django_otp.plugins.otp_totp.models import TOTPDevice
from oilward_core.errors import CoreError
from rest_framework.exceptions import AuthenticationFailed

from workshop.access import log, require_lead
from workshop.models import Person
from workshop.people import keys
from workshop.traces import trace
from workshop.tries import tried

from . import selectors

CODES, LETTERS = 10, "abcdefghjkmnpqrstuvwxyz23456789"  # none that reads like another one
EACH = 5  # letters, twice: 31 to the 10th, 49 bits


def _locked(person: Person) -> Person:
    """One at a time for each person."""
    return Person.objects.select_for_update().get(pk=person.pk)


@transaction.atomic
def begin(*, actor: Person) -> TOTPDevice:
    """A secret for the app, good once it is confirmed; begun twice it is the same. A lead's to do."""
    require_lead(actor)
    person = _locked(actor)
    if selectors.is_on(person):
        raise CoreError("second.on")
    made, _ = TOTPDevice.objects.get_or_create(
        user=person, confirmed=False, defaults={"name": f"Oil Ward, {person.username}"}
    )
    return made


@transaction.atomic
def confirm(code: str, *, actor: Person) -> list[str]:
    """The app shows what it should: from now on it is asked for. The recovery codes. Raises CoreError
    ``second.code`` at ``code`` for another one."""
    person = _locked(actor)
    device = TOTPDevice.objects.filter(user=person, confirmed=False).first()
    if device is None:
        raise CoreError("second.on" if selectors.is_on(person) else "second.begin", field="code")
    if not device.verify_token(_figures(code)):
        raise CoreError("second.code", field="code")
    device.confirmed = True
    device.save()
    trace(keys.SECOND, f"person/{person.username}", actor=person)
    return _new_codes(person)


@transaction.atomic
def new_codes(*, actor: Person) -> list[str]:
    """Other recovery codes; those of before are good no more. Raises CoreError ``second.begin``."""
    person = _locked(actor)
    if not selectors.is_on(person):
        raise CoreError("second.begin")
    trace(keys.CODES, f"person/{person.username}", actor=person)
    return _new_codes(person)


def _new_codes(person: Person) -> list[str]:
    StaticDevice.objects.filter(user=person).delete()
    device = StaticDevice.objects.create(user=person, name="recovery codes")
    codes = ["".join(secrets.choice(LETTERS) for _ in range(2 * EACH)) for _ in range(CODES)]
    StaticToken.objects.bulk_create(StaticToken(device=device, token=_kept(code)) for code in codes)
    return [f"{code[:EACH]}-{code[EACH:]}" for code in codes]


def _kept(code: str) -> str:
    """What is kept of a recovery code; it opens nothing."""
    return sha256(code.encode("utf-8", "replace")).hexdigest()[:16]


def _figures(text: str) -> str:
    return "".join(text.split())


@transaction.atomic
def is_right(person: Person, text: str) -> bool:
    """Whether this is what the app shows, or a recovery code; each is good once."""
    person = _locked(person)
    typed = _figures(text).replace("-", "").lower()
    for device in TOTPDevice.objects.filter(user=person, confirmed=True):
        if device.verify_token(typed):
            return True
    found = StaticToken.objects.filter(device__user=person, token=_kept(typed)).first()
    if found is None:
        return False
    found.delete()
    trace(keys.CODE_USED, f"person/{person.username}", actor=person)
    return True


def asked(person: Person, text: str) -> None:
    """Ask for it, of whoever has one and gave the right password. Raises AuthenticationFailed
    ``access.second`` where nothing is given, ``access.wrong_second`` for what is not right. Tries are
    counted wherever they are made: who tries here has the password already."""
    if not selectors.is_on(person):
        return
    if not text.strip():
        raise AuthenticationFailed(code="access.second")
    found = tried(
        f"second {person.pk}", "anywhere", lambda: (is_right(person, text) and person) or None
    )
    if found is None:
        log.warning("second factor refused: %s", person.username)
        raise AuthenticationFailed(code="access.wrong_second")


@transaction.atomic
def clear(person: Person, *, actor: Person) -> None:
    """It is asked for no more. One's own, or by a lead for somebody who lost theirs; done twice it is the
    same."""
    if actor.pk != person.pk:
        require_lead(actor)
    row = _locked(person)
    had = selectors.is_on(row)
    TOTPDevice.objects.filter(user=row).delete()
    StaticDevice.objects.filter(user=row).delete()
    if had:
        trace(keys.NO_SECOND, f"person/{row.username}", actor=actor)
