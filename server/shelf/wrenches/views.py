from config.shaped import sent, shaped, told
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView
from workshop.access import MayWork, person_of

from . import selectors, services
from .shapes import Wrenches, WrenchForm


class WrenchesView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="wrenches", responses=shaped(Wrenches))
    def get(self, request: Request) -> Response:
        return Response(told(Wrenches, selectors.wrenches()))

    @extend_schema(
        operation_id="wrench_save", request=shaped(WrenchForm), responses=shaped(Wrenches)
    )
    def put(self, request: Request) -> Response:
        given = sent(WrenchForm, request)
        services.save_wrench(given, actor=person_of(request))
        return Response(told(Wrenches, selectors.wrenches()))
