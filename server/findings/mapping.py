"""Between findings' rows and the core."""

from collections.abc import Iterable
from dataclasses import dataclass
from decimal import Decimal

from oilward_core.debris import (
    CONFIRM,
    Form,
    Found,
    Level,
    LevelWord,
    Matter,
    Observation,
    OilLook,
    Outcome,
    Part,
    Place,
    chance_words,
    outcomes_of,
    still_asking,
)
from oilward_core.spec import ReservoirKind

from .models import Answer, Debris, Finding


@dataclass(frozen=True)
class PlugPart:
    """One kind of debris, for drawing on the plug tip."""

    form: Form
    matter: Matter
    share: float
    largest_mm: float | None


@dataclass(frozen=True)
class AnswerLine:
    """What came of looking into a finding."""

    outcome: str
    words: str
    by: str
    at: str


@dataclass(frozen=True)
class Plug:
    """A finding as the plug tip shows it; ``chance`` that a fault was growing, in words, if
    known; ``asks`` until one of the ``outcomes`` is answered, and so long ``confirm`` names tests."""

    id: str
    found_on: str
    level: LevelWord
    origin: str
    action: str
    note: str
    parts: list[PlugPart]
    oil: list[OilLook]
    rules: list[str]
    again: str
    chance: str
    asks: bool
    outcomes: list[Outcome]
    confirm: list[str]
    answers: list[AnswerLine]


MOST_TIMES = 1e6  # likelier than that is that


def part(row: Debris) -> Part:
    return Part(
        Form(row.form),
        Matter(row.matter),
        row.share,
        row.largest_mm,
        row.count,
        row.magnetic,
        Place(row.place),
    )


def parts(row: Finding) -> tuple[Part, ...]:
    """What was seen, in the order it was written down."""
    return tuple(part(one) for one in row.debris.all())


def debris(row: Finding, seen: Part) -> Debris:
    return Debris(
        finding=row,
        place=seen.place,
        form=seen.form,
        matter=seen.matter,
        share=seen.share,
        largest_mm=seen.largest_mm,
        count=seen.count,
        magnetic=seen.magnetic,
    )


def found(row: Finding, repaired: bool = False) -> Found:
    """A finding as the growth filter reads it."""
    grader, km = str(row.found_by_id), row.km_since_wiped
    return Found(row.found_on, parts(row), km, grader, row.run_in, repaired)


def history(rows: Iterable[Finding]) -> tuple[list[Found], bool]:
    """A reservoir's findings, oldest first; after a fault was put right the next starts anew. And
    whether one was since the last."""
    read, repaired = [], False
    for row in sorted(counting(rows), key=lambda one: (one.found_on, str(one.pk))):
        read.append(found(row, repaired))
        repaired = any(answer.outcome == Outcome.FAULT for answer in row.answers.all())
    return read, repaired


def asking(rows: Iterable[Finding]) -> list[Finding]:
    """The findings of a reservoir, given newest first, that ask for something until they are answered."""
    counted = counting(rows)
    answers = (tuple(Outcome(one.outcome) for one in row.answers.all()) for row in counted)
    still = still_asking(zip(map(level, counted), answers, strict=True))
    return [row for row, asks in zip(counted, still, strict=True) if asks]


def level(row: Finding) -> Level:
    return Level[row.level.upper()]


def answer_line(row: Answer) -> AnswerLine:
    return AnswerLine(row.outcome, row.words, row.by.name, row.at.isoformat())


def counting(rows: Iterable[Finding]) -> list[Finding]:
    """Findings with each that was regraded left out: its newest regrade counts instead."""
    all_of = list(rows)
    regraded = {row.regrade_of_id for row in all_of}
    return [row for row in all_of if row.pk not in regraded]


def seen(row: Finding, kind: ReservoirKind, km_since_wiped: Decimal, first: bool) -> Observation:
    """What was seen, for judging it on another distance."""
    looks = frozenset(OilLook(look) for look in row.oil)
    return Observation(kind, parts(row), looks, km_since_wiped, first)


def plug_part(one: Part) -> PlugPart:
    largest = None if one.largest_mm is None else float(one.largest_mm)
    return PlugPart(one.form, one.matter, float(one.share), largest)


def on_plug(seen: Iterable[Part]) -> list[PlugPart]:
    """What is drawn on the plug's tip: what sat there."""
    return [plug_part(one) for one in seen if one.place == Place.PLUG]


def plug(row: Finding, again: str = "", asks: bool = False) -> Plug:
    """``again``: what a later correction makes of it, in words; ``asks``: until it is answered."""
    return Plug(
        str(row.pk),
        row.found_on.isoformat(),
        LevelWord(row.level),
        row.origin,
        row.action,
        row.note,
        on_plug(parts(row)),
        [OilLook(look) for look in row.oil],
        list(row.rules),
        again,
        # where something has broken already, what may be growing is no news
        "" if row.said is None or row.level == LevelWord.HOLD else chance_words(row.said),
        asks,
        list(outcomes_of(level(row))),
        [CONFIRM[name] for rule in row.rules if (name := rule.split(":")[0]) in CONFIRM]
        if asks
        else [],
        [answer_line(one) for one in row.answers.all()],
    )
