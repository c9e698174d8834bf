"""Between rows and the core for due states, glasses and spec lines."""

from collections import Counter
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import asdict, dataclass, replace
from datetime import date
from decimal import Decimal
from typing import Any

from findings.mapping import action, is_watched, level_word, plug, seen
from findings.mapping import level as level_of
from findings.models import Finding
from garage.mapping import BikeSpec, meter, odometer, when_new
from garage.models import Bike, OdometerReading
from oilward_bench import whys
from oilward_core.ageing import Clock, changes_after, clock_of, least
from oilward_core.bench import Speaker
from oilward_core.debris import Level, LevelWord, running_in, verdict
from oilward_core.due import Due, DueState, Meter, add_months, due, oil_age, say_due
from oilward_core.errors import CoreError
from oilward_core.fill import expected
from oilward_core.odometer import shown
from oilward_core.quantity import show
from oilward_core.reasons import Reason, Source
from oilward_core.renewals import renewals
from oilward_core.schools import INTERVAL, Schools, interval_reason, severity_with
from oilward_core.spec import (
    PART_FIELDS,
    RESERVOIR_FIELDS,
    Cell,
    FillRule,
    Path,
    ReservoirSpec,
    Variant,
    doubts,
    field_of,
    is_number,
    missing,
    read_value,
    said,
    sentence_case,
    what,
)
from oilward_core.usage import (
    Forecast,
    Rate,
    forecast,
    hours_rate,
    interval_days,
    left_from,
    rate_until,
    say_forecast,
    usage_rate,
)
from visits.models import Service, TopUp
from visits.rows import valid_takes

from .kept import NOTCH_DAYS, kept_clock
from .models import DueRow, WardRow
from .shapes import Ask, Glass, MonthLoad, ServiceLine, SpecGroup, SpecLine, TopUpLine, WardBike
from .shapes import Choice as ChoiceShape

HOLD = Level.HOLD.word
BY_WORD = Reason(
    "owner's word",
    "Counted from what the owner says was done. Nobody has a record of it.",
    Source.TRADE,
)


def done_at(service: Service) -> Meter:
    return Meter(service.done_on, service.km, service.hours)


def how_due(
    bike: Bike,
    spec: ReservoirSpec,
    services: Sequence[Service],
    now: Meter,
    schools: Schools,
    finding: Finding | None = None,
) -> Due:
    """``finding``: the last one; found at the last service, it may ask for half the interval."""
    interval = schools.of(spec.kind, INTERVAL)
    severity, unit = severity_with(bike.severity, interval), bike.odometer_unit
    if services:
        last = services[-1]
        asked = finding is not None and finding.found_on >= last.done_on and is_watched(finding)
        answer = due(spec.limits, done_at(last), now, severity=severity, unit=unit, watched=asked)
        if last.by_word:
            answer = replace(answer, reasons=(*answer.reasons, BY_WORD))
    else:
        new = when_new(bike)
        answer = due(spec.limits, new, now, first=True, severity=severity, unit=unit)
    why = interval_reason(interval)
    return replace(answer, reasons=(*answer.reasons, why)) if why else answer


@dataclass(frozen=True, kw_only=True)
class Known:
    """What a reservoir's glass is drawn from besides its spec. ``read`` is the last reading."""

    bike: Bike
    now: Meter
    schools: Schools
    read: Meter
    rate: Rate
    hours: Rate | None
    rate_until: date | None


def known_of(
    bike: Bike, readings: Sequence[OdometerReading], schools: Schools, today: date
) -> Known:
    """``readings``: the bike's, oldest first."""
    meters = [meter(row) for row in readings]
    read = meters[-1] if meters else Meter(today, Decimal(0))
    rate = usage_rate(meters, today, bike.use_class, bike.odometer_unit)
    now = Meter(today, read.km, read.hours)
    return Known(
        bike=bike,
        now=now,
        schools=schools,
        read=read,
        rate=rate,
        hours=hours_rate(meters, today),
        rate_until=rate_until(meters, today),
    )


