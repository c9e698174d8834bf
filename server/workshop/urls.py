from django.urls import path

from .views import AmountView, QuickSumView, SessionView

urlpatterns = [
    path("session/", SessionView.as_view()),
    path("quick-sum/", QuickSumView.as_view()),
    path("amount/", AmountView.as_view()),
]
