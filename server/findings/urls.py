from django.urls import path

from .views import AnswersView

urlpatterns = [path("findings/<uuid:finding_id>/answers/", AnswersView.as_view())]
