from django.urls import path

from .owner.views import OwnersWordView
from .views import EntriesView, LeaveView, SignatureView, VisitsView, VisitView

urlpatterns = [
    path("bikes/<uuid:bike_id>/owners-word/", OwnersWordView.as_view()),
    path("visits/", VisitsView.as_view()),
    path("visits/<uuid:visit_id>/", VisitView.as_view()),
    path("visits/<uuid:visit_id>/entries/", EntriesView.as_view()),
    path("visits/<uuid:visit_id>/signature/", SignatureView.as_view()),
    path("visits/<uuid:visit_id>/leave/", LeaveView.as_view()),
]
