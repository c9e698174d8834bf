from uuid import UUID

from config.shaped import sent, shaped, told
from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView
from workshop import days
from workshop.access import MayWork, person_of

from . import selectors, services
from .shapes import Waste, WasteForm


class WasteView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="waste_get", responses=shaped(Waste))
    def get(self, request: Request) -> Response:
        return Response(told(Waste, selectors.waste(person_of(request))))

    @extend_schema(operation_id="waste_write", request=shaped(WasteForm), responses=shaped(Waste))
    def post(self, request: Request) -> Response:
        given = sent(WasteForm, request)
        services.write(given, actor=person_of(request), today=days.today())
        return self.get(request)


class SlipView(APIView):
    permission_classes = [MayWork]

    @extend_schema(
        operation_id="waste_slip", responses={(200, "application/pdf"): OpenApiTypes.BINARY}
    )
    def get(self, request: Request, row_id: UUID) -> HttpResponse:
        paper = selectors.slip_pdf(row_id, person_of(request))
        name = f'inline; filename="used-oil-{row_id}.pdf"'
        return HttpResponse(
            paper, content_type="application/pdf", headers={"Content-Disposition": name}
        )
