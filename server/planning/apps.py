from django.apps import AppConfig


class PlanningConfig(AppConfig):
    name = "planning"
    default_auto_field = "django.db.models.BigAutoField"

    def ready(self) -> None:
        from workshop.background import begins
        from workshop.touched import bikes_touched

        from .lab import services as lab
        from .plans import services as plans
        from .services import on_touched

        begins.connect(lab.left, dispatch_uid="planning.lab")
        bikes_touched.connect(on_touched, dispatch_uid="planning")
        bikes_touched.connect(plans.on_touched, dispatch_uid="planning.plans")
