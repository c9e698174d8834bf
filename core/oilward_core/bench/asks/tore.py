"""A ring that tore as its plug went in: out again, clean, another ring."""

from dataclasses import dataclass
from typing import ClassVar

from ...codes.bench import Stands
from ...codes.entries import EntryKind
from ...codes.steps import Name
from ...errors import CoreError
from ...runsheet import StepId
from ...said import bench as said
from ..acts import Act, Hearing
from ..entries import Data, Entry
from ..fold.taking import Taking
from ..typed import Nothing


@dataclass(frozen=True, kw_only=True)
class Tore(Data):
    """Tight, loose, tight: its ring tore. It is out again."""

    kind: ClassVar[EntryKind] = EntryKind.TORE


def _read(hearing: Hearing, typed: Nothing) -> Tore:
    if not hearing.step.tears:
        raise CoreError("sheet.wrong_kind", step=hearing.step.title)
    return Tore()


def _take(taking: Taking, entry: Entry, data: Tore) -> None:
    step = StepId.of(entry.step)
    taking.let_oil_out(entry, step.fastener, step.reservoir, Stands.OUT)
    taking.facts.torn.add(str(step._replace(name=Name.WASHER)))


TORE = Act(
    typed=Nothing,
    data=Tore,
    field="",
    read=_read,
    take=_take,
    says=lambda data, speaker: said.TORE,
)
