"""What every answer of the API carries."""

from collections.abc import Callable
from typing import Any

from django.conf import settings
from django.http import HttpRequest, HttpResponse

from .problems import TooLarge, page, problem


def no_store(get_response: Callable[[HttpRequest], HttpResponse]) -> Callable[..., HttpResponse]:
    """Nothing the API says is kept by a browser or a proxy, unless the view says how long."""

    def answer(request: HttpRequest) -> HttpResponse:
        response = get_response(request)
        if request.path.startswith("/api/") and not response.has_header("Cache-Control"):
            response["Cache-Control"] = "no-store"
        return response

    return answer


def body_limit(get_response: Callable[[HttpRequest], HttpResponse]) -> Callable[..., HttpResponse]:
    """No more comes in than its address takes: ``most_body`` bytes of the view, where it says so."""

    def process_view(
        request: HttpRequest, view: Any, args: object, kwargs: object
    ) -> HttpResponse | None:
        most: int = getattr(getattr(view, "cls", None), "most_body", settings.MOST_BODY)
        told = request.META.get("CONTENT_LENGTH") or "0"
        if told.isdecimal() and int(told) <= most:
            return None
        return page(problem(TooLarge(most), {"request": request}))

    def answer(request: HttpRequest) -> HttpResponse:
        return get_response(request)

    answer.process_view = process_view  # type: ignore[attr-defined]
    return answer


POLICY = (
    "default-src 'self'; script-src 'self'; style-src 'self' 'unsafe-inline'; "
    "img-src 'self' data: blob:; connect-src 'self'{events}; object-src 'none'; base-uri 'none'; "
    "form-action 'self'; frame-ancestors 'none'"
)


def content_policy(
    get_response: Callable[[HttpRequest], HttpResponse],
) -> Callable[..., HttpResponse]:
    """Pages run no script but their own, and are framed by nobody. Components write styles as they go;
    changes are told from another port where no proxy brings both together."""
    port = settings.EVENTS_AT.partition("/")[0]
    events = f" http://127.0.0.1{port} http://localhost{port}" if port else ""

    def answer(request: HttpRequest) -> HttpResponse:
        response = get_response(request)
        response.headers.setdefault("Content-Security-Policy", POLICY.format(events=events))
        return response

    return answer
