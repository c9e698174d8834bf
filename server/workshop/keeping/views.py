from django.utils import timezone
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView
from rest_framework_dataclasses.serializers import DataclassSerializer

from workshop.access import MayWork, person_of

from . import selectors
from .shapes import Keeping


class KeepingSerializer(DataclassSerializer[Keeping]):
    class Meta:
        dataclass = Keeping


class KeepingView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="keeping", responses=KeepingSerializer)
    def get(self, request: Request) -> Response:
        return Response(
            KeepingSerializer(selectors.keeping(person_of(request), timezone.now())).data
        )
