"""Brings what is due up to today; with --keep it stays, and does so whenever something is stale. A
database that is away is waited for."""

import logging
import time
from typing import Any

from django.core.management.base import BaseCommand, CommandParser
from django.db import Error, connection
from django.utils import timezone
from garage.models import Bike
from workshop import days

from planning.models import WardRow
from planning.services import rebuild, roll_forward, say_it_ran

LOOK_AGAIN, SAY_AGAIN = 3.0, 60.0
log = logging.getLogger("oilward.roller")


class Command(BaseCommand):
    help = "Bring what is due up to today."
    said = float("-inf")

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--keep", action="store_true", help="stay, and do it all the time")

    def roll(self) -> None:
        if Bike.objects.filter(archived=False).exists() and not WardRow.objects.exists():
            rebuild(days.today())
        rolled = roll_forward(days.today())
        if rolled or time.monotonic() - self.said > SAY_AGAIN:
            say_it_ran(timezone.now())
            self.said = time.monotonic()

    def handle(self, *args: Any, **options: Any) -> None:
        if not options["keep"]:
            self.roll()
            return
        away = False
        while True:
            try:
                self.roll()
                if away:
                    log.info("The database is back.")
                away = False
            except Error as error:
                if not away:
                    log.error("The database is away, waiting for it: %s", str(error).strip())
                away = True
                connection.close()
            except Exception:
                log.exception("What is due could not be brought forward; trying again.")
            time.sleep(LOOK_AGAIN)
