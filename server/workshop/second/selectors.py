"""Who has a second factor."""

from base64 import b32encode

from django_otp.plugins.otp_static.models import StaticToken
from django_otp.plugins.otp_totp.models import TOTPDevice

from workshop.access import leads
from workshop.models import Person

from .shapes import SecondBegun, SecondPage


def is_on(person: Person) -> bool:
    """Whether they have one: whoever has it, whatever they became, is asked for it."""
    return bool(TOTPDevice.objects.filter(user=person, confirmed=True).exists())


def with_second() -> set[int]:
    """The numbers of all who have one."""
    return set(TOTPDevice.objects.filter(confirmed=True).values_list("user_id", flat=True))


def page(person: Person) -> SecondPage:
    """How it stands with one's own."""
    left = StaticToken.objects.filter(device__user=person).count()
    return SecondPage(on=is_on(person), may=leads(person), codes_left=left)


def begun(device: TOTPDevice) -> SecondBegun:
    """What the app takes in."""
    return SecondBegun(str(device.config_url), b32encode(device.bin_key).decode())
