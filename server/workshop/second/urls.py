from django.urls import path

from .views import AnothersView, CodesView, OwnSecondView

urlpatterns = [
    path("own/second/", OwnSecondView.as_view()),
    path("own/second/codes/", CodesView.as_view()),
    path("people/<int:person_id>/second/", AnothersView.as_view()),
]
