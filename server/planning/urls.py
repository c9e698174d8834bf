from django.urls import include, path

from .views import BikeView, MatchesView, WardView

urlpatterns = [
    path("", include("planning.plans.urls")),
    path("ward/", WardView.as_view()),
    path("bikes/<uuid:bike_id>/", BikeView.as_view()),
    path("bikes/<uuid:bike_id>/fluids/", MatchesView.as_view()),
]
