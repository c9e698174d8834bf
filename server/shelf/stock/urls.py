from django.urls import path

from . import views

urlpatterns = [
    path("stock/", views.StockView.as_view()),
    path("ledger/", views.LedgerView.as_view()),
    path("bottles/", views.BottlesView.as_view()),
    path("seals/", views.SealsView.as_view()),
    path("arrivals/", views.ArrivalView.as_view()),
]
