from django.apps import AppConfig


class WorkshopConfig(AppConfig):
    name = "workshop"
    default_auto_field = "django.db.models.BigAutoField"

    def ready(self) -> None:
        from django.db.models.signals import post_migrate

        from .roles import grant

        post_migrate.connect(grant, sender=self, dispatch_uid="workshop.roles")
