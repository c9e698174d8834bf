from django.apps import AppConfig


class VisitsConfig(AppConfig):
    name = "visits"
    default_auto_field = "django.db.models.BigAutoField"

    def ready(self) -> None:
        from workshop.touched import bike_leaving

        from .services import on_leaving

        bike_leaving.connect(on_leaving, dispatch_uid="visits")
