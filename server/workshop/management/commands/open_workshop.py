"""Begins a workshop where there is none yet: a name, and nobody and nothing in it."""

from typing import Any

from django.core.management.base import BaseCommand

from workshop.models import Workshop


class Command(BaseCommand):
    help = "Begin a workshop where there is none yet."

    def handle(self, *args: Any, **options: Any) -> None:
        if not Workshop.objects.exists():
            Workshop.objects.create(name="Our workshop")
