"""Brings what is due up to today; with --keep it stays and does so each time a day has passed."""

import time
from typing import Any

from django.core.management.base import BaseCommand, CommandParser
from django.db import connection
from garage.models import Bike
from workshop import days

from planning.models import WardRow
from planning.services import rebuild, roll_forward

LOOK_AGAIN = 60.0


class Command(BaseCommand):
    help = "Bring what is due up to today."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--keep", action="store_true", help="stay, and do it every day")

    def handle(self, *args: Any, **options: Any) -> None:
        if Bike.objects.filter(archived=False).exists() and not WardRow.objects.exists():
            rebuild(days.today())
        while True:
            roll_forward(days.today())
            if not options["keep"]:
                return
            connection.close()
            time.sleep(LOOK_AGAIN)
