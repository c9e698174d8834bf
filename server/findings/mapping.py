"""Between findings' rows and the core."""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date
from decimal import Decimal

from garage.models import Bike
from oilward_bench import PlugPart, on_plug
from oilward_core.codes.options import Look
from oilward_core.debris import (
    ACTIONS,
    Found,
    Growth,
    Level,
    LevelWord,
    OilLook,
    Outcome,
    Rule,
    chance_words,
    confirmed_by,
    look_outcomes,
    outcomes_of,
    still_asking,
    watched,
    would_change,
)
from oilward_core.said.options import LOOKS
from oilward_core.spec import KINDS, ReservoirKind

from .models import Answer, Finding, Overruling
from .seen import parts, seen


@dataclass(frozen=True, kw_only=True)
class AnswerLine:
    """What came of looking into a finding."""

    outcome: str
    words: str
    by: str
    at: str


@dataclass(frozen=True, kw_only=True)
class OverruledLine:
    """A lead saw a finding otherwise."""

    level: LevelWord
    reason: str
    by: str
    at: str


@dataclass(frozen=True)
class PictureLine:
    """A picture of a finding, with the spot marked on it, as shares of its width and height."""

    id: str
    x: float | None
    y: float | None


@dataclass(frozen=True)
class FirstReading:
    """What somebody read of a plug before another reading counted instead."""

    by: str
    level: LevelWord
    parts: list[PlugPart]


@dataclass(frozen=True, kw_only=True)
class Plug:
    """A finding as the plug tip shows it; ``chance`` that a fault was growing, in words, if
    known; ``asks`` until one of the ``outcomes`` is answered, and so long ``confirm`` names tests.
    ``look`` is what a look showed where no plug was read, in words;
    ``level`` is the one that counts, ``judged`` the one the rules gave; ``changes`` what would have
    changed it; ``first`` how it was read at first, if it was regraded."""

    id: str
    found_on: str
    look: str
    level: LevelWord
    judged: LevelWord
    origin: str
    action: str
    by: str
    note: str
    kept: str
    parts: list[PlugPart]
    oil: list[OilLook]
    rules: list[str]
    again: str
    chance: str
    asks: bool
    outcomes: list[Outcome]
    confirm: list[str]
    changes: list[str]
    answers: list[AnswerLine]
    overruled: list[OverruledLine]
    pictures: list[PictureLine]
    first: FirstReading | None


def found(row: Finding, repaired: bool = False, new_baseline: bool = False, nth: int = 0) -> Found:
    """A finding as the growth filter reads it."""
    grader, km = str(row.found_by_id), row.km_since_wiped
    return Found(
        day=row.found_on,
        parts=parts(row),
        km_since_wiped=km,
        grader=grader,
        run_in=row.run_in or row.no_magnet,
        repaired=repaired,
        new_baseline=new_baseline,
        nth=nth,
    )


def grown(row: Finding) -> Growth | None:
    """The chance as it was said then, that a fault is growing; none where none was."""
    if row.chance is None or row.said is None or row.form_times is None:
        return None
    return Growth(
        day=row.found_on,
        raw=row.chance,
        said=row.said,
        form=row.form_times,
        amount=row.amount_times,
        before=row.chance_before or 0,
    )


def _another_engine(before: Finding, bike: Bike, kind: str, km: Decimal | None) -> bool:
    """Whether another engine was fitted since the finding before: its past is not this one's."""
    at = bike.engine_at_km
    engine = bool(kind) and KINDS[ReservoirKind(kind)].runs_engine
    if at is None or not engine or before.reading.km >= at:
        return False
    return km is None or at <= km


def _magnet_added(before: Finding, bike: Bike, day: date) -> bool:
    """Whether the bike's plug has had a magnet only since the finding before, by the bike's own value."""
    return any(
        cell.reservoir == before.reservoir
        and cell.field == "magnet"
        and cell.written.strip().lower() == "yes"
        and before.found_on < cell.entered_on <= day
        for cell in bike.own_cells.all()
    )


def new_baseline(before: Finding | None, row: Finding) -> bool:
    """Whether what the bike showed before says nothing of what it shows now."""
    return before is not None and (
        _another_engine(before, row.bike, row.kind, row.reading.km)
        or _magnet_added(before, row.bike, row.found_on)
    )


def new_baseline_since(rows: Iterable[Finding], bike: Bike, kind: ReservoirKind, day: date) -> bool:
    """Whether what a reservoir's findings showed says nothing of what it shows on a day."""
    before = max(counting(rows), key=lambda one: (one.found_on, one.kept_at), default=None)
    return before is not None and (
        _another_engine(before, bike, kind.value, None) or _magnet_added(before, bike, day)
    )


def put_right(row: Finding | None) -> bool:
    """Whether a fault was found there, and put right."""
    return row is not None and any(one.outcome == Outcome.FAULT for one in row.answers.all())


