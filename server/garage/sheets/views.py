from typing import Any

from django.http import HttpResponse
from django.utils import timezone
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework import status
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView
from rest_framework_dataclasses.serializers import DataclassSerializer
from workshop import days
from workshop.access import MayWork, person_of

from . import selectors, services
from .shapes import (
    Answer,
    Approval,
    CellWrite,
    CellWrites,
    CopyFrom,
    Models,
    NewModel,
    NewPart,
    Paths,
    Reading,
    SheetPage,
    Table,
    TableReading,
)

BLANK: dict[str, Any] = {"allow_blank": True}


class ModelsSerializer(DataclassSerializer[Models]):
    class Meta:
        dataclass = Models


class NewModelSerializer(DataclassSerializer[NewModel]):
    class Meta:
        dataclass = NewModel
        extra_kwargs = {
            name: BLANK for name in ("make", "name", "year", "layout", "displacement_cc")
        }


class SheetPageSerializer(DataclassSerializer[SheetPage]):
    class Meta:
        dataclass = SheetPage


class ReadingSerializer(DataclassSerializer[Reading]):
    class Meta:
        dataclass = Reading


class CellWriteSerializer(DataclassSerializer[CellWrite]):
    class Meta:
        dataclass = CellWrite
        extra_kwargs = {"written": BLANK, "document": BLANK, "page": BLANK}


class CellWritesSerializer(DataclassSerializer[CellWrites]):
    cells = CellWriteSerializer(many=True)

    class Meta:
        dataclass = CellWrites


class ApprovalSerializer(DataclassSerializer[Approval]):
    class Meta:
        dataclass = Approval


class PathsSerializer(DataclassSerializer[Paths]):
    class Meta:
        dataclass = Paths


class NewPartSerializer(DataclassSerializer[NewPart]):
    class Meta:
        dataclass = NewPart
        extra_kwargs = {"reservoir": BLANK, "key": BLANK, "label": BLANK}


class AnswerSerializer(DataclassSerializer[Answer]):
    class Meta:
        dataclass = Answer
        extra_kwargs = {"reason": BLANK}


class CopyFromSerializer(DataclassSerializer[CopyFrom]):
    class Meta:
        dataclass = CopyFrom


class TableSerializer(DataclassSerializer[Table]):
    class Meta:
        dataclass = Table
        extra_kwargs = {"text": BLANK, "reservoir": BLANK}


class TableReadingSerializer(DataclassSerializer[TableReading]):
    class Meta:
        dataclass = TableReading


def _given(serializer: type[DataclassSerializer[Any]], request: Request) -> Any:
    given = serializer(data=request.data)
    given.is_valid(raise_exception=True)
    return given.validated_data


def _page(sheet_id: int, request: Request, code: int = status.HTTP_200_OK) -> Response:
    page = selectors.sheet_page(sheet_id, person_of(request))
    return Response(SheetPageSerializer(page).data, status=code)


class ModelsView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="models_get", responses=ModelsSerializer)
    def get(self, request: Request) -> Response:
        return Response(ModelsSerializer(selectors.models()).data)

    @extend_schema(
        operation_id="model_create",
        request=NewModelSerializer,
        responses={201: SheetPageSerializer},
    )
    def post(self, request: Request) -> Response:
        sheet = services.create_model(_given(NewModelSerializer, request), actor=person_of(request))
        return _page(sheet.pk, request, status.HTTP_201_CREATED)


class ModelView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="model_delete", responses={204: None})
    def delete(self, request: Request, model_id: int) -> Response:
        services.delete_model(model_id, actor=person_of(request))
        return Response(status=status.HTTP_204_NO_CONTENT)


class DraftView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="draft_start", request=None, responses=SheetPageSerializer)
    def post(self, request: Request, model_id: int) -> Response:
        return _page(services.start_draft(model_id, actor=person_of(request)).pk, request)


class SheetView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="sheet_get", responses=SheetPageSerializer)
    def get(self, request: Request, sheet_id: int) -> Response:
        return _page(sheet_id, request)

    @extend_schema(operation_id="sheet_discard", responses={204: None})
    def delete(self, request: Request, sheet_id: int) -> Response:
        services.discard(sheet_id, actor=person_of(request))
        return Response(status=status.HTTP_204_NO_CONTENT)


class CellsView(APIView):
    permission_classes = [MayWork]

    @extend_schema(
        operation_id="cells_write", request=CellWritesSerializer, responses=SheetPageSerializer
    )
    def put(self, request: Request, sheet_id: int) -> Response:
        writes = _given(CellWritesSerializer, request).cells
        today = days.today()
        services.write_cells(sheet_id, writes, actor=person_of(request), today=today)
        return _page(sheet_id, request)


