"""Work that nobody waits for, done by the process that works things out in the background. Whoever has
such work says under which topic it is announced."""

import logging
from collections.abc import Callable

from django.db import DatabaseError

log = logging.getLogger("oilward.background")
_WORK: dict[str, Callable[[str], None]] = {}


def does(topic: str, work: Callable[[str], None]) -> None:
    """``work`` is done when ``topic/something`` is announced, with that something; with an empty one
    when the process comes up, for what was left."""
    _WORK[topic] = work


def heard(announced: str) -> bool:
    """Do what is announced; whether anybody does such work."""
    topic, _, about = announced.partition("/")
    work = _WORK.get(topic)
    if work is not None:
        _done(work, topic, about)
    return work is not None


def _done(work: Callable[[str], None], topic: str, about: str) -> None:
    """What fails is told, and keeps nothing else from being done."""
    try:
        work(about)
    except DatabaseError:
        raise
    except Exception:
        log.exception("Work that was announced failed: %s/%s", topic, about)


def left_over() -> None:
    """What was announced while nobody listened."""
    for topic, work in _WORK.items():
        _done(work, topic, "")
