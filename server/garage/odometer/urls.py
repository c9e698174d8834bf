from django.urls import path

from . import views

urlpatterns = [
    path("", views.ReadingsView.as_view()),
    path("<uuid:reading_id>/correction/", views.CorrectionView.as_view()),
]