def history(rows: Iterable[Finding]) -> tuple[list[Found], bool]:
    """A reservoir's findings, oldest first; after a fault was put right the next starts anew. And
    whether one was since the last."""
    read: list[Found] = []
    before: Finding | None = None
    in_order = sorted(counting(rows), key=lambda one: (one.found_on, one.kept_at))
    for nth, row in enumerate(in_order):
        read.append(found(row, put_right(before), new_baseline(before, row), nth))
        before = row
    return read, put_right(before)


def asking(rows: Iterable[Finding]) -> list[Finding]:
    """The findings of a reservoir, given newest first, that ask for something until they are answered."""
    counted = counting(rows)
    answers = (tuple(Outcome(one.outcome) for one in row.answers.all()) for row in counted)
    still = still_asking(zip(map(level, counted), answers, strict=True))
    return [row for row, asks in zip(counted, still, strict=True) if asks]


def level(row: Finding) -> Level:
    """The level that counts: the rules', or a lead's."""
    return level_word(row).level


def level_word(row: Finding) -> LevelWord:
    overruled = list(row.overrulings.all())
    return LevelWord(overruled[-1].level if overruled else row.level)


def action(row: Finding) -> str:
    """What is to be done about it: the verdict's, or that of the level a lead gave it."""
    return ACTIONS[level(row)] if list(row.overrulings.all()) else row.action


def look_words(look: str) -> str:
    """What a look showed, in words; empty where it was no look."""
    return LOOKS[Look(look)] if look else ""


def outcomes(row: Finding) -> tuple[Outcome, ...]:
    """What may be answered to it."""
    if row.look:
        return look_outcomes(look_rule(row), level(row))
    return outcomes_of(level(row))


def is_watched(row: Finding) -> bool:
    """Whether it asks for the next look at half the interval, and for a sample: what a plug showed, that
    is; no look brings a change nearer."""
    if row.look:
        return False
    return watched(level(row), (Outcome(one.outcome) for one in row.answers.all()))


def answer_line(row: Answer) -> AnswerLine:
    return AnswerLine(outcome=row.outcome, words=row.words, by=row.by.name, at=row.at.isoformat())


def counting(rows: Iterable[Finding]) -> list[Finding]:
    """Findings with each that was regraded left out: its newest regrade counts instead."""
    all_of = list(rows)
    regraded = {row.regrade_of_id for row in all_of}
    return [row for row in all_of if row.pk not in regraded]


def regraded(rows: Iterable[Finding]) -> list[Found]:
    """First readings that another counts instead of."""
    all_of = list(rows)
    counted = {row.pk for row in counting(all_of)}
    return [found(row) for row in all_of if row.pk not in counted]


def ruled(row: Finding) -> list[tuple[str, str]]:
    """The rules that spoke, by their codes, with what they said; earlier releases kept both as one
    text."""
    return [
        (one["rule"], one["text"]) if isinstance(one, dict) else _rule_of_then(one)
        for one in row.rules
    ]


def look_rule(row: Finding) -> Rule:
    """The rule of the table that spoke at a look."""
    return Rule(ruled(row)[0][0])


def _rule_of_then(text: str) -> tuple[str, str]:
    rule, _, said = text.partition(": ")
    return rule, said


def plug(row: Finding, again: str = "", asks: bool = False, whole: bool = False) -> Plug:
    """``again``: what a later correction makes of it, in words; ``asks``: until it is answered;
    ``whole``: with what would have changed it."""
    return Plug(
        id=str(row.pk),
        found_on=row.found_on.isoformat(),
        look=look_words(row.look),
        level=level_word(row),
        judged=LevelWord(row.level),
        origin=row.origin,
        action=action(row),
        by=row.found_by.name,
        note=row.note,
        kept=row.kept,
        parts=on_plug(parts(row)),
        oil=[OilLook(look) for look in row.oil],
        rules=[f"{rule}: {said}" for rule, said in ruled(row)],
        again=again,
        # where something has broken already, what may be growing is no news
        chance="" if row.said is None or level(row) == Level.HOLD else chance_words(row.said),
        asks=asks,
        outcomes=list(outcomes(row)),
        confirm=_tests(row) if asks else [],
        changes=_changes(row) if whole else [],
        answers=[answer_line(one) for one in row.answers.all()],
        overruled=[overruled_line(one) for one in row.overrulings.all()],
        pictures=[PictureLine(str(one.picture_id), one.x, one.y) for one in row.pictured.all()],
        first=_first(row),
    )


def _tests(row: Finding) -> list[str]:
    """What would make sure."""
    return [said for rule, _ in ruled(row) if (said := confirmed_by(rule))]


def _changes(row: Finding) -> list[str]:
    """What would have changed its verdict, by the rules."""
    if not row.kind or row.look:
        return []
    then = seen(row, ReservoirKind(row.kind), row.km_since_wiped, row.run_in)
    return [one.words for one in would_change(then, grown(row))]


def _first(row: Finding) -> FirstReading | None:
    before = row.regrade_of
    if before is None:
        return None
    return FirstReading(before.found_by.name, LevelWord(before.level), on_plug(parts(before)))


def overruled_line(row: Overruling) -> OverruledLine:
    return OverruledLine(
        level=LevelWord(row.level), reason=row.reason, by=row.by.name, at=row.at.isoformat()
    )
