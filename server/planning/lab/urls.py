from django.urls import path

from .views import (
    LabelView,
    LabFilesView,
    LabFileView,
    LabHistoryView,
    SamplesView,
    SimulatedView,
)

urlpatterns = [
    path("lab/samples/", SamplesView.as_view()),
    path("lab/samples/<uuid:sample_id>/label/", LabelView.as_view()),
    path("lab/samples/<uuid:sample_id>/simulated/", SimulatedView.as_view()),
    path("lab/files/", LabFilesView.as_view()),
    path("lab/files/<uuid:file_id>/", LabFileView.as_view()),
    path("bikes/<uuid:bike_id>/lab/<str:reservoir>/", LabHistoryView.as_view()),
]
