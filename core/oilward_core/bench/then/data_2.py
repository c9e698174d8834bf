"""The data of each kind of entry, as the second description stored them, as they are kept now."""

from collections.abc import Callable
from decimal import Decimal
from typing import Any

from ...codes.bench import Basis, Sight
from ...codes.debris import Form, Matter, OilLook, Place
from ...codes.entries import EntryKind
from ...codes.fill import Cause
from ...codes.poses import Pose
from ...codes.steps import WaitsFor
from ...debris import Part
from ...errors import CoreError
from ...guard import whole_table
from ..asides.hands import Calls, Lends, LetsGo
from ..asides.stands import StandsSo
from ..asides.takes import GivesUp, Takes, TakesOver
from ..asides.waits import GoesOn, WaitsUntil
from ..asks.amount import Amount
from ..asks.choice import Chosen
from ..asks.common import Answered, Confirmed, Skipped, Started, Stopped
from ..asks.fill import DrawnOff, PouredIn
from ..asks.filter import FilterOn
from ..asks.finding import Graded, Pictured, Regraded
from ..asks.leaks import DRY, Looked
from ..asks.level import CauseNamed, LevelRead
from ..asks.look_up import LookedUp
from ..asks.torque import Pulled
from ..asks.values import Taken, Value
from ..entries import Data
from ..reading import Stood
from . import words_2
from .written import Document


def _number(data: Document, name: str) -> Decimal | None:
    value = data.get(name)
    return None if value is None else Decimal(str(value))


def _ml(data: Document) -> Decimal:
    return Decimal(str(data.get("ml", 0)))


def _text(data: Document, name: str) -> str:
    return str(data.get(name) or "")


def _stood(data: Document) -> Stood | None:
    asked = data.get("asked")
    if not asked:
        return None
    return Stood(code=str(asked["code"]), basis=Basis.EARLIER, amount=str(asked["expected"]))


def _items(data: Document) -> tuple[str, ...]:
    return tuple(words_2.tick(str(item)) for item in data.get("items", ()))


def _amounts(data: Document) -> dict[str, Any]:
    return {
        "ml": _ml(data),
        "said": _text(data, "said"),
        "unit": _text(data, "unit") or "ml",
        "asked": _stood(data),
    }


def part_2(data: Document) -> Part:
    """A part as it was stored; the first description named no place."""
    return Part(
        form=Form(data["form"]),
        matter=Matter(data["matter"]),
        share=Decimal(data["share"]),
        largest_mm=_number(data, "largest_mm"),
        count=data.get("count"),
        magnetic=data.get("magnetic"),
        place=Place(data.get("place", Place.PLUG)),
        pile_mm=_number(data, "pile_mm"),
    )


def _seen(data: Document) -> dict[str, Any]:
    pictures = data.get("pictures") or ()
    return {
        "parts": tuple(part_2(part) for part in data["parts"]),
        "oil": tuple(OilLook(look) for look in data["oil"]),
        "note": _text(data, "note"),
        "pan_clean": data.get("pan_clean"),
        "dipstick_flakes": data.get("dipstick_flakes") is True,
        "seal_missing": data.get("seal_missing") is True,
        "kept": _text(data, "kept"),
        "pictures": tuple(
            Pictured(id=str(one["id"]), x=_number(one, "x"), y=_number(one, "y"))
            for one in pictures
        ),
    }


def _values(data: Document, when: str) -> dict[str, Value]:
    return {
        name: Value(said=str(value["said"]), low=Decimal(value["low"]), high=Decimal(value["high"]))
        for name, value in (data.get(when) or {}).items()
    }


def _looked(data: Document) -> Looked:
    if data.get("result") == DRY:
        return Looked(dry=True)
    return Looked(
        dry=False,
        reservoir=_text(data, "reservoir"),
        part=_text(data, "part"),
        place=_text(data, "result"),
    )


def _caused(data: Document) -> CauseNamed:
    words = _text(data, "cause")
    cause = words_2.CAUSES.get(words, Cause.ELSE)
    return CauseNamed(cause=cause, words=words if cause == Cause.ELSE else "")


