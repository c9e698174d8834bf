from django.urls import path

from .views import ErasureView, OwnersDataView, OwnersView

urlpatterns = [
    path("owners/", OwnersView.as_view()),
    path("owners/data/", OwnersDataView.as_view()),
    path("owners/erasure/", ErasureView.as_view()),
]
