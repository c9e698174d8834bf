"""A second factor is begun, confirmed, asked for, cleared: an app's figures, or passkeys. The app's
arithmetic is django-otp's (RFC 6238)."""

import secrets
from hashlib import sha256

from config.problems import SecondAsked
from django.db import transaction
from django.http import HttpRequest
from django_otp.plugins.otp_static.models import StaticDevice, StaticToken
from django_otp.plugins.otp_totp.models import TOTPDevice
from oilward_core.errors import CoreError

from workshop.access import log, require_lead
from workshop.models import Person
from workshop.people import keys
from workshop.traces import trace
from workshop.tries import tried

from . import passkeys, selectors
from .models import Passkey
from .place import NoPasskey, place

CODES, LETTERS = 10, "abcdefghjkmnpqrstuvwxyz23456789"  # none that reads like another one
EACH = 5  # letters, twice: 31 to the 10th, 49 bits
MOST = 10  # passkeys of one person


def _locked(person: Person) -> Person:
    """One at a time for each person."""
    return Person.objects.select_for_update().get(pk=person.pk)


@transaction.atomic
def begin(*, actor: Person) -> TOTPDevice:
    """A secret for the app, good once it is confirmed; begun twice it is the same. A lead's to do."""
    require_lead(actor)
    person = _locked(actor)
    if selectors.has_app(person):
        raise CoreError("second.on")
    made, _ = TOTPDevice.objects.get_or_create(
        user=person, confirmed=False, defaults={"name": f"Oil Ward, {person.username}"}
    )
    return made


@transaction.atomic
def confirm(code: str, *, actor: Person) -> list[str]:
    """The app shows what it should: from now on it is asked for. The recovery codes, where it is the
    first second factor. Raises CoreError ``second.code`` at ``code`` for another one."""
    person = _locked(actor)
    device = TOTPDevice.objects.filter(user=person, confirmed=False).first()
    if device is None:
        on = selectors.has_app(person)
        raise CoreError("second.on" if on else "second.begin", field="code")
    if not device.verify_token(_figures(code)):
        raise CoreError("second.code", field="code")
    had = selectors.is_on(person)
    device.confirmed = True
    device.save()
    trace(keys.SECOND, f"person/{person.username}", actor=person)
    return [] if had else _new_codes(person)


@transaction.atomic
def begin_passkey(request: HttpRequest, *, actor: Person) -> str:
    """What one's device is told to make one. A lead's to do, where they came by name. Raises CoreError
    ``second.by_number``, ``second.many``."""
    require_lead(actor)
    if not place(request).host:
        raise CoreError("second.by_number")
    if Passkey.objects.filter(user=actor).count() >= MOST:
        raise CoreError("second.many", most=MOST)
    return passkeys.begin(request, actor)


@transaction.atomic
def add_passkey(request: HttpRequest, answer: str, name: str, *, actor: Person) -> list[str]:
    """The device made one: from now on it is asked for. The recovery codes, where it is the first second
    factor. Raises CoreError ``second.no_passkey``."""
    require_lead(actor)
    person = _locked(actor)
    had = selectors.is_on(person)
    try:
        made = passkeys.made(request, person, answer)
    except NoPasskey as error:
        raise CoreError("second.no_passkey") from error
    made.name = " ".join(name.split())
    made.save()
    trace(keys.PASSKEY, f"person/{person.username}", actor=person)
    return [] if had else _new_codes(person)


@transaction.atomic
def drop_passkey(number: int, *, actor: Person) -> None:
    """One's passkey is good no more; done twice it is the same. With the last second factor its recovery
    codes go."""
    person = _locked(actor)
    gone, _ = Passkey.objects.filter(user=person, pk=number).delete()
    if gone:
        trace(keys.NO_PASSKEY, f"person/{person.username}", actor=person)
    if not selectors.is_on(person):
        StaticDevice.objects.filter(user=person).delete()


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


def asked(person: Person, text: str, passkey: str, request: HttpRequest) -> None:
    """Ask for it, of whoever has one and gave the right password. Raises SecondAsked ``access.second``
    where nothing is given, ``access.wrong_second`` for what is not right, with what their device is told
    to show a passkey. Tries are counted wherever they are made: who tries has the password already."""
    if not selectors.is_on(person):
        return
    if not text.strip() and not passkey:
        raise SecondAsked("access.second", passkeys.offer(request, person))

    def look() -> Person | None:
        right = passkeys.is_theirs(request, person, passkey) if passkey else is_right(person, text)
        return person if right else None

    if tried(f"second {person.pk}", "anywhere", look) is None:
        log.warning("second factor refused: %s", person.username)
        raise SecondAsked("access.wrong_second", passkeys.offer(request, person))


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
    Passkey.objects.filter(user=row).delete()
    if had:
        trace(keys.NO_SECOND, f"person/{row.username}", actor=actor)
