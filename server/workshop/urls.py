from django.urls import path

from .views import AmountView, SessionView

urlpatterns = [
    path("session/", SessionView.as_view()),
    path("amount/", AmountView.as_view()),
]
