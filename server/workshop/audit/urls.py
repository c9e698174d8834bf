from django.urls import path

from .views import AuditTableView, AuditView

urlpatterns = [path("audit/", AuditView.as_view()), path("audit.csv", AuditTableView.as_view())]
