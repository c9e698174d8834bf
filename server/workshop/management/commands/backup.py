"""Writes everything of this workshop into one file."""

from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandParser

from workshop.backup import dump


class Command(BaseCommand):
    help = "Write everything of this workshop into one file."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("file", type=Path)

    def handle(self, *args: Any, **options: Any) -> None:
        file = options["file"].absolute()
        dump(settings.DATABASES["default"], file)
        self.stdout.write(f"Everything is in {file}. Keep it where only you can read it.")
