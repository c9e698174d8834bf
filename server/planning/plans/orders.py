"""The order of a plan: worked out once for the same jobs, and kept. Working one out takes the machine for
a while, so whoever only looks sees what was worked out for somebody who works."""

from collections.abc import Mapping, Sequence
from dataclasses import asdict
from datetime import datetime, timedelta
from threading import Lock

from cattrs.preconf.json import make_converter
from config.sentences import sentence_of
from django.utils import timezone
from oilward_core.errors import CoreError
from oilward_core.order import Wish, solve_as_wished
from oilward_core.runsheet import Job
from workshop.access import may_work
from workshop.kept import ORDER
from workshop.models import Person

from planning.models import KeptOrder

from . import mapping
from .shapes import OrderShape, PlanAsked

SECONDS = 2.0
KEPT_FOR = timedelta(days=60)
# in each process: whoever plans waits for others who plan, nobody else does
_ONE_AT_A_TIME = Lock()
_plain = make_converter()
Took = Mapping[str, tuple[int, int]]


def order_of(
    jobs: Sequence[Job], asked: PlanAsked, took: Took, person: Person
) -> tuple[OrderShape | None, str]:
    """The order of these jobs, and what stands against a wish, in words; none where there is no such
    order, or nobody who works has asked for it. One that was not proven, on a busy machine, is worked out
    anew for whoever works."""
    of = ORDER.of(
        jobs=[repr(job) for job in jobs],
        people=asked.technicians,
        pans=asked.pans,
        wishes=[asdict(wish) for wish in asked.wishes],
        took=sorted(took.items()),
    )
    row, works = KeptOrder.objects.filter(pk=of).first(), may_work(person)
    if row and (row.order["proven"] or not works):
        return _plain.structure(row.order, OrderShape), row.refused
    if not works:
        return None, sentence_of(CoreError("planning.nobody_asked"))
    order, refused = _solved(jobs, asked, took)
    if order:
        kept = {"order": asdict(order), "refused": refused, "at": timezone.now()}
        KeptOrder.objects.update_or_create(pk=of, defaults=kept)
    return order, refused


def _solved(jobs: Sequence[Job], asked: PlanAsked, took: Took) -> tuple[OrderShape | None, str]:
    wishes = [Wish(wish.first, wish.then) for wish in asked.wishes]
    try:
        with _ONE_AT_A_TIME:
            found, refused = solve_as_wished(
                jobs, technicians=asked.technicians, pans=asked.pans, wishes=wishes, seconds=SECONDS
            )
    except CoreError as error:
        if not error.code.startswith("order."):
            raise
        return None, sentence_of(error)
    return mapping.order_shape(found, took), sentence_of(refused) if refused else ""


def forget(now: datetime) -> None:
    """What was worked out long ago is worked out anew if somebody asks."""
    KeptOrder.objects.filter(at__lt=now - KEPT_FOR).delete()
