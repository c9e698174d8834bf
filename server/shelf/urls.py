from django.urls import path

from .views import ShelfView, WrenchPullView

urlpatterns = [
    path("shelf/", ShelfView.as_view()),
    path("wrenches/<int:wrench_id>/pull/", WrenchPullView.as_view()),
]
