from django.apps import AppConfig


class GarageConfig(AppConfig):
    name = "garage"
    default_auto_field = "django.db.models.BigAutoField"
