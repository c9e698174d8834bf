from django.urls import path

from .views import SagView

urlpatterns = [path("bikes/<uuid:bike_id>/sag/<str:reservoir>/", SagView.as_view())]
