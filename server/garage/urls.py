from django.urls import include, path

from . import views

urlpatterns = [
    path("", include("garage.sheets.urls")),
    path("schools/", views.SchoolsView.as_view()),
    path("bikes/", views.NewBikeView.as_view()),
    path("bikes/<uuid:bike_id>/form/", views.BikeFormView.as_view()),
    path("bikes/<uuid:bike_id>/odometer/", include("garage.odometer.urls")),
    path("bikes/<uuid:bike_id>/own-values/", views.OwnValuesView.as_view()),
    path("bikes/<uuid:bike_id>/own-values/checks/", views.OwnChecksView.as_view()),
    path("bikes/<uuid:bike_id>/photos/", views.PhotosView.as_view()),
    path("photos/<uuid:photo_id>/", views.PhotoView.as_view()),
]
