from django.urls import path

from .ahead.views import FinishView
from .away.views import AwayView, BackView, FittedView, HandOutView
from .elsewhere.views import ElsewhereView
from .hands.views import HandsView
from .plug.views import VerdictView
from .taken.views import TakenView
from .tips.views import TipsView
from .views import (
    EntriesView,
    LeaveView,
    OffersView,
    SecondView,
    SignatureView,
    TasksView,
    TaskView,
    VisitsView,
    VisitView,
)

urlpatterns = [
    path("bikes/<uuid:bike_id>/elsewhere/", ElsewhereView.as_view()),
    path("bikes/<uuid:bike_id>/away/", HandOutView.as_view()),
    path("bikes/<uuid:bike_id>/away/<str:reservoir>/", AwayView.as_view()),
    path("away/<uuid:handed_id>/back/", BackView.as_view()),
    path("away/<uuid:handed_id>/fitted/", FittedView.as_view()),
    path("bikes/<uuid:bike_id>/offers/", OffersView.as_view()),
    path("visits/", VisitsView.as_view()),
    path("visits/hands/", HandsView.as_view()),
    path("visits/<uuid:visit_id>/", VisitView.as_view()),
    path("visits/<uuid:visit_id>/entries/", EntriesView.as_view()),
    path("visits/<uuid:visit_id>/tasks/", TasksView.as_view()),
    path("visits/<uuid:visit_id>/tasks/<str:reservoir>/", TaskView.as_view()),
    path("visits/<uuid:visit_id>/verdict/", VerdictView.as_view()),
    path("visits/<uuid:visit_id>/finish/", FinishView.as_view()),
    path("visits/<uuid:visit_id>/taken/", TakenView.as_view()),
    path("visits/<uuid:visit_id>/tips/", TipsView.as_view()),
    path("visits/<uuid:visit_id>/second/", SecondView.as_view()),
    path("visits/<uuid:visit_id>/signature/", SignatureView.as_view()),
    path("visits/<uuid:visit_id>/leave/", LeaveView.as_view()),
]
