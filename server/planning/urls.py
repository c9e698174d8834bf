from django.urls import include, path

from .views import BikeView, HealthView, MatchesView, WardView

urlpatterns = [
    path("", include("planning.plans.urls")),
    path("", include("planning.wear.urls")),
    path("", include("planning.lab.urls")),
    path("", include("planning.owners.urls")),
    path("", include("planning.ride.urls")),
    path("health/", HealthView.as_view()),
    path("ward/", WardView.as_view()),
    path("bikes/<uuid:bike_id>/", BikeView.as_view()),
    path("bikes/<uuid:bike_id>/fluids/", MatchesView.as_view()),
]
