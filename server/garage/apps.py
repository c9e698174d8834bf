from django.apps import AppConfig


class GarageConfig(AppConfig):
    name = "garage"
    default_auto_field = "django.db.models.BigAutoField"

    def ready(self) -> None:
        from workshop import names

        from .selectors import bikes_with, names_of

        names.knows(names_of)
        names.finds(bikes_with)
