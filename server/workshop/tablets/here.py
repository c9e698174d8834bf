"""Which paired tablet a request comes from, and whether hands are still on it."""

import time
from collections.abc import MutableMapping
from typing import Any
from uuid import UUID

from django.conf import settings
from django.contrib.auth import login
from django.http import HttpRequest, HttpResponse
from django.utils.crypto import constant_time_compare

from workshop.models import Person, Tablet, Workshop
from workshop.people.links import digest
from workshop.sessions import services as sessions

# the keys of a tablet's session
TABLET, HANDS = "tablet", "hands"
YEAR = 365 * 24 * 3600
OFTEN = 20  # seconds: no use in writing down more often that hands are here


def tablet_of(request: HttpRequest) -> Tablet | None:
    """The paired tablet whose cookie came with the request."""
    key, _, secret = request.COOKIES.get(settings.TABLET_COOKIE, "").partition(".")
    try:
        row = Tablet.objects.filter(pk=UUID(key), unpaired_at=None).first()
    except ValueError:
        return None
    return row if row and constant_time_compare(row.digest, digest(secret)) else None


def keep_cookie(response: HttpResponse, value: str) -> None:
    """Give this browser a tablet's cookie, for another year."""
    response.set_cookie(
        settings.TABLET_COOKIE,
        value,
        max_age=YEAR,
        secure=settings.SESSION_COOKIE_SECURE,
        httponly=True,
        samesite="Strict",
    )


Kept = MutableMapping[str, Any]


def begin(session: Kept, tablet: Tablet) -> None:
    """Somebody tapped in: from now on idle time counts."""
    session[TABLET], session[HANDS] = str(tablet.pk), int(time.time())


def enter(request: HttpRequest, person: Person) -> Tablet | None:
    """Sign somebody in, and count idle time where it is on a paired tablet: that tablet."""
    login(request, person, backend="django.contrib.auth.backends.ModelBackend")
    tablet = tablet_of(request)
    sessions.begin(request.session, sessions.device_of(request, tablet))
    if tablet:
        begin(request.session, tablet)
    return tablet


def hands(session: Kept) -> None:
    """Somebody touched the tablet."""
    if TABLET in session and time.time() - session.get(HANDS, 0) > OFTEN:
        session[HANDS] = int(time.time())


def over(session: Kept) -> bool:
    """Whether a tablet's session has ended: nobody touched it for too long, or it was unpaired. Sessions
    elsewhere end otherwise."""
    key = session.get(TABLET)
    if key is None:
        return False
    idle = Workshop.objects.values_list("idle_minutes", flat=True).first() or 10
    if time.time() - session.get(HANDS, 0) > idle * 60:
        return True
    return not Tablet.objects.filter(pk=key, unpaired_at=None).exists()
