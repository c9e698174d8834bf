from django.urls import path

from .views import WrenchesView

urlpatterns = [path("wrenches/", WrenchesView.as_view())]
