from uuid import UUID

from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema, inline_serializer
from rest_framework import serializers, status
from rest_framework.parsers import MultiPartParser
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView
from rest_framework_dataclasses.serializers import DataclassSerializer
from workshop import days
from workshop.access import MayWork, as_id, person_of

from . import selectors, services
from .shapes import BikeForm, BikeFormPage, PhotoLine, SchoolChoice, SchoolsPage
from .sheets.views import BLANK, CellWriteSerializer


class BikeFormSerializer(DataclassSerializer[BikeForm]):
    class Meta:
        dataclass = BikeForm
        extra_kwargs = {
            name: BLANK
            for name in (
                *("name", "owner", "new_on", "severity", "notes", "odometer", "hours", "plate"),
                *("frame_number", "year_built", "engine_number", "engine_at", "engine_had"),
            )
        }


class BikeFormPageSerializer(DataclassSerializer[BikeFormPage]):
    class Meta:
        dataclass = BikeFormPage


class SchoolsPageSerializer(DataclassSerializer[SchoolsPage]):
    class Meta:
        dataclass = SchoolsPage


class SchoolChoiceSerializer(DataclassSerializer[SchoolChoice]):
    class Meta:
        dataclass = SchoolChoice
        extra_kwargs = {"choice": BLANK, "bike": BLANK, "seen": BLANK}


class PhotoLineSerializer(DataclassSerializer[PhotoLine]):
    class Meta:
        dataclass = PhotoLine


def _form(bike_id: UUID | None, code: int = status.HTTP_200_OK) -> Response:
    return Response(BikeFormPageSerializer(selectors.bike_form(bike_id)).data, status=code)


class NewBikeView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="bike_form_empty", responses=BikeFormPageSerializer)
    def get(self, request: Request) -> Response:
        return _form(None)

    @extend_schema(
        operation_id="bike_create",
        request=BikeFormSerializer,
        responses={201: BikeFormPageSerializer},
    )
    def post(self, request: Request) -> Response:
        given = BikeFormSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        bike = services.create_bike(
            given.validated_data, actor=person_of(request), today=days.today()
        )
        return _form(bike.pk, status.HTTP_201_CREATED)


class BikeFormView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="bike_form_get", responses=BikeFormPageSerializer)
    def get(self, request: Request, bike_id: UUID) -> Response:
        return _form(bike_id)

    @extend_schema(
        operation_id="bike_change", request=BikeFormSerializer, responses=BikeFormPageSerializer
    )
    def put(self, request: Request, bike_id: UUID) -> Response:
        given = BikeFormSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        services.change_bike(
            bike_id, given.validated_data, actor=person_of(request), today=days.today()
        )
        return _form(bike_id)


class OwnValuesView(APIView):
    permission_classes = [MayWork]

    @extend_schema(
        operation_id="own_value_write", request=CellWriteSerializer, responses={204: None}
    )
    def put(self, request: Request, bike_id: UUID) -> Response:
        given = CellWriteSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        services.write_own(
            bike_id, given.validated_data, actor=person_of(request), today=days.today()
        )
        return Response(status=status.HTTP_204_NO_CONTENT)


class SchoolsView(APIView):
    permission_classes = [MayWork]

    @extend_schema(
        operation_id="schools_get",
        parameters=[OpenApiParameter("bike", OpenApiTypes.UUID)],
        responses=SchoolsPageSerializer,
    )
    def get(self, request: Request) -> Response:
        bike = request.query_params.get("bike", "")
        page = selectors.schools_page(as_id(bike) if bike else None, person_of(request))
        return Response(SchoolsPageSerializer(page).data)

    @extend_schema(
        operation_id="school_choose",
        request=SchoolChoiceSerializer,
        responses=SchoolsPageSerializer,
    )
    def put(self, request: Request) -> Response:
        given = SchoolChoiceSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        choice, person = given.validated_data, person_of(request)
        services.choose_school(choice, actor=person, today=days.today())
        page = selectors.schools_page(as_id(choice.bike) if choice.bike else None, person)
        return Response(SchoolsPageSerializer(page).data)


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

    @extend_schema(operation_id="photos_get", responses=PhotoLineSerializer(many=True))
    def get(self, request: Request, bike_id: UUID) -> Response:
        selectors.bike_form(bike_id)  # a bike that is not there has no pictures
        return Response(PhotoLineSerializer(selectors.photos_of(bike_id), many=True).data)

    @extend_schema(
        operation_id="photo_add",
        request={"multipart/form-data": _UPLOAD},
        responses=PhotoLineSerializer(many=True),
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
        return Response(PhotoLineSerializer(selectors.photos_of(bike_id), many=True).data)


class PhotoView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="photo_get", responses={(200, "image/jpeg"): OpenApiTypes.BINARY})
    def get(self, request: Request, photo_id: UUID) -> HttpResponse:
        return HttpResponse(
            selectors.photo_or_404(photo_id),
            content_type="image/jpeg",
            headers={"Cache-Control": "private, max-age=31536000, immutable"},
        )

    @extend_schema(operation_id="photo_remove", responses={204: None})
    def delete(self, request: Request, photo_id: UUID) -> Response:
        services.remove_photo(photo_id, actor=person_of(request))
        return Response(status=status.HTTP_204_NO_CONTENT)
