from django.urls import path

from .views import BikeView, WardView

urlpatterns = [
    path("ward/", WardView.as_view()),
    path("bikes/<uuid:bike_id>/", BikeView.as_view()),
]
