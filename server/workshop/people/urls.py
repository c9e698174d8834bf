from django.urls import path

from .views import (
    OwnPasswordView,
    OwnPinView,
    OwnProofView,
    OwnView,
    PeopleView,
    PersonView,
    WelcomeAgainView,
    WelcomeView,
)

urlpatterns = [
    path("people/", PeopleView.as_view()),
    path("people/<int:person_id>/", PersonView.as_view()),
    path("people/<int:person_id>/welcome/<uuid:act>/", WelcomeAgainView.as_view()),
    path("welcome/<str:token>/", WelcomeView.as_view()),
    path("own/", OwnView.as_view()),
    path("own/password/", OwnPasswordView.as_view()),
    path("own/pin/", OwnPinView.as_view()),
    path("own/proof/", OwnProofView.as_view()),
]
