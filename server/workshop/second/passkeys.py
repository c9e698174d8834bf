"""Passkeys: asked for once, and not for long, in one browser; made, offered, shown."""

import time

from django.http import HttpRequest
from django.utils import timezone

from workshop.models import Person

from .models import Passkey
from .place import GOOD_FOR, NoPasskey, place

MAKING, SHOWING = "passkey made", "passkey shown"  # where the session keeps what was asked


def _ask(request: HttpRequest, where: str, told: tuple[str, str]) -> str:
    options, challenge = told
    request.session[where] = {"challenge": challenge, "at": int(time.time())}
    return options


def _asked(request: HttpRequest, where: str) -> str:
    """What was asked, good once. Raises NoPasskey."""
    kept = request.session.pop(where, {})
    if time.time() - kept.get("at", 0) > GOOD_FOR:
        raise NoPasskey
    return str(kept["challenge"])


def begin(request: HttpRequest, person: Person) -> str:
    """What the device is told to make one, as JSON."""
    from . import ceremony  # its library takes much room, and few have a passkey

    return _ask(request, MAKING, ceremony.to_make(place(request), person))


def made(request: HttpRequest, person: Person, answer: str) -> Passkey:
    """The passkey that the device made, not kept yet. Raises NoPasskey."""
    from . import ceremony

    return ceremony.made(place(request), person, _asked(request, MAKING), answer)


def offer(request: HttpRequest, person: Person) -> str:
    """What the device is told to show one it has, as JSON; "" where none of theirs is good here."""
    here = place(request)
    rows = Passkey.objects.filter(user=person, host=here.host)
    if not here.host or not rows:
        return ""
    from . import ceremony

    return _ask(request, SHOWING, ceremony.to_show(here, rows))


def is_theirs(request: HttpRequest, person: Person, answer: str) -> bool:
    """Whether the device showed one of this person's; what was asked is good once."""
    from . import ceremony

    try:
        row = ceremony.shown(place(request), person, _asked(request, SHOWING), answer)
    except NoPasskey:
        return False
    row.last_used_at = timezone.now()
    row.save(update_fields=["sign_count", "last_used_at"])
    return True
