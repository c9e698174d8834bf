from config.asked import Asked
from config.shaped import shaped, told
from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from workshop.access import MayWork, person_of

from . import selectors
from .shapes import Audit, AuditAsked

FILTERS = ("by", "act", "since", "until", "text")
NARROWED = [OpenApiParameter(name, str) for name in FILTERS]


def _asked(request: Request) -> AuditAsked:
    asked = Asked(request.query_params)
    narrowed = {name: asked.text(name) for name in FILTERS}
    return AuditAsked(page=asked.whole("page", 1), **narrowed)


class AuditView(APIView):
    permission_classes = [MayWork]

    @extend_schema(
        operation_id="audit",
        parameters=[OpenApiParameter("page", int), *NARROWED],
        responses=shaped(Audit),
    )
    def get(self, request: Request) -> Response:
        return Response(told(Audit, selectors.audit(_asked(request), person_of(request))))


class AuditTableView(APIView):
    permission_classes = [MayWork]

    @extend_schema(
        operation_id="audit_csv",
        parameters=NARROWED,
        responses={(200, "text/csv"): OpenApiTypes.STR},
    )
    def get(self, request: Request) -> HttpResponse:
        return HttpResponse(
            selectors.table(_asked(request), person_of(request)),
            content_type="text/csv; charset=utf-8",
            headers={"Content-Disposition": 'attachment; filename="who-changed-what.csv"'},
        )
