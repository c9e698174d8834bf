"""Puts a backup in the place of this workshop's database."""

from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandParser

from workshop.backup import put_back


class Command(BaseCommand):
    help = (
        "Put a backup in the place of this workshop's database; what was there is kept beside it."
    )

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("file", type=Path)
        parser.add_argument("--pictures", type=Path, help="where the pictures beside it are")
        parser.add_argument("--as-it-was", action="store_true", help="for the release that made it")

    def handle(self, *args: Any, **options: Any) -> None:
        file, as_it_was = options["file"].absolute(), options["as_it_was"]
        before = put_back(settings.DATABASES["default"], file, as_it_was, options["pictures"])
        self.stdout.write(f"Restored. What was there before is kept as database {before}.")
