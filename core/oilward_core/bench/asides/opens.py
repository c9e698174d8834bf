"""A plug or a filter that was shut is out again: a washer was forgotten, the wrong one went on."""

from dataclasses import dataclass
from typing import ClassVar

from ...codes.bench import Stands
from ...codes.entries import EntryKind
from ...errors import CoreError
from ...runsheet import StepId
from ...said import bench as said
from ..acts import Act, Hearing
from ..entries import Data, Entry
from ..fold.taking import Taking
from ..typed import Nothing


@dataclass(frozen=True, kw_only=True)
class OpensAgain(Data):
    """What the step had shut is out again."""

    kind: ClassVar[EntryKind] = EntryKind.OPENS_AGAIN


def _read(hearing: Hearing, typed: Nothing) -> OpensAgain:
    if not hearing.step.id.shuts:
        raise CoreError("sheet.wrong_kind", step=hearing.step.title)
    return OpensAgain()


def _take(taking: Taking, entry: Entry, data: OpensAgain) -> None:
    part = StepId.of(entry.step).shuts
    if part:
        taking.let_oil_out(entry, part, StepId.of(entry.step).reservoir, Stands.OUT)


ACTS = (
    Act(
        typed=Nothing,
        data=OpensAgain,
        field="",
        read=_read,
        take=_take,
        says=lambda data, speaker: said.DONE,
    ),
)
