"""When an open visit will be through, as it was last worked out."""

from datetime import datetime, timedelta
from typing import Any

from django.utils import timezone

from visits.models import AheadRow, Visit

from .shapes import NOT_YET, Finish, NextJob
from .wanted import want_finish

STALE = timedelta(seconds=60)


def finish(visit: Visit) -> Finish:
    """When the visit will be through if it goes on in the shortest order there is. Where that is long
    ago, or nobody has worked it out yet, it is asked for; who watches is told."""
    row = AheadRow.objects.filter(visit=visit).first()
    if row is None or timezone.now() - row.worked_out > STALE:
        want_finish(visit)
    return NOT_YET if row is None else _shape(row.document, row.worked_out)


def _shape(document: dict[str, Any], worked_out: datetime) -> Finish:
    then = [NextJob(**one) for one in document["then"]]
    return Finish(**{**document, "then": then}, worked_out=worked_out.isoformat())
