from django.urls import path

from .views import (
    ArrivalView,
    BlendView,
    BottlesView,
    FluidsView,
    SealsView,
    ShelfView,
    StockView,
    WrenchPullView,
)

urlpatterns = [
    path("shelf/", ShelfView.as_view()),
    path("shelf/fluids/", FluidsView.as_view()),
    path("shelf/stock/", StockView.as_view()),
    path("shelf/bottles/", BottlesView.as_view()),
    path("shelf/seals/", SealsView.as_view()),
    path("shelf/arrivals/", ArrivalView.as_view()),
    path("shelf/blend/", BlendView.as_view()),
    path("wrenches/<int:wrench_id>/pull/", WrenchPullView.as_view()),
]
