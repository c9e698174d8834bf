from uuid import UUID

from config.shaped import sent, shaped, told
from django.http import HttpResponse
from django.utils import timezone
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema, inline_serializer
from rest_framework import serializers, status
from rest_framework.parsers import MultiPartParser
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView
from workshop.access import MayWork, person_of
from workshop.pictures import MOST_BODY

from . import mapping, selectors, services
from .mapping import AnswerLine, OverruledLine, Plug
from .shapes import NewAnswer, NewOverruling, PictureKept


class AnswersView(APIView):
    permission_classes = [MayWork]

    @extend_schema(
        operation_id="finding_answer",
        request=shaped(NewAnswer),
        responses={201: shaped(AnswerLine)},
    )
    def post(self, request: Request, finding_id: UUID) -> Response:
        given = sent(NewAnswer, request)
        row = services.answer(given, finding_id, actor=person_of(request), now=timezone.now())
        line = told(AnswerLine, mapping.answer_line(row))
        return Response(line, status=status.HTTP_201_CREATED)


class OverrulingsView(APIView):
    permission_classes = [MayWork]

    @extend_schema(
        operation_id="finding_overrule",
        request=shaped(NewOverruling),
        responses={201: shaped(OverruledLine)},
    )
    def post(self, request: Request, finding_id: UUID) -> Response:
        given = sent(NewOverruling, request)
        row = services.overrule(given, finding_id, actor=person_of(request), now=timezone.now())
        line = told(OverruledLine, mapping.overruled_line(row))
        return Response(line, status=status.HTTP_201_CREATED)


_UPLOAD = inline_serializer(
    "PlugPictureUpload", {"id": serializers.UUIDField(), "picture": serializers.FileField()}
)


class PicturesView(APIView):
    permission_classes = [MayWork]
    parser_classes = [MultiPartParser]
    most_body = MOST_BODY

    @extend_schema(
        operation_id="plug_picture_add",
        request={"multipart/form-data": _UPLOAD},
        responses={201: shaped(PictureKept)},
    )
    def post(self, request: Request, bike_id: UUID) -> Response:
        given = _UPLOAD.__class__(data=request.data)
        given.is_valid(raise_exception=True)
        upload = given.validated_data
        kept = services.add_picture(
            bike_id,
            upload["id"],
            upload["picture"].read(),
            actor=person_of(request),
            now=timezone.now(),
        )
        line = told(PictureKept, PictureKept(str(kept)))
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
            headers={"Cache-Control": "private, no-store"},
        )


class FindingsView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="findings_of", responses=shaped(Plug)(many=True))
    def get(self, request: Request, bike_id: UUID, reservoir: str) -> Response:
        """What one reservoir's plug has shown, newest first."""
        found = [mapping.plug(row) for row in selectors.of_reservoir(bike_id, reservoir)]
        return Response(told(Plug, found))
