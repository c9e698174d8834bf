from django.urls import include, path

from .views import BlendView, FluidsView, ScaleView, ShelfView, WrenchPullView

urlpatterns = [
    path("shelf/", ShelfView.as_view()),
    path("shelf/", include("shelf.stock.urls")),
    path("shelf/waste/", include("shelf.waste.urls")),
    path("shelf/fluids/", FluidsView.as_view()),
    path("shelf/blend/", BlendView.as_view()),
    path("scale/", ScaleView.as_view()),
    path("", include("shelf.wrenches.urls")),
    path("wrenches/<int:wrench_id>/pull/", WrenchPullView.as_view()),
]
