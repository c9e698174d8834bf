from uuid import UUID

from cattrs.preconf.json import make_converter
from config.shaped import sent, shaped, told
from django.shortcuts import get_object_or_404
from django.utils import timezone
from drf_spectacular.utils import OpenApiResponse, extend_schema
from oilward_bench import RunSheet
from rest_framework import status
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView
from workshop.access import (
    MayWork,
    countersigner,
    person_of,
    second_person,
)

from . import marks, selectors, services
from .models import Visit
from .opening import services as opening
from .shapes import AddedTask, NewEntry, NewVisit, Offer, Reason, SecondLook, Signature
from .signing import services as signing

_plain = make_converter()


def answer(visit: Visit, request: Request, code: int = status.HTTP_200_OK) -> Response:
    """A visit's run sheet and its mark, with which whoever has it asks whether it still holds."""
    person = person_of(request)
    mark = f'"{marks.mark(visit, person)}"'
    now = timezone.now()
    if request.headers.get("If-None-Match") == mark:
        # the clock goes on all the same
        headers = {"ETag": mark, "Oil-Ward-Now": now.isoformat()}
        return Response(status=status.HTTP_304_NOT_MODIFIED, headers=headers)
    sheet = selectors.run_sheet(visit, person, now)
    # plain words and numbers already: the serializer describes them, and would take as long as all
    # the rest
    return Response(_plain.unstructure(sheet), status=code, headers={"ETag": mark})


class OffersView(APIView):
    """What a visit of a bike can consist of."""

    @extend_schema(operation_id="bike_offers", responses=shaped(Offer)(many=True))
    def get(self, request: Request, bike_id: UUID) -> Response:
        found = selectors.offers(bike_id, person_of(request))
        return Response(told(Offer, found))


class VisitsView(APIView):
    permission_classes = [MayWork]

    @extend_schema(
        operation_id="visit_open",
        request=shaped(NewVisit),
        responses={201: shaped(RunSheet)},
    )
    def post(self, request: Request) -> Response:
        given = sent(NewVisit, request)
        visit = opening.open_visit(given, actor=person_of(request), now=timezone.now())
        return answer(visit, request, status.HTTP_201_CREATED)


class VisitView(APIView):
    permission_classes = [MayWork]

    @extend_schema(
        operation_id="visit_get",
        responses={200: shaped(RunSheet), 304: OpenApiResponse(description="As it was.")},
    )
    def get(self, request: Request, visit_id: UUID) -> Response:
        """With the mark of an earlier answer (``If-None-Match``), only whether it still holds."""
        return answer(get_object_or_404(selectors.visits(), pk=visit_id), request)


class EntriesView(APIView):
    permission_classes = [MayWork]

    @extend_schema(
        operation_id="entry_record", request=shaped(NewEntry), responses=shaped(RunSheet)
    )
    def post(self, request: Request, visit_id: UUID) -> Response:
        given = sent(NewEntry, request)
        visit = services.record_entry(visit_id, given, actor=person_of(request), now=timezone.now())
        return answer(visit, request)


class TasksView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="task_add", request=shaped(AddedTask), responses=shaped(RunSheet))
    def post(self, request: Request, visit_id: UUID) -> Response:
        given = sent(AddedTask, request)
        visit = opening.add_task(visit_id, given, actor=person_of(request), now=timezone.now())
        return answer(visit, request)


class TaskView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="task_take_out", responses={200: shaped(RunSheet)})
    def delete(self, request: Request, visit_id: UUID, reservoir: str) -> Response:
        return answer(opening.take_out(visit_id, reservoir, actor=person_of(request)), request)


class SignatureView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="visit_sign", request=shaped(Signature), responses=shaped(RunSheet))
    def post(self, request: Request, visit_id: UUID) -> Response:
        given = sent(Signature, request)
        named, actor, beside = given, person_of(request), None
        if named.username:
            beside = countersigner(request, named.username, named.password, actor)
        visit = signing.sign(
            visit_id,
            actor=actor,
            now=timezone.now(),
            beside=beside,
            ride_out=named.ride_out,
            taken=named.taken,
        )
        return answer(visit, request)


class SecondView(APIView):
    permission_classes = [MayWork]

    @extend_schema(
        operation_id="visit_second", request=shaped(SecondLook), responses=shaped(RunSheet)
    )
    def post(self, request: Request, visit_id: UUID) -> Response:
        """A second person stands for a fastener, with a PIN or password, never with a tick."""
        given, actor = sent(SecondLook, request), person_of(request)
        beside, alone = second_person(request, given.username, given.password, actor)
        visit = services.second_look(
            visit_id, given, beside=beside, alone=alone, actor=actor, now=timezone.now()
        )
        return answer(visit, request)


class LeaveView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="visit_leave", request=shaped(Reason), responses=shaped(RunSheet))
    def post(self, request: Request, visit_id: UUID) -> Response:
        given = sent(Reason, request)
        visit = signing.leave(visit_id, given.reason, actor=person_of(request), now=timezone.now())
        return answer(visit, request)
