from django.urls import path

from .views import AmountView, CalendarAddressView, PricesView, QuickSumView, SessionView

urlpatterns = [
    path("workshop/prices/", PricesView.as_view()),
    path("workshop/calendar-address/<uuid:act>/", CalendarAddressView.as_view()),
    path("session/", SessionView.as_view()),
    path("quick-sum/", QuickSumView.as_view()),
    path("amount/", AmountView.as_view()),
]
