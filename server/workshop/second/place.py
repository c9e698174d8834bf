"""Under what name a passkey is good: the one by which the tablet came."""

from dataclasses import dataclass

from django.conf import settings
from django.http import HttpRequest

from workshop.keeping.hosts import is_number

GOOD_FOR = 5 * 60  # seconds, as long as a device is given


class NoPasskey(Exception):
    """What was shown is no passkey, or not the one that was asked for."""


@dataclass(frozen=True)
class Place:
    """The name of the workshop, "" where one came by number or unencrypted; and the page's address."""

    host: str
    origin: str


def _split(request: HttpRequest) -> tuple[str, str]:
    """Host, and the port with its colon where one was typed."""
    host, colon, port = request.get_host().rpartition(":")
    return (host, colon + port) if port.isdigit() and host else (request.get_host(), "")


def place(request: HttpRequest) -> Place:
    """Where a passkey made or shown now is good."""
    host, _ = _split(request)
    safe = (request.is_secure() or host == "localhost") and not is_number(host)
    return Place(host.lower() if safe else "", f"{request.scheme}://{request.get_host()}")


def by_name(request: HttpRequest) -> str:
    """The address by which this workshop is come to by its name, where links lead by name; else ""."""
    first = settings.ALLOWED_HOSTS[0]
    return f"{request.scheme}://{first}{_split(request)[1]}/" if not is_number(first) else ""
