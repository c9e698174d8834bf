from django.urls import path

from .views import ComparisonsView, FindingsLedgerView, WearView

urlpatterns = [
    path("bikes/<uuid:bike_id>/wear/<str:reservoir>/", WearView.as_view()),
    path("findings/", FindingsLedgerView.as_view()),
    path("findings/compared/<str:kind>/", ComparisonsView.as_view()),
]
