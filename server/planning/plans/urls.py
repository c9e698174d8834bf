from django.urls import path

from . import views

urlpatterns = [
    path("bikes/<uuid:bike_id>/plan/", views.PlanView.as_view()),
    path("calendar/", views.CalendarView.as_view()),
    path("calendar/<str:token>.ics", views.FeedView.as_view()),
    path("planned-visits/<uuid:visit_id>/", views.PlannedView.as_view()),
    path("planned-visits/<uuid:visit_id>/kit.pdf", views.KitView.as_view()),
]
