from django.apps import AppConfig


class WorkshopConfig(AppConfig):
    name = "workshop"
    default_auto_field = "django.db.models.BigAutoField"
