from django.urls import path

from .views import DoorwayView, HandsView, TabletsView, TabletView

urlpatterns = [
    path("tablets/", TabletsView.as_view()),
    path("tablets/<uuid:tablet_id>/", TabletView.as_view()),
    path("doorway/", DoorwayView.as_view()),
    path("session/hands/", HandsView.as_view()),
]
