from django.urls import path

from .views import OneSessionView, SessionsView

urlpatterns = [
    path("own/sessions/", SessionsView.as_view()),
    path("own/sessions/<str:named>/", OneSessionView.as_view()),
]
