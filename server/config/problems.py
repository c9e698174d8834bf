"""The one error map: every refusal leaves as RFC 9457 problem details with a sentence."""

import logging
import re
import sys
from collections.abc import Sequence
from dataclasses import dataclass
from math import ceil
from typing import Any
from uuid import uuid4

from django.contrib.sessions.exceptions import SessionInterrupted
from django.core.exceptions import PermissionDenied
from django.db import DataError, IntegrityError, InterfaceError, OperationalError
from django.http import Http404, HttpRequest, HttpResponse
from oilward_core.errors import CoreError, Question
from procrastinate.exceptions import ConnectorException
from psycopg.errors import DiskFull, UniqueViolation
from rest_framework import exceptions, status
from rest_framework.renderers import JSONRenderer
from rest_framework.response import Response

from .sentences import sentence

log = logging.getLogger("oilward")


class TooLarge(exceptions.APIException):
    """More came in than this address takes."""

    status_code = status.HTTP_413_REQUEST_ENTITY_TOO_LARGE
    default_code = "door.too_large"

    def __init__(self, most: int) -> None:
        super().__init__(sentence("door.too_large", {"most": most // 1000}))


class SecondAsked(exceptions.AuthenticationFailed):
    """The password is right, and a second factor is asked for. ``passkey``: what the device is told to
    show one, as JSON; "" where there is none to show."""

    def __init__(self, code: str, passkey: str) -> None:
        super().__init__(code=code)
        self.passkey = passkey


class LeadOnly(PermissionDenied):
    """Something only a lead may do."""


class ProofNeeded(PermissionDenied):
    """Something for which the password has to be typed again."""


@dataclass(frozen=True)
class Fault:
    """One thing wrong at one place: a JSON pointer, a code for the sentence, and its facts."""

    place: str
    code: str
    fields: dict[str, Any]


class Conflict(Exception):
    """A write that clashes with what is already there. ``code`` names the sentence; ``faults``
    are the places it clashes at."""

    def __init__(self, code: str, faults: Sequence[Fault] = (), **fields: Any) -> None:
        super().__init__(code, fields)
        self.code = code
        self.faults = list(faults)
        self.fields = fields


# core refusals that are about the state of things, not about what was typed
_CONFLICTS = {
    "sheet.running",
    "sheet.already_done",
    "sheet.done_by",
    "sheet.not_started",
    "sheet.too_soon",
}
_TITLES = {
    400: "That did not fit",
    401: "Sign in first",
    403: "Not yours to do",
    404: "Not here",
    409: "Something changed",
    413: "That is too much",
    422: "Look at this again",
    429: "Too many tries",
    500: "That went wrong here",
    503: "Not just now",
}


def _respond(
    code: int,
    name: str,
    detail: str,
    errors: list[dict[str, Any]],
    headers: dict[str, str],
    question: bool = False,
) -> Response:
    body = {
        "type": f"urn:oilward:{name}",
        "title": "One question" if question else _TITLES.get(code, "Not possible"),
        "status": code,
        "detail": detail,
        "code": name,
        "question": question,
        "errors": errors,
    }
    return Response(body, status=code, headers=headers, content_type="application/problem+json")


def _item(fault: Fault) -> dict[str, Any]:
    return {
        "pointer": fault.place,
        "code": fault.code,
        "detail": sentence(fault.code, fault.fields),
        "options": [str(option) for option in fault.fields.get("options", [])],
        "sure": str(fault.fields.get("sure", "")),
    }


def _from_core(error: CoreError) -> Response:
    detail = sentence(error.code, error.fields)
    if "faults" in error.fields:
        items = [_item(fault) for fault in error.fields["faults"]]
        return _respond(422, error.code, detail, items, {})
    field = error.fields.get("field", "")
    item = _item(Fault(f"/{field}" if field else "", error.code, error.fields))
    code = status.HTTP_409_CONFLICT if error.code in _CONFLICTS else 422
    return _respond(code, error.code, detail, [item], {}, isinstance(error, Question))


def _flatten(detail: Any, pointer: str = "") -> list[dict[str, Any]]:
    if isinstance(detail, dict):
        return [e for key, value in detail.items() for e in _flatten(value, f"{pointer}/{key}")]
    if isinstance(detail, list):
        return [error for value in detail for error in _flatten(value, pointer)]
    code, said = getattr(detail, "code", "invalid"), str(detail)
    if code == "max_length" and (most := re.search(r"\d+", said)):
        said = sentence("door.too_long", {"most": most.group()})
    return [{"pointer": pointer, "code": code, "detail": said, "options": [], "sure": ""}]


def _from_framework(error: exceptions.APIException) -> Response:
    code = error.status_code
    headers: dict[str, str] = {}
    if wait := getattr(error, "wait", None):
        headers["Retry-After"] = str(ceil(wait))
    if isinstance(error, exceptions.NotAuthenticated | exceptions.AuthenticationFailed):
        headers["WWW-Authenticate"] = "Session"
    known = {401: "access.sign_in", 403: "access.role", 429: "access.slow_down", 503: "access.busy"}
    if code in known:
        name = str(error.get_codes()) if isinstance(error.get_codes(), str) else known[code]
        name = name if name.startswith("access.") else known[code]
        minutes = max(1, ceil(float(headers.get("Retry-After", 0)) / 60))
        answer = _respond(code, name, sentence(name, {"minutes": minutes}), [], headers)
        if passkey := getattr(error, "passkey", ""):
            answer.data["passkey"] = passkey
        return answer
    if isinstance(error, TooLarge):
        return _respond(code, error.default_code, str(error.detail), [], headers)
    errors = _flatten(error.detail)
    return _respond(code, "invalid", errors[0]["detail"] if errors else "", errors, headers)


def _asked(request: Any) -> tuple[str, str]:
    return getattr(request, "method", "") or "", getattr(request, "path", "")


def problem(error: Exception, context: dict[str, Any]) -> Response:
    """DRF's exception handler."""
    if isinstance(error, Http404):
        return _respond(404, "not_found", sentence("not_found", {}), [], {})
    if isinstance(error, PermissionDenied):
        asked = context.get("request")
        who = getattr(getattr(asked, "user", None), "username", "") or "nobody"
        log.info("not %s's to do: %s %s", who, *_asked(asked))
        if isinstance(error, ProofNeeded):
            return _respond(403, "access.prove", sentence("access.prove", {}), [], {})
        if isinstance(error, LeadOnly):
            return _respond(403, "access.lead", sentence("access.lead", {}), [], {})
        return _respond(403, "access.role", sentence("access.role", {}), [], {})
    if isinstance(error, Conflict):
        items = [_item(fault) for fault in error.faults]
        return _respond(409, error.code, sentence(error.code, error.fields), items, {})
    if isinstance(error, CoreError):
        return _from_core(error)
    if isinstance(error, exceptions.APIException):
        return _from_framework(error)
    if isinstance(error, IntegrityError) and isinstance(error.__cause__, UniqueViolation):
        # the same thing was sent twice at the same moment; the other one has written it down
        return _respond(409, "again", sentence("again", {}), [], {"Retry-After": "1"})
    return _unforeseen(error)


# what nobody foresaw: a value the database or a formula cannot take
_UNFIT = (DataError, IntegrityError, UnicodeError, OverflowError, RecursionError)


# the database is away, asked by a view or by the queue of background work
_AWAY = (OperationalError, InterfaceError, ConnectorException)


def _for_want_of_room(error: BaseException | None) -> bool:
    """Whether the disk is full."""
    while error is not None and not isinstance(error, DiskFull):
        error = error.__cause__
    return error is not None


def _unforeseen(error: Exception) -> Response:
    """One answer for everything else; what is our fault is written to the log under the id that
    the screen shows."""
    if isinstance(error, _AWAY):
        log.error("database away: %s", error.__cause__ or error)
        code = "door.full" if _for_want_of_room(error) else "door.away"
        return _respond(503, code, sentence(code, {}), [], {"Retry-After": "5"})
    if isinstance(error, _UNFIT):
        log.warning("unfit: %s", error)
        return _respond(422, "door.unfit", sentence("door.unfit", {}), [], {})
    request = uuid4().hex[:8]
    log.error("request %s failed", request, exc_info=error)
    detail = sentence("door.fault", {"request": request})
    return _respond(500, "door.fault", detail, [], {"X-Request-Id": request})


def server_error(request: HttpRequest) -> HttpResponse:
    """Django's handler500: what fell over outside of any view, in the same shape."""
    return page(_unforeseen(sys.exc_info()[1] or RuntimeError("unknown")))  # type: ignore[arg-type]


def not_possible(request: HttpRequest, exception: Exception) -> HttpResponse:
    """Django's handler400: what stopped before or after any view, in the same shape. Who is signed in
    cannot be noted while the database is away, and not once that sign-in was ended elsewhere."""
    cause: BaseException = exception
    while cause.__context__ and not isinstance(cause, _AWAY):
        cause = cause.__context__
    log.warning("not possible: %s %s: %r", *_asked(request), cause)
    if isinstance(cause, _AWAY):
        return page(_unforeseen(cause))
    if isinstance(exception, SessionInterrupted):
        return page(_respond(401, "access.sign_in", sentence("access.sign_in", {}), [], {}))
    return page(_respond(400, "door.not_possible", sentence("door.not_possible", {}), [], {}))


def not_from_here(request: HttpRequest, reason: str = "") -> HttpResponse:
    """Django's CSRF_FAILURE_VIEW: what another site's page may have sent."""
    log.warning("not from our own page: %s %s: %s", *_asked(request), reason)
    return page(_respond(403, "access.page", sentence("access.page", {}), [], {}))


def page(answer: Response) -> HttpResponse:
    """A refusal as it leaves from outside of any view."""
    body = JSONRenderer().render(answer.data)
    headers = {**answer.headers, "Content-Type": "application/problem+json"}
    return HttpResponse(body, status=answer.status_code, headers=headers)
