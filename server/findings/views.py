from uuid import UUID

from django.utils import timezone
from drf_spectacular.utils import extend_schema
from rest_framework import status
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView
from rest_framework_dataclasses.serializers import DataclassSerializer
from workshop.access import MayWork, person_of

from . import mapping, services
from .mapping import AnswerLine
from .shapes import NewAnswer


class NewAnswerSerializer(DataclassSerializer[NewAnswer]):
    class Meta:
        dataclass = NewAnswer


class AnswerLineSerializer(DataclassSerializer[AnswerLine]):
    class Meta:
        dataclass = AnswerLine


class AnswersView(APIView):
    permission_classes = [MayWork]

    @extend_schema(
        operation_id="finding_answer",
        request=NewAnswerSerializer,
        responses={201: AnswerLineSerializer},
    )
    def post(self, request: Request, finding_id: UUID) -> Response:
        given = NewAnswerSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        row = services.answer(
            given.validated_data, finding_id, actor=person_of(request), now=timezone.now()
        )
        line = AnswerLineSerializer(mapping.answer_line(row)).data
        return Response(line, status=status.HTTP_201_CREATED)