def glass(
    known: Known, spec: ReservoirSpec, services: Sequence[Service], finding: Finding | None
) -> tuple[Glass, Due, Forecast | None, Clock]:
    bike = known.bike
    answer = how_due(bike, spec, services, known.now, known.schools, finding)
    ahead = forecast(answer, known.read, known.rate, known.hours)
    level = min(max(float(answer.left), 0.0), 1.0)
    changed = done_at(services[-1]) if services else when_new(bike)
    reasons = (*answer.reasons, *(ahead.reasons if ahead else ()))
    along = tuple(
        Reason("renewed along with it", f"{str(one).capitalize()}.", Source.MANUAL)
        for one in renewals(spec, known.schools, done_so_far(services))
    )
    clock = clock_of(answer, spec.limits, changed, known.now, bike.odometer_unit)
    shape = Glass(
        key=spec.key,
        kind=spec.kind.value,
        label=spec.label,
        column=spec.facts.column,
        state=answer.state,
        level=level,
        age=float(oil_age(spec.limits, changed, known.now)),
        when=say_due(answer, known.now, bike.odometer_unit),
        forecast=say_forecast(ahead, known.now.on) if ahead and answer.left > 0 else "",
        notch=left_from(float(answer.left), ahead.on, known.now.on, NOTCH_DAYS) if ahead else None,
        reasons=whys((*reasons, *along)),
        plug=plug(finding) if finding else None,
    )
    return shape, answer, ahead, clock


def _meant(path: Path, cell: Cell, speaks: Speaker, unit: str) -> str:
    field = field_of(path)
    try:
        value = read_value(field, cell.written)
    except CoreError:
        return ""
    return said(field, value, volume=speaks.volume, torque=speaks.torque, distance=unit)


def _short(path: Path) -> str:
    """What a value is called among its own kind: ``With filter`` under *Capacity*."""
    field = field_of(path)
    return sentence_case(field.label.removeprefix(f"{field.plate}, "))


def spec_line(path: Path, spec: BikeSpec, speaks: Speaker, bike: Bike) -> SpecLine:
    cell = spec.cells[path]
    return SpecLine(
        path=str(path),
        name=sentence_case(what(path._replace(reservoir=""))),
        short=_short(path),
        as_written=cell.written,
        converted=_meant(path, cell, speaks, bike.odometer_unit),
        source=cell.source,
        entered_by=cell.entered_by,
        checked_by=cell.checked_by,
        number=is_number(field_of(path)),
        own=path in spec.own,
        revision=spec.own.get(path, 0),
    )


_SAID_ELSEWHERE = ("kind", "label", "fill rule", "role", "spot", "place")


_GROUPS, _LAST = ("Capacity", "Level", "Fluid", "When", "What"), "Words"
_IN_ORDER = {field: n for n, field in enumerate((*RESERVOIR_FIELDS, *PART_FIELDS))}


def spec_groups(
    spec: BikeSpec, reservoir: ReservoirSpec, speaks: Speaker, bike: Bike
) -> list[SpecGroup]:
    """A reservoir's values as they belong together: capacity, level, fluid, intervals, then part by
    part."""
    found: dict[str, list[SpecLine]] = {title: [] for title in _GROUPS}
    paths = sorted(
        spec.cells_of(reservoir.key), key=lambda path: (path.part, _IN_ORDER[field_of(path)])
    )
    for path in paths:
        if path.field in _SAID_ELSEWHERE and path not in spec.own:
            continue
        title = path.part or field_of(path).plate
        found.setdefault(title, []).append(spec_line(path, spec, speaks, bike))
    words = found.pop(_LAST, [])
    groups = {**found, _LAST: words}
    # an exact quantity has no level to stand under
    notes = {"Level" if reservoir.level else "Capacity": level_check(reservoir)}
    return [
        SpecGroup(sentence_case(title), notes.get(title, ""), lines)
        for title, lines in groups.items()
        if lines
    ]


def worked_again(
    known: Known, spec: ReservoirSpec, found: Finding, services: Sequence[Service]
) -> str:
    """What a finding comes to on odometer readings corrected since; empty where none was. The
    verdict as it was signed stays beside it."""
    before = [s for s in services if s.km < found.reading.km]
    reading, last = found.reading, before[-1] if before else None
    if not (reading.corrects_id or (last and last.reading.corrects_id)):
        return ""
    since = reading.km - (last.km if last else 0)
    first = running_in(reading.km, when_new(known.bike) is not None, bool(before))
    judged = verdict(seen(found, spec.kind, since, first))
    words = (
        f"On the corrected reading, {show(since, known.bike.odometer_unit)} since it was wiped: "
    )
    return f"{words}{judged.level.word}. {judged.action}"


