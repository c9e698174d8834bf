from django.urls import path

from .views import AnothersView, CodesView, OwnSecondView, PasskeysView, PasskeyView

urlpatterns = [
    path("own/second/", OwnSecondView.as_view()),
    path("own/second/codes/", CodesView.as_view()),
    path("own/second/passkeys/", PasskeysView.as_view()),
    path("own/second/passkeys/<int:number>/", PasskeyView.as_view()),
    path("people/<int:person_id>/second/", AnothersView.as_view()),
]
