from django.apps import AppConfig


class SecondConfig(AppConfig):
    name = "workshop.second"
    default_auto_field = "django.db.models.BigAutoField"
