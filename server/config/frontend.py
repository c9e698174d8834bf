"""Every page of the web client is the same file; the client routes."""

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.views.decorators.csrf import ensure_csrf_cookie


@ensure_csrf_cookie
def front_end(request: HttpRequest) -> HttpResponse:
    index = settings.WEB / "index.html"
    if not index.is_file():
        return HttpResponse("The web client is not built. Run ./ward demo.", status=503)
    response = HttpResponse(index.read_bytes(), content_type="text/html; charset=utf-8")
    response["Cache-Control"] = "no-cache"
    return response