def service_line(row: Service, speaks: Speaker, unit: str) -> ServiceLine:
    def volume(ml: Decimal | None) -> str:
        return "" if ml is None else show(ml, speaks.volume)

    return ServiceLine(
        done_on=row.done_on.isoformat(),
        odometer=show(row.km, unit) + (f" · {row.hours:.0f} h" if row.hours is not None else ""),
        variant=row.variant,
        drained=volume(row.drained_ml),
        took=volume(row.took_ml),
        fluid=row.fluid,
        done_by=row.done_by,
        visit=str(row.visit_id) if row.visit_id else "",
        not_learned=row.not_learned,
        by_word=row.by_word,
        proof=row.proof,
        found=row.found,
    )


def top_up_line(row: TopUp, speaks: Speaker, unit: str) -> TopUpLine:
    at = show(row.reading.km, unit)
    amount = show(row.ml, speaks.volume)
    return TopUpLine(
        done_on=row.done_on.isoformat(),
        odometer=at,
        amount=amount,
        fluid=row.fluid,
        done_by=row.done_by,
    )


def level_check(spec: ReservoirSpec) -> str:
    level = spec.level
    if level is None:
        return "Exact quantity, no level to read." if spec.fill_rule == FillRule.EXACT else ""
    minutes = level.run_minutes.normalize()
    run = f"run {minutes:f} min, " if minutes else ""
    held = f"{level.dipstick}, " if level.dipstick else ""
    settle = f"settle {level.settle_minutes.normalize():f} min"
    return f"{level.gauge.capitalize()}, {held}{level.attitude}: {run}{settle}, read at eye level."


def expected_take(spec: ReservoirSpec, services: Sequence[Service], speaks: Speaker) -> str:
    """What it really takes, from its own history; empty without one."""
    if not services:
        return ""
    variant = Variant(services[-1].variant)
    took, capacity = valid_takes(services, variant), spec.capacities.get(variant)
    if not took or capacity is None:
        return ""
    belief = expected(capacity, took)
    mean, sd = (show(Decimal(round(v)), speaks.volume) for v in (belief.mean, belief.sd))
    return f"{mean} ± {sd}, against {show(capacity, speaks.volume)} in the book"


def done_so_far(services: Sequence[Service]) -> tuple[str, ...]:
    """The variants of a reservoir's services, oldest first, as the core counts by them."""
    return tuple(row.variant for row in services)


def doubted(reservoirs: Sequence[ReservoirSpec], displacement_cc: int) -> dict[str, list[str]]:
    """What looks wrong on a sheet, in sentences, by reservoir."""
    found: dict[str, list[str]] = {}
    for doubt in doubts(reservoirs, displacement_cc):
        found.setdefault(doubt.reservoir, []).append(doubt.text)
    return found


def missing_words(spec: ReservoirSpec) -> list[str]:
    return [what(path._replace(reservoir="")) for path in missing(spec)]


def asks(glasses: Iterable[Glass], still: Mapping[str, Sequence[Finding]]) -> list[Ask]:
    """What findings of a bike ask for, the gravest first: the newest that says *watch*, and every
    graver one until it is answered (``still``, by reservoir)."""
    found = []
    for glass in glasses:
        grave = sorted(still.get(glass.key, ()), key=level_of, reverse=True)
        for row in grave[:1]:
            found.append(
                Ask(
                    reservoir=glass.key,
                    label=glass.label,
                    level=level_word(row),
                    action=action(row),
                )
            )
        if not grave and glass.plug and glass.plug.level == LevelWord.WATCH:
            found.append(
                Ask(
                    reservoir=glass.key,
                    label=glass.label,
                    level=glass.plug.level,
                    action=glass.plug.action,
                )
            )
    return sorted(found, key=lambda ask: ask.level.level, reverse=True)


def odometer_words(bike: Bike, now: Meter) -> str:
    hours = f" · {now.hours:.0f} h" if now.hours else ""
    return shown(now.km, odometer(bike)) + hours


FLEET, NEEDING = "bikes", "needing"
_MONTHS = 12
_NEEDS = (DueState.DUE, DueState.BASELINE)


