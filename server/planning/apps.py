from django.apps import AppConfig


class PlanningConfig(AppConfig):
    name = "planning"
    default_auto_field = "django.db.models.BigAutoField"
