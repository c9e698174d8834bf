"""Work that nobody waits for: jobs on a queue in the same database, each tried three times, then set
aside and told."""

import logging
from collections.abc import Callable
from functools import wraps
from typing import Any, cast

from django.db import close_old_connections, transaction
from django.db.models import QuerySet
from django.dispatch import Signal
from django.utils import timezone
from procrastinate import RetryStrategy
from procrastinate.contrib.django import app
from procrastinate.contrib.django.models import ProcrastinateJob
from procrastinate.exceptions import AlreadyEnqueued, UniqueViolation
from procrastinate.jobs import Status
from procrastinate.tasks import Task

from . import tries

log = logging.getLogger("oilward.background")
TRIES = 3
# sent before the first job is done: whoever has something left from before puts it on the queue
begins = Signal()
AGAIN = RetryStrategy(max_attempts=TRIES - 1, exponential_wait=2)
KEPT_HOURS = 30 * 24  # what was set aside is forgotten after that
# what each job does, in words, by its code
WORDS: dict[str, str] = {}


def job(
    code: str, words: str, **more: Any
) -> Callable[[Callable[..., Any]], "Task[..., Any, Any]"]:
    """Makes a job of a function, under a code that stays. What it raises is logged, and tried again."""
    WORDS[code] = words

    def wrapped(function: Callable[..., Any]) -> "Task[..., Any, Any]":
        @wraps(function)
        def work(*args: Any, **given: Any) -> None:
            try:
                function(*args, **given)
            except Exception:
                log.exception("work failed: %s %s", code, given)
                raise
            finally:
                close_old_connections()

        made: Any = app.task(name=code, retry=AGAIN, **more)
        return cast("Task[..., Any, Any]", made(work))

    return wrapped


def want(task: "Task[..., Any, Any]", once: str = "", **given: Any) -> None:
    """Put a job on the queue once this transaction is done, or not at all; one that waits there already
    under the name ``once`` is enough."""
    try:
        with transaction.atomic():
            task.configure(queueing_lock=once or None, lock=once or None).defer(**given)
    except AlreadyEnqueued:
        return


def set_aside() -> list[str]:
    """What was tried three times and is tried no more, by its code, the newest first."""
    return list(_failed().order_by("-pk").values_list("task_name", flat=True)[:100])


def _failed() -> "QuerySet[ProcrastinateJob]":
    return ProcrastinateJob.objects.filter(status="failed")


def once_more(sender: object, **_: Any) -> None:
    """When the worker begins, perhaps of a mended release: what was set aside is tried once more. What
    waits already under the same name is not wanted twice."""
    for pk in list(_failed().values_list("pk", flat=True)):
        try:
            with transaction.atomic():
                app.job_manager.retry_job_by_id(pk, timezone.now())
        except UniqueViolation:
            ProcrastinateJob.objects.filter(pk=pk)._raw_delete("default")


begins.connect(once_more, dispatch_uid="workshop.background")


@app.periodic(cron="0 3 * * *")
@job("tries.forget", "forgetting tries of days ago")
def forget_tries(timestamp: int) -> None:
    tries.forget(timezone.now())


@app.periodic(cron="* * * * *")
@app.task(name="queue.take_up", queueing_lock="queue.take_up", pass_context=True)
async def take_up(context: Any, timestamp: int) -> None:
    """A job whose process was killed is begun again by another; where one waits already under the same
    name, that one is enough."""
    jobs = context.app.job_manager
    for left in await jobs.get_stalled_jobs():
        try:
            await jobs.retry_job(left)
        except UniqueViolation:
            await jobs.finish_job(left, Status.FAILED, delete_job=True)


@app.periodic(cron="30 3 * * *")
@app.task(name="queue.clear", queueing_lock="queue.clear", pass_context=True)
async def clear(context: Any, timestamp: int) -> None:
    """What was set aside a month ago is told no more."""
    await context.app.job_manager.delete_old_jobs(nb_hours=KEPT_HOURS, include_failed=True)
