"""The queue in tests: what is on it is done when a test says so."""

from django.db import connections
from procrastinate.contrib.django import app
from procrastinate.contrib.django.models import ProcrastinateJob

from .as_in_use import as_owner


def work_off() -> int:
    """Do what is on the queue here and now, within the test's own transaction; how many jobs that was."""
    done = 0
    while job := ProcrastinateJob.objects.filter(status="todo").order_by("pk").first():
        app.tasks[job.task_name].func.__wrapped__(**job.args)  # type: ignore[attr-defined]
        with as_owner():
            ProcrastinateJob.objects.filter(pk=job.pk)._raw_delete("default")
        done += 1
    return done


def worker_once() -> None:
    """The real worker, until nothing is left to be done; for tests that commit."""
    try:
        with app.replace_connector(app.connector.get_worker_connector()) as worker:  # type: ignore[attr-defined]
            worker.run_worker(
                wait=False, install_signal_handlers=False, delete_jobs="successful", concurrency=1
            )
    finally:
        connections.close_all()
