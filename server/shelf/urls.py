from django.urls import path

from .views import WrenchPullView

urlpatterns = [path("wrenches/<int:wrench_id>/pull/", WrenchPullView.as_view())]
