from django.apps import AppConfig


class VisitsConfig(AppConfig):
    name = "visits"
    default_auto_field = "django.db.models.BigAutoField"
