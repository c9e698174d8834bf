"""Passkeys: made on a device, shown at sign-in. The ceremonies are django-otp-webauthn's (W3C Web
Authentication, level 3); ours is that a passkey is good under the name by which the tablet came, and that
nobody is asked who made their device."""

import json
import time
from ipaddress import ip_address
from typing import Any

from django.conf import settings
from django.http import HttpRequest
from django_otp_webauthn.exceptions import OTPWebAuthnApiError
from django_otp_webauthn.helpers import WebAuthnHelper
from webauthn.helpers.exceptions import WebAuthnException

from workshop.models import Person

from .models import Passkey

MAKING, SHOWING = "passkey made", "passkey shown"  # where the session keeps what was asked
GOOD_FOR = 5 * 60  # seconds, as long as the device is given
# what crafted bytes make the readers of both libraries raise besides their own
_UNREADABLE = (ValueError, TypeError, LookupError, AttributeError, ArithmeticError, RecursionError)
NONE_OF_ITS_OWN = (OTPWebAuthnApiError, WebAuthnException, *_UNREADABLE)


def _is_name(host: str) -> bool:
    try:
        ip_address(host.strip("[]"))
    except ValueError:
        return True
    return False


def _split(request: HttpRequest) -> tuple[str, str]:
    """Host, and the port with its colon where one was typed."""
    host, colon, port = request.get_host().rpartition(":")
    return (host, colon + port) if port.isdigit() and host else (request.get_host(), "")


def place(request: HttpRequest) -> str:
    """The name a passkey made here is good under; "" where one came by number, or unencrypted."""
    host, _ = _split(request)
    safe = request.is_secure() or host == "localhost"
    return host.lower() if safe and _is_name(host) else ""


def by_name(request: HttpRequest) -> str:
    """The address by which this workshop is come to by its name, where links lead by name; else ""."""
    first = settings.ALLOWED_HOSTS[0]
    return f"{request.scheme}://{first}{_split(request)[1]}/" if _is_name(first) else ""


class Ceremony(WebAuthnHelper):  # type: ignore[misc]
    """Between one browser and this server, under the name both know it by."""

    def get_relying_party_domain(self) -> str:
        return place(self.request)

    def get_allowed_origins(self) -> list[str]:
        return [f"{self.request.scheme}://{self.request.get_host()}"]

    def get_generate_authentication_options_kwargs(self, **told: Any) -> dict[str, Any]:
        found: dict[str, Any] = super().get_generate_authentication_options_kwargs(**told)
        mine = Passkey.objects.filter(user=told["user"], host=place(self.request))
        return {**found, "allow_credentials": mine.as_credential_descriptors()}

    def create_credential(self, *told: Any) -> Passkey:
        made: Passkey = super().create_credential(*told)
        made.host = place(self.request)
        return made

    def create_attestation(self, *told: Any) -> None:
        """None is asked for, and none kept."""


def _keep(request: HttpRequest, where: str, state: dict[str, Any]) -> None:
    request.session[where] = {**state, "at": int(time.time())}


def _asked(request: HttpRequest, where: str) -> dict[str, Any]:
    """What was asked, good once and not for long. Raises LookupError."""
    state: dict[str, Any] = request.session.pop(where, {})
    if time.time() - state.get("at", 0) > GOOD_FOR:
        raise LookupError(where)
    return state


def begin(request: HttpRequest, person: Person) -> str:
    """What the device is told to make one, as JSON."""
    options, state = Ceremony(request).register_begin(person)
    _keep(request, MAKING, state)
    return json.dumps(options)


def made(request: HttpRequest, person: Person, answer: str) -> Passkey:
    """The passkey that the device made. Raises one of ``NONE_OF_ITS_OWN`` for what is none."""
    state = _asked(request, MAKING)
    found: Passkey = Ceremony(request).register_complete(person, state, _read(answer))
    return found


def offer(request: HttpRequest, person: Person) -> str:
    """What the device is told to show one it has, as JSON; "" where none of theirs is good here."""
    where = place(request)
    if not where or not Passkey.objects.filter(user=person, host=where).exists():
        return ""
    options, state = Ceremony(request).authenticate_begin(person, require_user_verification=False)
    _keep(request, SHOWING, state)
    return json.dumps(options)


def is_theirs(request: HttpRequest, person: Person, answer: str) -> bool:
    """Whether the device showed one of this person's; what was asked is good once."""
    try:
        state = _asked(request, SHOWING)
        found = Ceremony(request).authenticate_complete(person, state, _read(answer))
    except NONE_OF_ITS_OWN:
        return False
    return bool(found.confirmed and found.host == place(request))


def _read(answer: str) -> dict[str, Any]:
    found = json.loads(answer)
    if not isinstance(found, dict):
        raise ValueError(answer)
    return found
