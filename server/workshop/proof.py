"""Some things nobody else must do with a tablet that somebody walked away from: for these the password is
asked again, unless it was typed a few minutes ago."""

import time

from config.problems import ProofNeeded
from django.contrib.sessions.backends.base import SessionBase
from rest_framework.request import Request

from .access import person_of, prove, require_lead

PROVED, GOOD_FOR = "proved", 5 * 60  # seconds


def note(session: SessionBase) -> None:
    """The password was typed just now."""
    session[PROVED] = int(time.time())


def require_proven_lead(request: Request) -> None:
    """Refuse whoever is no lead, or has not typed their password for a while. Raises ProofNeeded."""
    require_lead(person_of(request))
    require_proven(request)


def require_proven(request: Request) -> None:
    """Refuse whoever has not typed their password for a while. Raises ProofNeeded."""
    if time.time() - request._request.session.get(PROVED, 0) > GOOD_FOR:
        raise ProofNeeded


def prove_again(request: Request, password: str) -> None:
    """Type it again. Raises CoreError ``people.current`` at ``current``."""
    prove(request, password, "current")
    note(request._request.session)
