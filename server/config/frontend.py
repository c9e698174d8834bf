"""Every page of the web client is the same file; the client routes."""

from django.conf import settings
from django.http import Http404, HttpRequest, HttpResponse
from django.views.decorators.csrf import ensure_csrf_cookie
from drf_spectacular.utils import extend_schema
from rest_framework.permissions import AllowAny
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView


@ensure_csrf_cookie
def front_end(request: HttpRequest) -> HttpResponse:
    index = settings.WEB / "index.html"
    if not index.is_file():
        return HttpResponse("The web client is not built. Run ./ward demo.", status=503)
    response = HttpResponse(index.read_bytes(), content_type="text/html; charset=utf-8")
    response["Cache-Control"] = "no-cache"
    return response


@extend_schema(exclude=True)
class NotHereView(APIView):
    """Any other path below api/: the same problem details as everywhere."""

    permission_classes = [AllowAny]

    def get(self, request: Request) -> Response:
        raise Http404
