from uuid import UUID

from config.asked import Asked
from config.shaped import sent, shaped, told
from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema, inline_serializer
from rest_framework import serializers, status
from rest_framework.parsers import MultiPartParser
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView
from workshop import days
from workshop.access import MayWork, as_id, person_of
from workshop.pictures import MOST_BODY

from . import selectors, services
from .shapes import BikeForm, BikeFormPage, PhotoLine, SchoolChoice, SchoolsPage
from .sheets.shapes import CellWrite, OwnCheck


def _form(bike_id: UUID | None, code: int = status.HTTP_200_OK) -> Response:
    return Response(told(BikeFormPage, selectors.bike_form(bike_id)), status=code)


class NewBikeView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="bike_form_empty", responses=shaped(BikeFormPage))
    def get(self, request: Request) -> Response:
        return _form(None)

    @extend_schema(
        operation_id="bike_create",
        request=shaped(BikeForm),
        responses={201: shaped(BikeFormPage)},
    )
    def post(self, request: Request) -> Response:
        given = sent(BikeForm, request)
        bike = services.create_bike(given, actor=person_of(request), today=days.today())
        return _form(bike.pk, status.HTTP_201_CREATED)


class BikeFormView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="bike_form_get", responses=shaped(BikeFormPage))
    def get(self, request: Request, bike_id: UUID) -> Response:
        return _form(bike_id)

    @extend_schema(
        operation_id="bike_change", request=shaped(BikeForm), responses=shaped(BikeFormPage)
    )
    def put(self, request: Request, bike_id: UUID) -> Response:
        given = sent(BikeForm, request)
        services.change_bike(bike_id, given, actor=person_of(request), today=days.today())
        return _form(bike_id)


class OwnValuesView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="own_value_write", request=shaped(CellWrite), responses={204: None})
    def put(self, request: Request, bike_id: UUID) -> Response:
        given = sent(CellWrite, request)
        services.write_own(bike_id, given, actor=person_of(request), today=days.today())
        return Response(status=status.HTTP_204_NO_CONTENT)


class OwnChecksView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="own_value_check", request=shaped(OwnCheck), responses={204: None})
    def post(self, request: Request, bike_id: UUID) -> Response:
        given, actor = sent(OwnCheck, request), person_of(request)
        services.check_own(bike_id, given.path, given.revision, actor=actor, today=days.today())
        return Response(status=status.HTTP_204_NO_CONTENT)


class SchoolsView(APIView):
    permission_classes = [MayWork]

    @extend_schema(
        operation_id="schools_get",
        parameters=[OpenApiParameter("bike", OpenApiTypes.UUID)],
        responses=shaped(SchoolsPage),
    )
    def get(self, request: Request) -> Response:
        bike = Asked(request.query_params).text("bike")
        page = selectors.schools_page(as_id(bike) if bike else None, person_of(request))
        return Response(told(SchoolsPage, page))

    @extend_schema(
        operation_id="school_choose",
        request=shaped(SchoolChoice),
        responses=shaped(SchoolsPage),
    )
    def put(self, request: Request) -> Response:
        given = sent(SchoolChoice, request)
        choice, person = given, person_of(request)
        services.choose_school(choice, actor=person, today=days.today())
        page = selectors.schools_page(as_id(choice.bike) if choice.bike else None, person)
        return Response(told(SchoolsPage, page))


_UPLOAD = inline_serializer(
    "PhotoUpload",
    {
        "id": serializers.UUIDField(),
        "picture": serializers.FileField(),
        "caption": serializers.CharField(required=False, allow_blank=True),
    },
)


class PhotosView(APIView):
    permission_classes = [MayWork]
    parser_classes = [MultiPartParser]
    most_body = MOST_BODY

    @extend_schema(operation_id="photos_get", responses=shaped(PhotoLine)(many=True))
    def get(self, request: Request, bike_id: UUID) -> Response:
        selectors.bike_form(bike_id)  # a bike that is not there has no pictures
        return Response(told(PhotoLine, selectors.photos_of(bike_id)))

    @extend_schema(
        operation_id="photo_add",
        request={"multipart/form-data": _UPLOAD},
        responses=shaped(PhotoLine)(many=True),
    )
    def post(self, request: Request, bike_id: UUID) -> Response:
        given = _UPLOAD.__class__(data=request.data)
        given.is_valid(raise_exception=True)
        found = given.validated_data
        services.add_photo(
            bike_id,
            found["id"],
            found["picture"].read(),
            found.get("caption", ""),
            actor=person_of(request),
            today=days.today(),
        )
        return Response(told(PhotoLine, selectors.photos_of(bike_id)))


class PhotoView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="photo_get", responses={(200, "image/jpeg"): OpenApiTypes.BINARY})
    def get(self, request: Request, photo_id: UUID) -> HttpResponse:
        return HttpResponse(
            selectors.photo_or_404(photo_id),
            content_type="image/jpeg",
            headers={"Cache-Control": "private, no-store"},
        )

    @extend_schema(operation_id="photo_remove", responses={204: None})
    def delete(self, request: Request, photo_id: UUID) -> Response:
        services.remove_photo(photo_id, actor=person_of(request))
        return Response(status=status.HTTP_204_NO_CONTENT)
