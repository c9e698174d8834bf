from django.apps import AppConfig


class FindingsConfig(AppConfig):
    name = "findings"
    default_auto_field = "django.db.models.BigAutoField"
