from config.shaped import shaped, told
from django.utils import timezone
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from workshop.access import MayWork, person_of

from . import selectors
from .shapes import Keeping


class KeepingView(APIView):
    permission_classes = [MayWork]

    @extend_schema(operation_id="keeping", responses=shaped(Keeping))
    def get(self, request: Request) -> Response:
        return Response(told(Keeping, selectors.keeping(person_of(request), timezone.now())))
