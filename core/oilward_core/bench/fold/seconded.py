"""Whether a second person stands for what was done: never whoever did it, or the same one later where
there is nobody else."""

from collections.abc import Collection, Iterable
from decimal import Decimal

from ...codes.steps import Name
from ...runsheet import Step, of_bike
from ..asks.looked import SecondLooked
from ..entries import Entry
from .known import Bench, Known

ALONE = Decimal(10)  # minutes until the same person looks with other eyes [our definition]


def looked_since(
    entries: Iterable[Entry], did: Entry, doers: Collection[str], bench: Bench
) -> bool:
    """Whether somebody who is none of the ``doers`` has looked since it was done."""
    for one in entries:
        if not isinstance(one.data, SecondLooked) or (one.at, one.id) < (did.at, did.id):
            continue
        if not one.data.alone and one.data.person not in doers:
            return True
        if one.data.alone and one.at - did.at >= bench.length(ALONE):
            return True
    return False


def wheel_in(known: Known) -> Entry | None:
    """What says that axle and brake are in, which a second person looks at where no card asks for one."""
    return known.facts.last.get(str(of_bike(Name.WHEEL_IN)))


def is_seconded(step: Step, known: Known) -> bool:
    """Whether a second person has looked at what a step asks for."""
    did, entries = wheel_in(known), known.facts.by_step.get(str(step.id), [])
    return did is not None and looked_since(entries, did, (did.who,), known.bench)
