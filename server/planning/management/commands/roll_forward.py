"""Brings what is due up to today, once; the queue does it all the time."""

from typing import Any

from django.core.management.base import BaseCommand

from planning.services import roll


class Command(BaseCommand):
    help = "Bring what is due up to today."

    def handle(self, *args: Any, **options: Any) -> None:
        roll()
