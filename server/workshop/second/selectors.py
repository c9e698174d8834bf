"""Who has a second factor."""

from base64 import b32encode

from django.http import HttpRequest
from django_otp.plugins.otp_static.models import StaticToken
from django_otp.plugins.otp_totp.models import TOTPDevice

from workshop.access import leads
from workshop.models import Person

from .models import Passkey
from .place import by_name, place
from .shapes import PasskeyLine, SecondBegun, SecondPage


def has_app(person: Person) -> bool:
    """Whether an app shows them figures."""
    return bool(TOTPDevice.objects.filter(user=person, confirmed=True).exists())


def is_on(person: Person) -> bool:
    """Whether they have one: whoever has it, whatever they became, is asked for it."""
    return has_app(person) or Passkey.objects.filter(user=person).exists()


def with_second() -> set[int]:
    """The numbers of all who have one."""
    kinds = (TOTPDevice.objects.filter(confirmed=True), Passkey.objects.all())
    return {number for kind in kinds for number in kind.values_list("user_id", flat=True)}


def _line(row: Passkey) -> PasskeyLine:
    used = row.last_used_at.isoformat() if row.last_used_at else ""
    return PasskeyLine(
        id=row.pk, name=row.name, host=row.host, since=row.created_at.isoformat(), used=used
    )


def page(person: Person, request: HttpRequest) -> SecondPage:
    """How it stands with one's own."""
    app, rows = has_app(person), list(Passkey.objects.filter(user=person))
    return SecondPage(
        on=app or bool(rows),
        may=leads(person),
        app=app,
        codes_left=StaticToken.objects.filter(device__user=person).count(),
        passkeys=[_line(row) for row in rows],
        here=place(request).host,
        by_name=by_name(request),
    )


def begun(device: TOTPDevice) -> SecondBegun:
    """What the app takes in."""
    return SecondBegun(str(device.config_url), b32encode(device.bin_key).decode())
