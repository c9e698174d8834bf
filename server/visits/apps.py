from django.apps import AppConfig


class VisitsConfig(AppConfig):
    name = "visits"
    default_auto_field = "django.db.models.BigAutoField"

    def ready(self) -> None:
        from workshop import happened, names
        from workshop.background import begins
        from workshop.touched import bike_leaving

        from . import told
        from .ahead.wanted import left
        from .services import on_leaving

        names.knows(told.bikes_of_visits)
        happened.tells(told.ACTS, told.visits_told)
        begins.connect(left, dispatch_uid="visits.ahead")
        bike_leaving.connect(on_leaving, dispatch_uid="visits")
