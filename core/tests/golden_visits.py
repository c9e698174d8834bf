"""Reading the golden visits: what the last release wrote down, and what it answered."""

import json
from collections.abc import Callable, Mapping
from dataclasses import asdict, dataclass
from datetime import UTC, datetime
from decimal import Decimal
from pathlib import Path as File
from typing import Any

from oilward_bench import About, run_sheet
from oilward_bench.shapes import BikeName
from oilward_core.bench import Bench, Closing, Entry, Speaker, TaskClosing, VisitPlan, fold, upgrade
from oilward_core.bench.closing import read_kept

Written = Mapping[str, Any]
KM = Decimal(8000)


@dataclass(frozen=True)
class Answer:
    """What that release said after so many entries."""

    after: int
    said: dict[str, Any]


@dataclass(frozen=True, kw_only=True)
class Golden:
    """A visit of the last release: its plan, its entries as stored, its answers."""

    name: str
    description: int
    plan: VisitPlan
    bench: Bench
    speaks: Speaker
    written: tuple[Written, ...]
    answers: tuple[Answer, ...]

    def entries(self, after: int) -> list[Entry]:
        """The first so many entries, as this description writes them."""
        entries = [entry_of(one) for one in self.written[:after]]
        if self.description == 1:
            return upgrade(self.plan.tasks[0], entries)
        return entries

    def answer(self, after: int) -> dict[str, Any]:
        """What is answered now after so many entries."""
        sheet = fold(self.plan, self.entries(after), self.bench)
        tasks = tuple(
            TaskClosing(plan=plan, fluid="Oil A", bottle_ml=Decimal(1000))
            for plan in self.plan.tasks
        )
        shape = run_sheet(Closing(tasks, sheet, KM), about(), self.speaks)
        return dict(json.loads(json.dumps(asdict(shape), default=str)))


@dataclass(frozen=True)
class Change:
    """A rule that changed an answer on purpose: why, and whether it explains a difference."""

    why: str
    explains: Callable[[Golden, str, Any, Any], bool]


CHANGED: tuple[Change, ...] = ()


def about() -> About:
    """What that release was told besides the visit."""
    return About(
        id="v",
        state="open",
        bike=BikeName("b", "Tern", "M N"),
        layout="",
        sheet_version=1,
        odometer=f"{KM} km",
        corrected="",
        closed_by="",
        wants="",
        ride_in="",
        ride_out="",
        now=datetime(2026, 5, 4, 9, tzinfo=UTC),
        seconds_per_minute=60.0,
        mentor="Oda",
    )


_ABOUT = (
    *("id", "state", "bike", "sheet_version", "odometer", "now", "seconds_per_minute", "closed_by"),
    *("layout", "plugs", "corrected", "wants", "ride_in", "ride_out", "words", "poses", "asides"),
    "waits_for",
)


def in_words_of_then(answer: dict[str, Any]) -> dict[str, Any]:
    """An answer with what is said otherwise by now put as that release put it."""
    return {key: value for key, value in answer.items() if key not in _ABOUT}


def entry_of(one: Written) -> Entry:
    """An entry as that release stored it."""
    return Entry(
        id=one["id"],
        step=one["step"],
        kind=one["kind"],
        data=one["data"],
        at=datetime.fromisoformat(one["at"]),
        by=one["by"],
        supersedes=one["supersedes"],
    )


def _read(path: File) -> Golden:
    document = json.loads(path.read_text())
    return Golden(
        name=path.stem,
        description=document["description"],
        plan=read_kept(document["plan"], VisitPlan),
        bench=read_kept(document["bench"], Bench),
        speaks=Speaker(**document["speaks"]),
        written=tuple(document["entries"]),
        answers=tuple(Answer(one["after"], one["answer"]) for one in document["answers"]),
    )


FOLDER = File(__file__).parent / "golden" / "visits"
GOLDEN = tuple(_read(path) for path in sorted(FOLDER.glob("*.json")))
