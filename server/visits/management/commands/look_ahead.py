"""Works out when open visits will be through, for as long as it runs."""

import os
from typing import Any

from django.core.management.base import BaseCommand

from visits.ahead.worker import Worker

GENTLY = 10  # no entry at a bench waits for it


class Command(BaseCommand):
    help = "Say when open visits will be through."

    def handle(self, *args: Any, **options: Any) -> None:
        os.nice(GENTLY)
        Worker().run()
