"""Where somebody is signed in."""

from collections.abc import Iterator
from typing import Any

from django.contrib.sessions.models import Session
from django.utils import timezone

from workshop.models import Person
from workshop.people.links import digest

from .shapes import SignedIn

SINCE, DEVICE = "since", "device"


def of(person: Person) -> Iterator[tuple[Session, dict[str, Any]]]:
    """One's sessions, each with what is kept in it."""
    for row in Session.objects.filter(expire_date__gt=timezone.now()):
        told = row.get_decoded()
        if told.get("_auth_user_id") == str(person.pk):
            yield row, told


def signed_in(person: Person, here: str | None) -> list[SignedIn]:
    """Where one is signed in, the newest first; ``here`` is the key of the session that asks."""
    found = [
        SignedIn(
            id=digest(row.session_key),
            device=str(told.get(DEVICE, "")),
            since=str(told.get(SINCE, "")),
            here=row.session_key == here,
        )
        for row, told in of(person)
    ]
    return sorted(found, key=lambda one: one.since, reverse=True)
