"""Between rows and the core for the page of a bike: its values, its services, what its plugs come to."""

from collections.abc import Collection, Sequence
from decimal import Decimal

from findings.mapping import grown
from findings.models import Finding
from findings.seen import seen
from garage.mapping import BikeSpec, meter, when_new
from garage.models import Bike
from oilward_core.bench import Speaker
from oilward_core.codes.options import Did
from oilward_core.debris import running_in, verdict
from oilward_core.errors import CoreError
from oilward_core.fill import OfModel, case_of, expected
from oilward_core.quantity import show
from oilward_core.said import standing as words
from oilward_core.spec import (
    Cell,
    Path,
    ReservoirSpec,
    Variant,
    doubts,
    field_of,
    grouped,
    is_number,
    level_note,
    missing,
    read_value,
    said,
    sentence_case,
    short_name,
    what,
)
from visits.models import Service, TopUp
from visits.rows import before, changes

from planning.mapping import Known
from planning.shapes import ServiceLine, SpecGroup, SpecLine, TopUpLine


def _meant(path: Path, cell: Cell, speaks: Speaker, unit: str) -> str:
    field = field_of(path)
    try:
        value = read_value(field, cell.written)
    except CoreError:
        return ""
    return said(field, value, volume=speaks.volume, torque=speaks.torque, distance=unit)


def spec_line(path: Path, spec: BikeSpec, speaks: Speaker, bike: Bike) -> SpecLine:
    waiting = spec.waiting.get(path)
    cell = spec.cells.get(path) or Cell(written="")
    return SpecLine(
        path=str(path),
        name=sentence_case(what(path._replace(reservoir=""))),
        short=short_name(path),
        as_written=cell.written,
        converted=_meant(path, cell, speaks, bike.odometer_unit),
        source=cell.source,
        entered_by=cell.entered_by,
        checked_by=cell.checked_by,
        number=is_number(field_of(path)),
        own=path in spec.own and waiting is None,
        revision=spec.own.get(path, 0),
        waits=waiting.written if waiting else "",
        waits_by=waiting.entered_by if waiting else "",
    )


def _shown(spec: BikeSpec, key: str) -> list[Path]:
    """The values of a reservoir, with those that wait for a second person."""
    waiting = [path for path in spec.waiting if path.reservoir == key]
    return list(dict.fromkeys([*spec.cells_of(key), *waiting]))


def spec_groups(
    spec: BikeSpec, reservoir: ReservoirSpec, speaks: Speaker, bike: Bike
) -> list[SpecGroup]:
    """A reservoir's values as they belong together."""
    under, note = level_note(reservoir)
    return [
        SpecGroup(
            sentence_case(title),
            note if title == under else "",
            [spec_line(path, spec, speaks, bike) for path in paths],
        )
        for title, paths in grouped(_shown(spec, reservoir.key), spec.own)
    ]


def worked_again(
    known: Known, spec: ReservoirSpec, found: Finding, services: Sequence[Service]
) -> str:
    """What a finding comes to on odometer readings corrected since; empty where none was. The
    verdict as it was signed stays beside it."""
    if found.look:
        return ""
    before = [s for s in changes(services) if s.km < found.reading.km]
    reading, last = found.reading, before[-1] if before else None
    if not (reading.corrects_id or (last and last.reading.corrects_id)):
        return ""
    since = reading.km - (last.km if last else 0)
    first = running_in(meter(reading), when_new(known.bike), spec.limits, bool(before))
    judged = verdict(seen(found, spec.kind, since, first), grown(found))
    return words.on_corrected(
        show(since, known.bike.odometer_unit), judged.level.word, judged.action
    )


def service_line(row: Service, speaks: Speaker, unit: str) -> ServiceLine:
    def volume(ml: Decimal | None) -> str:
        return "" if ml is None else show(ml, speaks.volume)

    return ServiceLine(
        done_on=row.done_on.isoformat(),
        odometer=show(row.km, unit) + (f" · {row.hours:.0f} h" if row.hours is not None else ""),
        did=Did(row.did),
        variant=row.variant if row.did == Did.CHANGED else "",
        drained=volume(row.drained_ml),
        took=volume(row.took_ml),
        fluid=row.fluid if row.did in (Did.CHANGED, Did.TOPPED_UP) else "",
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


def expected_take(spec: ReservoirSpec, services: Sequence[Service], speaks: Speaker) -> str:
    """What it really takes, from its own history; empty without one."""
    if not services:
        return ""
    variant = Variant(services[-1].variant)
    own, capacity = before(services, variant, OfModel()), spec.capacities.get(variant)
    if not own.took or capacity is None:
        return ""
    belief = expected(case_of(spec, variant, capacity, own))
    if not belief.sd:
        return ""
    mean, sd = (show(Decimal(round(v)), speaks.volume) for v in (belief.mean, belief.sd))
    return words.take(mean, sd, show(capacity, speaks.volume))


def doubted(
    reservoirs: Sequence[ReservoirSpec], displacement_cc: int, answered: Collection[tuple[str, str]]
) -> dict[str, list[str]]:
    """What looks wrong on a sheet, in sentences, by reservoir; what somebody ``answered`` there, by
    reservoir and sentence, is not asked again."""
    found: dict[str, list[str]] = {}
    for doubt in doubts(reservoirs, displacement_cc):
        if (doubt.reservoir, doubt.text) not in answered:
            found.setdefault(doubt.reservoir, []).append(doubt.text)
    return found


def missing_words(spec: ReservoirSpec) -> list[str]:
    return [what(path._replace(reservoir="")) for path in missing(spec)]
