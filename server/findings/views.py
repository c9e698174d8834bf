from uuid import UUID

from django.http import HttpResponse
from django.utils import timezone
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema, inline_serializer
from rest_framework import serializers, status
from rest_framework.parsers import MultiPartParser
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView
from rest_framework_dataclasses.serializers import DataclassSerializer
from workshop.access import MayWork, person_of

from . import mapping, selectors, services
from .mapping import AnswerLine, OverruledLine, Plug
from .shapes import NewAnswer, NewOverruling, PictureKept


class NewAnswerSerializer(DataclassSerializer[NewAnswer]):
    class Meta:
        dataclass = NewAnswer


class AnswerLineSerializer(DataclassSerializer[AnswerLine]):
    class Meta:
        dataclass = AnswerLine


class NewOverrulingSerializer(DataclassSerializer[NewOverruling]):
    class Meta:
        dataclass = NewOverruling


class OverruledLineSerializer(DataclassSerializer[OverruledLine]):
    class Meta:
        dataclass = OverruledLine


class PictureKeptSerializer(DataclassSerializer[PictureKept]):
    class Meta:
        dataclass = PictureKept


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


class OverrulingsView(APIView):
    permission_classes = [MayWork]

    @extend_schema(
        operation_id="finding_overrule",
        request=NewOverrulingSerializer,
        responses={201: OverruledLineSerializer},
    )
    def post(self, request: Request, finding_id: UUID) -> Response:
        given = NewOverrulingSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        row = services.overrule(
            given.validated_data, finding_id, actor=person_of(request), now=timezone.now()
        )
        line = OverruledLineSerializer(mapping.overruled_line(row)).data
        return Response(line, status=status.HTTP_201_CREATED)


_UPLOAD = inline_serializer(
    "PlugPictureUpload", {"id": serializers.UUIDField(), "picture": serializers.FileField()}
)


class PicturesView(APIView):
    permission_classes = [MayWork]
    parser_classes = [MultiPartParser]

    @extend_schema(
        operation_id="plug_picture_add",
        request={"multipart/form-data": _UPLOAD},
        responses={201: PictureKeptSerializer},
    )
    def post(self, request: Request, bike_id: UUID) -> Response:
        given = _UPLOAD.__class__(data=request.data)
        given.is_valid(raise_exception=True)
        told = given.validated_data
        kept = services.add_picture(
            bike_id,
            told["id"],
            told["picture"].read(),
            actor=person_of(request),
            now=timezone.now(),
        )
        line = PictureKeptSerializer(PictureKept(str(kept))).data
        return Response(line, status=status.HTTP_201_CREATED)


class PictureView(APIView):
    permission_classes = [MayWork]

    @extend_schema(
        operation_id="plug_picture_get", responses={(200, "image/jpeg"): OpenApiTypes.BINARY}
    )
    def get(self, request: Request, picture_id: UUID) -> HttpResponse:
        return HttpResponse(
            selectors.picture_or_404(picture_id),
            content_type="image/jpeg",
            headers={"Cache-Control": "private, max-age=31536000, immutable"},
        )


class PlugSerializer(DataclassSerializer[Plug]):
    class Meta:
        dataclass = Plug


class FindingsView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="findings_of", responses=PlugSerializer(many=True))
    def get(self, request: Request, bike_id: UUID, reservoir: str) -> Response:
        """What one reservoir's plug has shown, newest first."""
        found = [mapping.plug(row) for row in selectors.of_reservoir(bike_id, reservoir)]
        return Response(PlugSerializer(found, many=True).data)
