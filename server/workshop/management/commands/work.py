"""Does what is on the queue, for as long as it runs. A database that is away is waited for."""

import logging
import os
import time
from typing import Any

from django.core.management.base import BaseCommand
from django.db import Error, connection, connections
from procrastinate import PsycopgConnector
from procrastinate.contrib.django import app
from procrastinate.contrib.django.utils import connector_params
from procrastinate.exceptions import ConnectorException

from workshop.background import begins

log = logging.getLogger("oilward.background")
GENTLY = 10  # no entry at a bench waits for it
POLL, RETRY = 2.0, 1.0  # seconds


class Command(BaseCommand):
    help = "Do what is on the queue."

    def handle(self, *args: Any, **options: Any) -> None:
        if os.getpriority(os.PRIO_PROCESS, 0) < GENTLY:
            os.setpriority(os.PRIO_PROCESS, 0, GENTLY)
        # work comes seldom: between two pieces no connection is held open, nor can one break
        connections.settings["default"]["CONN_MAX_AGE"] = 0
        away = False
        while True:
            try:
                begins.send(sender=None)
                connection.close()
                few = PsycopgConnector(kwargs=connector_params(), min_size=1, max_size=2)
                with app.replace_connector(few) as worker:
                    worker.run_worker(
                        concurrency=2,
                        delete_jobs="successful",
                        fetch_job_polling_interval=POLL,
                        shutdown_graceful_timeout=10,
                    )
                return
            except (Error, ConnectorException, OSError) as error:
                if not away:
                    log.error("The database is away, waiting for it: %s", str(error).strip())
                away = True
                connection.close()
                time.sleep(RETRY)
