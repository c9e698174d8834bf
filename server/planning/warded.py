"""Between the core and the ward: a bike as it is kept, and what the fleet counts."""

from collections import Counter
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import asdict
from datetime import date, timedelta
from typing import Any

from findings.mapping import action, level_word
from findings.mapping import level as level_of
from findings.models import Finding
from garage.models import Bike
from oilward_core.ageing import least
from oilward_core.debris import Level, asks_most
from oilward_core.due import DueState, add_months
from oilward_core.said.away import until
from oilward_core.spec import KINDS, ReservoirKind
from oilward_core.standing import NEEDS_OIL, changes_on
from visits.away.selectors import OUT, in_words, is_late, state_of
from visits.models import HandedOut

from .kept import kept_clock
from .mapping import Known, Reservoir, odometer_words
from .models import WardRow
from .shapes import Ask, Choice, Glass, MonthLoad, WardAway, WardBike

HOLD = Level.HOLD.word
FLEET, NEEDING = "bikes", "needing"
_MONTHS = 12


def _ask(glass: Glass, still: Sequence[Finding]) -> Ask | None:
    newest = glass.plug.level.level if glass.plug else None
    place = asks_most([level_of(row) for row in still], newest)
    if place is None:
        return None
    if place < len(still):
        level, does = level_word(still[place]), action(still[place])
    else:
        assert glass.plug is not None
        level, does = glass.plug.level, glass.plug.action
    look = KINDS[ReservoirKind(glass.kind)].looked_at
    return Ask(reservoir=glass.key, label=glass.label, level=level, action=does, look=look)


def asks(glasses: Iterable[Glass], still: Mapping[str, Sequence[Finding]]) -> list[Ask]:
    """What findings of a bike ask for, the gravest first. ``still``: those that ask until they are
    answered, by reservoir."""
    found = [_ask(glass, still.get(glass.key, ())) for glass in glasses]
    asked = [ask for ask in found if ask is not None]
    return sorted(asked, key=lambda ask: ask.level.level, reverse=True)


def _away(
    handed: Sequence[HandedOut], reservoirs: Sequence[Reservoir], today: date
) -> list[WardAway]:
    labels = {one.spec.key: one.spec.label for one in reservoirs}
    return [
        WardAway(
            reservoir=row.reservoir,
            text=_away_words(row, labels.get(row.reservoir, row.reservoir), today),
            overdue=is_late(row, today),
        )
        for row in handed
    ]


def _away_words(row: HandedOut, label: str, today: date) -> str:
    """``shock is away, at a specialist, tag K7QD, back by Fri 4 Dec``."""
    said = in_words(row, label)
    if state_of(row) != OUT:
        return said
    return until(said, day_words(row.back_by), is_late(row, today))


def _searched(bike: Bike) -> str:
    model = bike.model
    words = (bike.name, bike.owner, bike.use_class, bike.notes, model.make, model.name, bike.plate)
    return " ".join([*words, model.layout, str(model.year)]).lower()


def _tally(bike: Bike, reservoirs: Sequence[Reservoir]) -> dict[str, int]:
    """What a bike adds to the counts of the fleet."""
    counts = Counter([FLEET, f"use:{bike.use_class}"])
    if any(reservoir.stands.due.state in NEEDS_OIL for reservoir in reservoirs):
        counts[NEEDING] += 1
    for reservoir in reservoirs:
        if reservoir.stands.ahead:
            counts[f"month:{reservoir.stands.ahead.on:%Y-%m}"] += 1
        if reservoir.spec.fluid:
            counts[f"fluid:{reservoir.spec.fluid}"[:320]] += 1
    return dict(counts)


def ward_row(
    known: Known,
    reservoirs: Sequence[Reservoir],
    in_shop: bool,
    still: Mapping[str, Sequence[Finding]],
    handed: Sequence[HandedOut] = (),
) -> WardRow:
    """A bike as the ward keeps it; the visit it may be in and the next one planned are added when it
    is read. ``still``: its findings that ask until they are answered, by reservoir; ``handed``: what of
    it is with a specialist, or back and not fitted."""
    bike, asked = known.bike, asks((reservoir.glass for reservoir in reservoirs), still)
    held = next((ask for ask in asked if ask.level == HOLD), None)
    expected = [r.stands.ahead.on for r in reservoirs if r.stands.ahead]
    clocks = [r.stands.clock for r in reservoirs]
    line, another = least(clocks, known.now.on)
    changes = [changes_on(known.running, clocks), another, *(r.stands.turns_on for r in reservoirs)]
    changes += [row.back_by + timedelta(days=1) for row in handed if row.back_by >= known.now.on]
    away = _away(handed, reservoirs, known.now.on)
    baseline = any(r.stands.due.state == DueState.BASELINE for r in reservoirs)
    shape = WardBike(
        id=str(bike.pk),
        name=bike.name,
        model=f"{bike.model.make} {bike.model.name}",
        odometer=odometer_words(bike, known.now),
        owner=bike.owner,
        use_class=bike.use_class,
        hold=f"{held.label}: {held.action}" if held else "",
        glasses=[reservoir.glass for reservoir in reservoirs],
        asks=asked,
        visit=None,
        planned=None,
        away=away,
    )
    return WardRow(
        bike=bike,
        name=bike.name,
        searched=_searched(bike),
        use_class=bike.use_class,
        starts=float(line.left + line.falls * known.now.on.toordinal()),
        falls=float(line.falls),
        first_due=known.now.on if baseline else min(expected, default=None),
        in_shop=in_shop,
        on_hold=held is not None or bool(handed),
        asking=bool(asked),
        changes_on=min((day for day in changes if day), default=None),
        shape=asdict(shape),
        clocks={r.spec.key: kept_clock(r.stands.clock, r.stands.ahead) for r in reservoirs},
        tally=_tally(bike, reservoirs),
    )


def day_words(day: date) -> str:
    """``Thu 26 Nov``, as calendar and ward say it."""
    return f"{day:%a} {day.day}\u00a0{day:%b}"


def _named(tally: Mapping[str, int], prefix: str) -> list[dict[str, Any]]:
    found = [
        asdict(Choice(name.removeprefix(prefix), count))
        for name, count in tally.items()
        if name.startswith(prefix)
    ]
    return sorted(found, key=lambda choice: (-choice["count"], choice["name"]))


def counted(tally: Mapping[str, int], today: date) -> dict[str, Any]:
    """The strip of the coming twelve months, and what can be filtered by."""
    firsts = [add_months(today.replace(day=1), n) for n in range(_MONTHS)]
    over = sum(
        count
        for name, count in tally.items()
        if name.startswith("month:") and name < f"month:{firsts[0]:%Y-%m}"
    )
    months = [
        MonthLoad(
            f"{m:%Y-%m}", f"{m:%b}", tally.get(f"month:{m:%Y-%m}", 0) + (over if not n else 0)
        )
        for n, m in enumerate(firsts)
    ]
    return {
        "months": [asdict(month) for month in months],
        "uses": _named(tally, "use:"),
        "fluids": _named(tally, "fluid:"),
    }
