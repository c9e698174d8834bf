from uuid import UUID

from config.shaped import sent, shaped, told
from django.utils import timezone
from drf_spectacular.utils import extend_schema
from rest_framework import status
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView
from workshop import days
from workshop.access import MayWork, person_of, second_person

from . import selectors, services
from .shapes import Away, Back, Fitted, HandOut


class AwayView(APIView):
    @extend_schema(operation_id="away_read", responses=shaped(Away))
    def get(self, request: Request, bike_id: UUID, reservoir: str) -> Response:
        """What of a reservoir is, or was, with a specialist."""
        found = selectors.away(bike_id, reservoir, days.today())
        return Response(told(Away, found))


class HandOutView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="away_hand_out", request=shaped(HandOut), responses={204: None})
    def post(self, request: Request, bike_id: UUID) -> Response:
        given, now, today = sent(HandOut, request), timezone.now(), days.today()
        services.hand_out(bike_id, given, actor=person_of(request), now=now, today=today)
        return Response(status=status.HTTP_204_NO_CONTENT)


class BackView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="away_back", request=shaped(Back), responses={204: None})
    def post(self, request: Request, handed_id: UUID) -> Response:
        given, now, today = sent(Back, request), timezone.now(), days.today()
        services.take_back(handed_id, given, actor=person_of(request), now=now, today=today)
        return Response(status=status.HTTP_204_NO_CONTENT)


class FittedView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="away_fitted", request=shaped(Fitted), responses={204: None})
    def post(self, request: Request, handed_id: UUID) -> Response:
        """A second person looks at what holds it, with a PIN or password."""
        given, actor = sent(Fitted, request), person_of(request)
        beside, alone = second_person(request, given.username, given.password, actor)
        services.fit(handed_id, given, beside=beside, alone=alone, actor=actor, now=timezone.now())
        return Response(status=status.HTTP_204_NO_CONTENT)
