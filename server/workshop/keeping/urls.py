from django.urls import path

from .views import KeepingView

urlpatterns = [path("keeping/", KeepingView.as_view())]
