"""Where somebody is signed in is begun and ended."""

from django.contrib.sessions.backends.base import SessionBase
from django.http import HttpRequest
from django.utils import timezone

from workshop.models import Person, Tablet
from workshop.people.links import digest
from workshop.traces import trace

from .selectors import DEVICE, SINCE, of

_BROWSERS = ("Edg", "Firefox", "Chrome", "Safari")
_ON = ("Android", "iPad", "iPhone", "Windows", "Macintosh", "CrOS", "Linux")


def device_of(request: HttpRequest, tablet: Tablet | None) -> str:
    """What one signs in with, as one would know it again: a bench's tablet by its name."""
    if tablet:
        return tablet.name
    agent = request.headers.get("User-Agent", "")
    browser = next((word for word in _BROWSERS if word in agent), "a browser")
    on = next((word for word in _ON if word in agent), "")
    return " on ".join(filter(None, (browser.replace("Edg", "Edge"), on)))


def begin(session: SessionBase, device: str) -> None:
    session[SINCE], session[DEVICE] = timezone.now().isoformat(), device


def end(person: Person, named: str) -> None:
    """End one of one's own sessions; one that is over already is over."""
    for row, _ in of(person):
        if digest(row.session_key) == named:
            row.delete()
            trace("session ended", f"person/{person.username}", actor=person)