@dataclass(frozen=True, kw_only=True)
class Reservoir:
    """One reservoir, worked out."""

    spec: ReservoirSpec
    glass: Glass
    due: Due
    ahead: Forecast | None
    clock: Clock
    lasts_days: int | None


def worked_out(
    known: Known, spec: ReservoirSpec, services: Sequence[Service], finding: Finding | None
) -> Reservoir:
    interval = known.schools.of(spec.kind, INTERVAL)
    severity = severity_with(known.bike.severity, interval)
    lasts = interval_days(spec.limits, severity, known.rate, known.hours)
    shape, due, ahead, clock = glass(known, spec, services, finding)
    return Reservoir(spec=spec, glass=shape, due=due, ahead=ahead, clock=clock, lasts_days=lasts)


def due_row(bike: Bike, reservoir: Reservoir) -> DueRow:
    answer, ahead = reservoir.due, reservoir.ahead
    return DueRow(
        bike=bike,
        reservoir=reservoir.spec.key,
        kind=reservoir.spec.kind.value,
        label=reservoir.spec.label[:60],
        fluid=reservoir.spec.fluid[:300],
        state=answer.state.value,
        left=max(answer.left, Decimal(-9999)),
        due_on=answer.due_on,
        due_km=answer.due_km,
        due_hours=answer.due_hours,
        forecast_on=ahead.on if ahead else None,
        forecast_early=ahead.early if ahead else None,
        forecast_late=ahead.late if ahead else None,
        lasts_days=reservoir.lasts_days,
    )


def _searched(bike: Bike) -> str:
    model = bike.model
    words = (bike.name, bike.owner, bike.use_class, bike.notes, model.make, model.name, bike.plate)
    return " ".join([*words, model.layout, str(model.year)]).lower()


def _tally(bike: Bike, reservoirs: Sequence[Reservoir]) -> dict[str, int]:
    """What a bike adds to the counts of the fleet."""
    counts = Counter([FLEET, f"use:{bike.use_class}"])
    if any(reservoir.due.state in _NEEDS for reservoir in reservoirs):
        counts[NEEDING] += 1
    for reservoir in reservoirs:
        if reservoir.ahead:
            counts[f"month:{reservoir.ahead.on:%Y-%m}"] += 1
        if reservoir.spec.fluid:
            counts[f"fluid:{reservoir.spec.fluid}"[:320]] += 1
    return dict(counts)


def _changes(known: Known, reservoirs: Sequence[Reservoir]) -> list[date]:
    """The days on which a bike has to be worked out anew though nobody wrote anything: a reservoir's
    state is another, or a reading is too old for the rate."""
    changes = [changes_after(reservoir.clock, known.now.on) for reservoir in reservoirs]
    return [day for day in (*changes, known.rate_until) if day is not None]


def ward_row(
    known: Known,
    reservoirs: Sequence[Reservoir],
    in_shop: bool,
    still: Mapping[str, Sequence[Finding]],
) -> WardRow:
    """A bike as the ward keeps it; the visit it may be in and the next one planned are added when it
    is read. ``still``: its findings that ask until they are answered, by reservoir."""
    bike, asked = known.bike, asks((reservoir.glass for reservoir in reservoirs), still)
    held = next((ask for ask in asked if ask.level == HOLD), None)
    expected = [r.ahead.on for r in reservoirs if r.ahead]
    line, another = least([r.clock for r in reservoirs], known.now.on)
    baseline = any(r.due.state == DueState.BASELINE for r in reservoirs)
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
        on_hold=held is not None,
        asking=bool(asked),
        changes_on=min(
            [*_changes(known, reservoirs), *([another] if another else [])], default=None
        ),
        shape=asdict(shape),
        clocks={r.spec.key: kept_clock(r.clock, r.ahead) for r in reservoirs},
        tally=_tally(bike, reservoirs),
    )


def day_words(day: date) -> str:
    """``Thu 26 Nov``, as calendar and ward say it."""
    return f"{day:%a} {day.day}\u00a0{day:%b}"


def _named(tally: Mapping[str, int], prefix: str) -> list[dict[str, Any]]:
    found = [
        asdict(ChoiceShape(name.removeprefix(prefix), count))
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
