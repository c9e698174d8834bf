from uuid import UUID

from drf_spectacular.utils import extend_schema
from rest_framework import status
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView
from rest_framework_dataclasses.serializers import DataclassSerializer
from workshop import days
from workshop.access import MayWork, person_of

from . import services
from .shapes import OwnersWord


class OwnersWordSerializer(DataclassSerializer[OwnersWord]):
    class Meta:
        dataclass = OwnersWord
        extra_kwargs = {
            name: {"allow_blank": True} for name in ("reservoir", "done_on", "odometer")
        }


class OwnersWordView(APIView):
    permission_classes = [MayWork]

    @extend_schema(
        operation_id="owners_word_take", request=OwnersWordSerializer, responses={204: None}
    )
    def post(self, request: Request, bike_id: UUID) -> Response:
        given = OwnersWordSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        services.take_word(
            bike_id, given.validated_data, actor=person_of(request), today=days.today()
        )
        return Response(status=status.HTTP_204_NO_CONTENT)
