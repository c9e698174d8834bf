from django.urls import path

from . import views

urlpatterns = [
    path("", views.WasteView.as_view()),
    path("<uuid:row_id>/slip.pdf", views.SlipView.as_view()),
]
