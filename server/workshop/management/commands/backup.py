"""Writes everything of this workshop into one file."""

from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandParser

from workshop.backup import Beside, dump


class Command(BaseCommand):
    help = "Write everything of this workshop into one file."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("file", type=Path)
        parser.add_argument("--kept", type=Path, help="where pictures are kept for all backups")
        parser.add_argument("--fresh", type=Path, help="where those go that are not there yet")

    def handle(self, *args: Any, **options: Any) -> None:
        file = options["file"].absolute()
        kept, fresh = options["kept"], options["fresh"]
        dump(settings.DATABASES["default"], file, Beside(kept=kept, fresh=fresh) if kept else None)
        self.stdout.write(f"Everything is in {file}. Keep it where only you can read it.")
