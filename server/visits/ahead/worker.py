"""The process that works out when open visits will be through, and does other work nobody waits for
(`workshop.background`). It hears what is written down, gathers
what comes together, and solves each visit once."""

import contextlib
import logging
import time
from collections.abc import Callable
from uuid import UUID

import psycopg
from django.conf import settings
from django.db import Error, connection
from django.utils import timezone
from oilward_core.errors import CoreError
from workshop import background
from workshop.announce import CHANNEL, listening_to

from visits.models import Visit

from .services import look_ahead

GATHER, RETRY, LOOK_UP = 0.2, 1.0, 1.0  # seconds
TOPICS = ("visit", "ahead")
log = logging.getLogger("oilward.ahead")


class Worker:
    """Solves what it hears of, for as long as ``goes_on`` says so."""

    def __init__(self, goes_on: Callable[[], bool] = lambda: True) -> None:
        self.goes_on = goes_on
        self.todo: dict[UUID, None] = {}

    def run(self) -> None:
        """A database that is away is waited for."""
        away = False
        while self.goes_on():
            try:
                self._hear()
                away = False
            except (Error, psycopg.Error, OSError) as error:
                if not away:
                    log.error("The database is away, waiting for it: %s", str(error).strip())
                away = True
                connection.close()
                time.sleep(RETRY)

    def _hear(self) -> None:
        with psycopg.connect(**listening_to(settings.DATABASES["default"])) as line:
            line.execute(f"LISTEN {CHANNEL}")
            # what was written down while nobody listened
            open_ones = Visit.objects.filter(state=Visit.State.OPEN).order_by("-opened_at")
            self.todo.update(dict.fromkeys(open_ones.values_list("pk", flat=True)))
            background.left_over()
            while self.goes_on():
                for notice in line.notifies(timeout=GATHER if self.todo else LOOK_UP):
                    self._note(notice.payload)
                self._solve_one()

    def _note(self, topic: str) -> None:
        if background.heard(topic):
            return
        kind, _, visit = topic.partition("/")
        if kind in TOPICS:
            with contextlib.suppress(ValueError):
                self.todo.setdefault(UUID(visit))

    def _solve_one(self) -> None:
        """The one that waits longest; what is heard meanwhile waits in the line."""
        visit = next(iter(self.todo), None)
        if visit is None:
            return
        del self.todo[visit]
        try:
            look_ahead(visit, timezone.now())
        except CoreError as error:
            log.warning("What is ahead in visit %s cannot be said: %s", visit, error.code)
