"""What every answer of the API carries."""

from collections.abc import Callable

from django.http import HttpRequest, HttpResponse


def no_store(get_response: Callable[[HttpRequest], HttpResponse]) -> Callable[..., HttpResponse]:
    """Nothing the API says is kept by a browser or a proxy, unless the view says how long."""

    def answer(request: HttpRequest) -> HttpResponse:
        response = get_response(request)
        if request.path.startswith("/api/") and not response.has_header("Cache-Control"):
            response["Cache-Control"] = "no-store"
        return response

    return answer
