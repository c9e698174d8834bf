from django.urls import include, path, re_path
from drf_spectacular.views import SpectacularJSONAPIView

from .frontend import NotHereView, front_end

handler400 = "config.problems.not_possible"
handler500 = "config.problems.server_error"
urlpatterns = [
    path("api/schema/", SpectacularJSONAPIView.as_view(), name="schema"),
    path("api/", include("workshop.urls")),
    path("api/", include("shelf.urls")),
    path("api/", include("garage.urls")),
    path("api/", include("planning.urls")),
    path("api/", include("visits.urls")),
    path("api/", include("findings.urls")),
    re_path(r"^api/", NotHereView.as_view()),
    re_path(r"^(?!api/|static/).*$", front_end),
]
