"""A reservoir's findings over distance, kept ready: most looks are at what has not changed since."""

from uuid import UUID

from cattrs.preconf.json import make_converter
from django.db import transaction
from findings.selectors import newest_of
from garage.locks import lock_bike
from oilward_core.spec import ReservoirKind
from workshop.kept import HISTORY
from workshop.touched import generation

from planning.models import KeptHistory

from . import selectors

_plain = make_converter()


def _stamp(kind: ReservoirKind) -> str:
    """What a history shows beside what was written about its bike: its kind in this workshop, by these
    rules."""
    return HISTORY.of(generation=generation(), newest=newest_of(kind))


def history_page(bike_id: UUID, key: str) -> str:
    """One reservoir over distance, as JSON of a `WearHistory`. Raises Http404 for one not there."""
    kept = KeptHistory.objects.filter(bike=bike_id, reservoir=key).first()
    if kept and kept.stamp == _stamp(ReservoirKind(kept.kind)):
        return kept.page
    return _made_anew(bike_id, key)


@transaction.atomic
def _made_anew(bike_id: UUID, key: str) -> str:
    # who writes about the bike drops what is kept under the same lock: nothing old is kept after that
    lock_bike(bike_id)
    kind, history = selectors.wear_history(bike_id, key)
    page = _plain.dumps(history)
    KeptHistory.objects.update_or_create(
        bike_id=bike_id,
        reservoir=key,
        defaults={"kind": kind.value, "stamp": _stamp(kind), "page": page},
    )
    return page
