from django.urls import path

from .views import AnswersView, FindingsView, OverrulingsView, PicturesView, PictureView

urlpatterns = [
    path("findings/<uuid:finding_id>/answers/", AnswersView.as_view()),
    path("findings/<uuid:finding_id>/overrulings/", OverrulingsView.as_view()),
    path("bikes/<uuid:bike_id>/findings/<str:reservoir>/", FindingsView.as_view()),
    path("bikes/<uuid:bike_id>/plug-pictures/", PicturesView.as_view()),
    path("plug-pictures/<uuid:picture_id>/", PictureView.as_view()),
]
