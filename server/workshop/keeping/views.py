from config.shaped import sent, shaped, told
from django.utils import timezone
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from workshop.access import MayWork, person_of

from . import selectors, services
from .shapes import Keeping, Passphrase


class KeepingView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="keeping", responses=shaped(Keeping))
    def get(self, request: Request) -> Response:
        return Response(told(Keeping, selectors.keeping(person_of(request), timezone.now())))


class PassphraseView(APIView):
    """The backups' passphrase, typed back."""

    permission_classes = [MayWork]

    @extend_schema(
        operation_id="keeping_passphrase", request=shaped(Passphrase), responses=shaped(Keeping)
    )
    def put(self, request: Request) -> Response:
        person = person_of(request)
        services.typed_back(person, sent(Passphrase, request).passphrase)
        return Response(told(Keeping, selectors.keeping(person, timezone.now())))