def _chosen(data: Document) -> Chosen:
    value = _text(data, "value")
    return Chosen(value=words_2.OPTIONS.get(value, value), stood=_text(data, "stood"))


def _stands(data: Document) -> StandsSo:
    return StandsSo(pose=Pose(data["pose"]), strapped=data.get("strapped") is True)


def _not_then(data: Document) -> Data:
    """Nobody could write this down then."""
    raise CoreError("entry.unfit", field="kind")


DATA: dict[EntryKind, Callable[[Document], Data]] = whole_table(
    EntryKind,
    {
        EntryKind.LOOK_UP: lambda data: LookedUp(
            path=_text(data, "path"),
            written=_text(data, "written"),
            document=_text(data, "document"),
            page=_text(data, "page"),
        ),
        EntryKind.CONFIRM: lambda data: Confirmed(items=_items(data)),
        EntryKind.START: lambda data: Started(
            pan_clean=data.get("pan_clean"), mistaken=data.get("mistaken") is True
        ),
        EntryKind.STOP: lambda data: Stopped(),
        EntryKind.ANSWER: _chosen,
        EntryKind.AMOUNT: lambda data: Amount(
            **_amounts(data), celsius=_number(data, "celsius"), by_scale="by" in data
        ),
        EntryKind.FINDING: lambda data: Graded(**_seen(data)),
        EntryKind.REGRADE: lambda data: Regraded(**_seen(data)),
        EntryKind.TORQUE: lambda data: Pulled(
            nm=Decimal(data["nm"]),
            said=_text(data, "said"),
            wrench=_text(data, "wrench"),
            turned=_number(data, "turned"),
            asked=_stood(data),
        ),
        EntryKind.FILTER: lambda data: FilterOn(**_amounts(data), items=_items(data)),
        EntryKind.POUR: lambda data: PouredIn(
            **_amounts(data), fluid=_text(data, "fluid"), closed=data.get("closed") is True
        ),
        EntryKind.DRAW: lambda data: DrawnOff(
            **_amounts(data), where=words_2.DRAWS.get(_text(data, "from"), _text(data, "from"))
        ),
        EntryKind.LEVEL: lambda data: LevelRead(
            sight=Sight(data["sight"]),
            position=Decimal(data["position"]),
            attitude=str(data["attitude"]),
        ),
        EntryKind.CAUSE: _caused,
        EntryKind.RAN_OUT: _not_then,
        EntryKind.LEFT: _not_then,
        EntryKind.ALSO_SEEN: _not_then,
        EntryKind.TICKED: _not_then,
        EntryKind.TORE: _not_then,
        EntryKind.SECOND: _not_then,
        EntryKind.OPENS_AGAIN: _not_then,
        EntryKind.LEAKS: _looked,
        EntryKind.MEASURE: lambda data: Taken(
            found=_values(data, "found"), left=_values(data, "left")
        ),
        EntryKind.SKIP: lambda data: Skipped(reason=_text(data, "reason")),
        EntryKind.ANSWERED: lambda data: Answered(
            entry=_text(data, "entry"),
            reason=_text(data, "reason"),
            handed_back=data.get("handed_back") is True,
        ),
        EntryKind.TAKES: lambda data: Takes(),
        EntryKind.GIVES_UP: lambda data: GivesUp(),
        EntryKind.WAITS: lambda data: WaitsUntil(
            what=WaitsFor(data["what"]), words=_text(data, "words")
        ),
        EntryKind.GOES_ON: lambda data: GoesOn(),
        # what a hand was put on was kept in words; nothing asks for it again
        EntryKind.TAKES_OVER: lambda data: TakesOver(hands=tuple(map(str, data.get("hands", ())))),
        EntryKind.STANDS: _stands,
        EntryKind.CALLS: lambda data: Calls(),
        EntryKind.LENDS: lambda data: Lends(),
        EntryKind.LETS_GO: lambda data: LetsGo(),
    },
)