class ReadingView(APIView):
    """Says back what a value means, while it is typed."""

    permission_classes = [MayWork]

    @extend_schema(
        operation_id="cell_reading",
        parameters=[
            OpenApiParameter("path", str, required=True),
            OpenApiParameter("written", str, required=True),
        ],
        responses=ReadingSerializer,
    )
    def get(self, request: Request, sheet_id: int) -> Response:
        path, written = (
            request.query_params.get("path", ""),
            request.query_params.get("written", ""),
        )
        answer = selectors.reading(sheet_id, path, written[:400], person_of(request))
        return Response(ReadingSerializer(answer).data)


class ChecksView(APIView):
    permission_classes = [MayWork]

    @extend_schema(
        operation_id="cells_check", request=PathsSerializer, responses=SheetPageSerializer
    )
    def post(self, request: Request, sheet_id: int) -> Response:
        paths, today = _given(PathsSerializer, request).paths, days.today()
        services.check_cells(sheet_id, paths, actor=person_of(request), today=today)
        return _page(sheet_id, request)


class PartsView(APIView):
    permission_classes = [MayWork]

    @extend_schema(
        operation_id="part_add", request=NewPartSerializer, responses=SheetPageSerializer
    )
    def post(self, request: Request, sheet_id: int) -> Response:
        new, today = _given(NewPartSerializer, request), days.today()
        actor = person_of(request)
        services.add_part(sheet_id, new, actor=actor, today=today)
        return _page(sheet_id, request)

    @extend_schema(
        operation_id="part_remove",
        parameters=[
            OpenApiParameter("reservoir", str, required=True),
            OpenApiParameter("part", str),
        ],
        responses={200: SheetPageSerializer},
    )
    def delete(self, request: Request, sheet_id: int) -> Response:
        asked = request.query_params
        actor = person_of(request)
        services.remove_part(
            sheet_id, asked.get("reservoir", ""), asked.get("part", ""), actor=actor
        )
        return _page(sheet_id, request)


class CopyView(APIView):
    permission_classes = [MayWork]

    @extend_schema(
        operation_id="sheet_copy", request=CopyFromSerializer, responses=SheetPageSerializer
    )
    def post(self, request: Request, sheet_id: int) -> Response:
        given, today = _given(CopyFromSerializer, request), days.today()
        actor = person_of(request)
        services.copy_missing(sheet_id, given.sheet, given.reservoirs, actor=actor, today=today)
        return _page(sheet_id, request)


class AnswersView(APIView):
    permission_classes = [MayWork]

    @extend_schema(
        operation_id="doubt_answer", request=AnswerSerializer, responses=SheetPageSerializer
    )
    def post(self, request: Request, sheet_id: int) -> Response:
        answer, today = _given(AnswerSerializer, request), days.today()
        services.answer_doubt(sheet_id, answer, actor=person_of(request), today=today)
        return _page(sheet_id, request)


class ApprovalView(APIView):
    permission_classes = [MayWork]

    @extend_schema(
        operation_id="sheet_approve", request=ApprovalSerializer, responses=SheetPageSerializer
    )
    def post(self, request: Request, sheet_id: int) -> Response:
        named, now = _given(ApprovalSerializer, request).unchecked, timezone.now()
        services.approve(sheet_id, actor=person_of(request), now=now, unchecked=named)
        return _page(sheet_id, request)


class TableView(APIView):
    """What a pasted table would write. Writes nothing."""

    permission_classes = [MayWork]

    @extend_schema(
        operation_id="table_read", request=TableSerializer, responses=TableReadingSerializer
    )
    def post(self, request: Request, sheet_id: int) -> Response:
        reading = selectors.table(sheet_id, _given(TableSerializer, request), person_of(request))
        return Response(TableReadingSerializer(reading).data)


class DocumentView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="sheet_export", responses=OpenApiTypes.OBJECT)
    def get(self, request: Request, sheet_id: int) -> Response:
        return Response(selectors.document(sheet_id))


class ImportView(APIView):
    permission_classes = [MayWork]

    @extend_schema(
        operation_id="sheet_import",
        request=OpenApiTypes.OBJECT,
        responses={201: SheetPageSerializer},
    )
    def post(self, request: Request) -> Response:
        today = days.today()
        sheet = services.import_document(request.data, actor=person_of(request), today=today)
        return _page(sheet.pk, request, status.HTTP_201_CREATED)


class FastenersView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="fasteners_csv", responses={(200, "text/csv"): OpenApiTypes.STR})
    def get(self, request: Request, sheet_id: int) -> HttpResponse:
        name = f'attachment; filename="fasteners-{sheet_id}.csv"'
        return HttpResponse(
            selectors.fasteners_csv(sheet_id),
            content_type="text/csv; charset=utf-8",
            headers={"Content-Disposition": name},
        )
