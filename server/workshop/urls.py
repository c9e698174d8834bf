from django.urls import include, path

from .views import AmountView, CalendarAddressView, QuickSumView, SessionView, SettingsView

urlpatterns = [
    path("workshop/settings/", SettingsView.as_view()),
    path("workshop/calendar-address/<uuid:act>/", CalendarAddressView.as_view()),
    path("", include("workshop.audit.urls")),
    path("", include("workshop.keeping.urls")),
    path("", include("workshop.people.urls")),
    path("", include("workshop.tablets.urls")),
    path("", include("workshop.second.urls")),
    path("", include("workshop.sessions.urls")),
    path("session/", SessionView.as_view()),
    path("quick-sum/", QuickSumView.as_view()),
    path("amount/", AmountView.as_view()),
]
