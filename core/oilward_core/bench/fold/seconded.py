"""Whether a second person stands for what was done: never whoever did it, or the same one later where
there is nobody else."""

from collections.abc import Collection, Iterable
from decimal import Decimal

from ...runsheet import StepId
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


def is_seconded(step: StepId, looks_at: StepId, known: Known) -> bool:
    """Whether a second person has said, at a step, that what it looks at is right."""
    did, entries = known.facts.last.get(str(looks_at)), known.facts.by_step.get(str(step), [])
    return did is not None and looked_since(entries, did, (did.who,), known.bench)
