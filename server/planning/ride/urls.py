from django.urls import path

from .views import GapView, SagView

urlpatterns = [
    path("bikes/<uuid:bike_id>/sag/<str:reservoir>/", SagView.as_view()),
    path("bikes/<uuid:bike_id>/gap/<str:reservoir>/", GapView.as_view()),
]
