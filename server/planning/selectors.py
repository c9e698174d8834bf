from datetime import date, datetime
from math import ceil
from uuid import UUID

from django.http import Http404
from findings.mapping import plug
from findings.models import Finding
from findings.selectors import last_findings, of_bike
from garage.mapping import BikeSpec, odometer
from garage.models import Bike
from garage.selectors import bikes, last_odometer, photos_of, schools_of, specs_of
from oilward_core.due import Due, DueState, Meter
from oilward_core.odometer import shown
from oilward_core.sheet import Speaker
from oilward_core.spec import ReservoirSpec, why_not_serviceable
from shelf.selectors import matches as held_against
from shelf.shapes import Matches
from visits.mapping import plugs
from visits.models import Service
from visits.selectors import OpenSheet, open_sheets, services_of
from workshop.mapping import speaker
from workshop.models import Person

from . import mapping
from .shapes import BikePage, Glass, OpenVisit, ReservoirPage, Ward, WardBike

PAGE = 50


def _open_visit(found: OpenSheet) -> OpenVisit:
    state = found.sheet.step(found.sheet.focus or "")
    running = state.ends_at if state and state.ends_at and state.status == "focus" else None
    return OpenVisit(
        str(found.visit.id),
        found.label,
        state.step.title if state else "Sign",
        running.isoformat() if running else None,
    )


def _odometer(bike: Bike, now: Meter) -> str:
    hours = f" · {now.hours:.0f} h" if now.hours else ""
    return shown(now.km, odometer(bike)) + hours


def _ward_bike(
    bike: Bike, glasses: list[tuple[Glass, Due]], now: Meter, visit: OpenSheet | None
) -> WardBike:
    return WardBike(
        str(bike.id),
        bike.name,
        f"{bike.model.make} {bike.model.name}",
        _odometer(bike, now),
        bike.owner,
        [glass for glass, _ in glasses],
        _open_visit(visit) if visit else None,
    )


def ward(page: int, typed: str, today: date, now: datetime) -> Ward:
    """The bikes that match what was typed, by urgency, those in the shop first; a page of them."""
    every = list(bikes(typed))
    ids = [bike.id for bike in every]
    specs, schools = specs_of(every), schools_of(ids)
    read, services = last_odometer(ids), services_of(ids)
    findings, visits = last_findings(ids), open_sheets(ids, services)
    rows: list[tuple[Bike, list[tuple[Glass, Due]], Meter]] = []
    for bike in every:
        meter = mapping.now_of(bike, read.get(bike.id), today)
        known, spec = mapping.Known(bike, meter, schools[bike.id]), specs.get(bike.id)
        glasses = [
            mapping.glass(
                known,
                reservoir,
                services.get((bike.id, reservoir.key), []),
                findings.get((bike.id, reservoir.key)),
            )
            for reservoir in (spec.reservoirs if spec else ())
        ]
        rows.append((bike, glasses, meter))
    rows.sort(
        key=lambda row: (
            row[0].id not in visits,
            min((answer.left for _, answer in row[1]), default=0),
            row[0].name,
        )
    )
    pages = max(1, ceil(len(rows) / PAGE))
    page = min(max(page, 1), pages)
    shown = rows[(page - 1) * PAGE : page * PAGE]
    needing = (DueState.DUE, DueState.BASELINE)
    return Ward(
        len(rows),
        page,
        pages,
        sum(any(a.state in needing for _, a in glasses) for _, glasses, _ in rows),
        now.isoformat(),
        [*dict.fromkeys(mapping.COLUMNS.values()), mapping.WATCHED],
        [_ward_bike(bike, g, meter, visits.get(bike.id)) for bike, g, meter in shown],
    )


def _reservoir_page(
    known: mapping.Known,
    spec: BikeSpec,
    reservoir: ReservoirSpec,
    services: list[Service],
    found: list[Finding],
    speaks: Speaker,
    doubted: list[str],
) -> ReservoirPage:
    shape, _ = mapping.glass(known, reservoir, services, found[0] if found else None)
    why_not = why_not_serviceable(reservoir)
    unit = known.bike.odometer_unit
    return ReservoirPage(
        shape,
        reservoir.fluid,
        reservoir.fill_rule.value,
        mapping.level_check(reservoir),
        mapping.spec_lines(spec, reservoir.key, speaks, known.bike),
        [mapping.service_line(s, speaks, unit) for s in reversed(services)],
        [plug(f) for f in found],
        mapping.variants(reservoir, services, known.schools),
        not why_not,
        why_not,
        mapping.expected_take(reservoir, services, speaks),
        doubted,
        mapping.missing_words(reservoir),
        reservoir.serves,
        reservoir.caution,
        reservoir.reset,
    )


def _bike_or_404(bike_id: UUID) -> Bike:
    bike = Bike.objects.select_related("model").filter(pk=bike_id).first()
    if bike is None:
        raise Http404
    return bike


def bike_page(bike_id: UUID, person: Person, today: date) -> BikePage:
    """Everything about one bike: its reservoirs, their specs with sources, and their history."""
    bike = _bike_or_404(bike_id)
    spec = specs_of([bike]).get(bike.pk)
    reading = last_odometer([bike.id]).get(bike.id)
    now = mapping.now_of(bike, reading, today)
    services, findings = services_of([bike.id]), of_bike(bike.id)
    visit = open_sheets([bike.id], services).get(bike.id)
    known = mapping.Known(bike, now, schools_of([bike.pk])[bike.pk])
    reservoirs = spec.reservoirs if spec else ()
    doubted = mapping.doubted(reservoirs, bike.model.displacement_cc)
    sheet = spec.sheet if spec else None
    return BikePage(
        str(bike.id),
        bike.name,
        f"{bike.model.make} {bike.model.name}, {bike.model.year}",
        bike.model.layout,
        f"{bike.model.displacement_cc} cm³",
        bike.owner,
        bike.use_class,
        _odometer(bike, now),
        bike.odometer_unit,
        reading.read_on.isoformat() if reading else "",
        bike.records,
        bike.notes,
        bike.archived,
        bike.counts_hours,
        bike.model_id,
        sheet.pk if sheet else 0,
        sheet.version if sheet else 0,
        sheet.approved_by.name if sheet and sheet.approved_by else "",
        _open_visit(visit) if visit else None,
        [
            _reservoir_page(
                known,
                spec,
                reservoir,
                services.get((bike.id, reservoir.key), []),
                [finding for finding in findings if finding.reservoir == reservoir.key],
                speaker(person),
                doubted.get(reservoir.key, []),
            )
            for reservoir in reservoirs
            if spec
        ],
        plugs(spec) if spec else [],
        photos_of(bike.pk),
    )


def fluid_matches(bike_id: UUID, key: str) -> Matches:
    """The shelf held against what one reservoir of a bike asks for."""
    bike = _bike_or_404(bike_id)
    spec = specs_of([bike]).get(bike.pk)
    reservoir = spec.reservoir(key) if spec else None
    if reservoir is None:
        raise Http404
    schools = schools_of([bike.pk])[bike.pk]
    return held_against(reservoir.label, reservoir.requirement, reservoir.kind, schools)
