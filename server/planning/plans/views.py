from uuid import UUID

from config.shaped import sent, shaped, told
from django.http import HttpResponse
from django.utils import timezone
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework import status
from rest_framework.permissions import AllowAny
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView
from workshop import days
from workshop.access import MayWork, person_of

from . import selectors, services
from .shapes import Booked, Calendar, NewPlannedVisit, PlanAsked, PlanPage


def _calendar(code: int = status.HTTP_200_OK) -> Response:
    found = selectors.calendar(days.today())
    return Response(told(Calendar, found), status=code)


class MayAsk(MayWork):
    """A plan is asked for with a body, but asking writes nothing: readers may."""

    def has_permission(self, request: Request, view: APIView) -> bool:
        return bool(request.user and request.user.is_authenticated)


class PlanView(APIView):
    """The plan of a visit: proposal, run order, kit. Writes nothing."""

    permission_classes = [MayAsk]

    @extend_schema(operation_id="plan_get", request=shaped(PlanAsked), responses=shaped(PlanPage))
    def post(self, request: Request, bike_id: UUID) -> Response:
        given = sent(PlanAsked, request)
        today = days.today()
        page = selectors.plan(bike_id, given, person_of(request), today)
        return Response(told(PlanPage, page))


class CalendarView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="calendar_get", responses=shaped(Calendar))
    def get(self, request: Request) -> Response:
        return _calendar()

    @extend_schema(
        operation_id="visit_plan",
        request=shaped(NewPlannedVisit),
        responses={201: shaped(Calendar)},
    )
    def post(self, request: Request) -> Response:
        given = sent(NewPlannedVisit, request)
        services.plan_visit(given, actor=person_of(request), today=days.today())
        return _calendar(status.HTTP_201_CREATED)


class PlannedView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="planned_visit_get", responses=shaped(Booked))
    def get(self, request: Request, visit_id: UUID) -> Response:
        found = selectors.booked(visit_id, days.today())
        return Response(told(Booked, found))

    @extend_schema(operation_id="visit_drop", responses={200: shaped(Calendar)})
    def delete(self, request: Request, visit_id: UUID) -> Response:
        services.drop(visit_id, actor=person_of(request))
        return _calendar()


class KitView(APIView):
    permission_classes = [MayWork]

    @extend_schema(
        operation_id="kit_pdf", responses={(200, "application/pdf"): OpenApiTypes.BINARY}
    )
    def get(self, request: Request, visit_id: UUID) -> HttpResponse:
        paper = selectors.kit_pdf(visit_id, person_of(request), days.today())
        name = f'inline; filename="kit-{visit_id}.pdf"'
        return HttpResponse(
            paper, content_type="application/pdf", headers={"Content-Disposition": name}
        )


class FeedView(APIView):
    """The calendar for other programs: the secret in its address is the key."""

    permission_classes = [AllowAny]
    authentication_classes: list[type] = []

    @extend_schema(
        operation_id="calendar_feed", responses={(200, "text/calendar"): OpenApiTypes.STR}
    )
    def get(self, request: Request, token: str) -> HttpResponse:
        feed = selectors.ics(token, timezone.now())
        return HttpResponse(feed, content_type="text/calendar; charset=utf-8")
