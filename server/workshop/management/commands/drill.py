"""Puts a backup back into a database that is thrown away, and sees whether everything is there."""

from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandParser

from workshop.backup import prove


class Command(BaseCommand):
    help = "Prove a backup on a database that is thrown away."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("file", type=Path)
        parser.add_argument("--pictures", type=Path, help="where the pictures beside it are")

    def handle(self, *args: Any, **options: Any) -> None:
        file = options["file"].absolute()
        found = prove(settings.DATABASES["default"], file, options["pictures"])
        self.stdout.write(
            f"{file.name} is good: {sum(found.values())} rows in {len(found)} tables."
        )
