from datetime import date, datetime
from math import ceil
from uuid import UUID

from django.http import Http404
from findings.mapping import plug
from findings.models import Finding
from findings.selectors import last_findings, of_bike
from garage.mapping import reservoir_spec
from garage.models import Bike, ReservoirRow
from garage.selectors import approved_sheets, bikes, last_odometer
from oilward_core.due import Due, DueState, Meter
from oilward_core.quantity import show
from oilward_core.sheet import Speaker
from oilward_core.spec import why_not_serviceable
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
        found.task.reservoir.label,
        state.step.title if state else "Sign",
        running.isoformat() if running else None,
    )


def _ward_bike(
    bike: Bike, glasses: list[tuple[Glass, Due]], now: Meter, visit: OpenSheet | None
) -> WardBike:
    hours = f" · {now.hours:.0f} h" if now.hours else ""
    return WardBike(
        str(bike.id),
        bike.name,
        f"{bike.model.make} {bike.model.name}",
        show(now.km, bike.odometer_unit) + hours,
        bike.owner,
        [glass for glass, _ in glasses],
        _open_visit(visit) if visit else None,
    )


def ward(page: int, typed: str, today: date, now: datetime) -> Ward:
    """The bikes that match what was typed, by urgency, those in the shop first; a page of them."""
    every = list(bikes(typed))
    ids = [bike.id for bike in every]
    sheets = approved_sheets({bike.model_id for bike in every})
    odometer, services = last_odometer(ids), services_of(ids)
    findings, visits = last_findings(ids), open_sheets(ids, services)
    rows: list[tuple[Bike, list[tuple[Glass, Due]], Meter]] = []
    for bike in every:
        meter = mapping.now_of(bike, odometer.get(bike.id), today)
        sheet = sheets.get(bike.model_id)
        glasses = [
            mapping.glass(
                bike,
                row,
                services.get((bike.id, row.key), []),
                findings.get((bike.id, row.key)),
                meter,
            )
            for row in (sheet.reservoirs.all() if sheet else ())
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
    bike: Bike,
    row: ReservoirRow,
    services: list[Service],
    found: list[Finding],
    now: Meter,
    speaks: Speaker,
    doubted: list[str],
) -> ReservoirPage:
    spec = reservoir_spec(row)
    shape, _ = mapping.glass(bike, row, services, found[0] if found else None, now)
    why_not = why_not_serviceable(spec)
    return ReservoirPage(
        shape,
        row.fluid,
        row.fill_rule,
        mapping.level_check(spec),
        [mapping.spec_line(v, speaks, bike.odometer_unit) for v in row.values.all()],
        [mapping.plug_line(f, speaks) for f in row.fasteners.all()],
        [mapping.service_line(s, speaks, bike.odometer_unit) for s in reversed(services)],
        [plug(f) for f in found],
        mapping.variants(spec),
        not why_not,
        why_not,
        mapping.expected_take(spec, services, speaks),
        doubted,
    )


def bike_page(bike_id: UUID, person: Person, today: date) -> BikePage:
    """Everything about one bike: its reservoirs, their specs with sources, and their history."""
    bike = bikes().filter(pk=bike_id).first()
    if bike is None:
        raise Http404
    sheet = approved_sheets([bike.model_id]).get(bike.model_id)
    reading = last_odometer([bike.id]).get(bike.id)
    now = mapping.now_of(bike, reading, today)
    services, findings = services_of([bike.id]), of_bike(bike.id)
    visit = open_sheets([bike.id], services).get(bike.id)
    speaks = speaker(person)
    tanks = list(sheet.reservoirs.all()) if sheet else []
    doubted = mapping.doubted(tanks, bike.model.displacement_cc)
    return BikePage(
        str(bike.id),
        bike.name,
        f"{bike.model.make} {bike.model.name}, {bike.model.year}",
        bike.model.layout,
        f"{bike.model.displacement_cc} cm³",
        bike.owner,
        bike.use_class,
        show(now.km, bike.odometer_unit) + (f" · {now.hours:.0f} h" if now.hours else ""),
        bike.odometer_unit,
        reading.read_on.isoformat() if reading else "",
        bike.records,
        sheet.version if sheet else 0,
        sheet.approved_by.name if sheet and sheet.approved_by else "",
        _open_visit(visit) if visit else None,
        [
            _reservoir_page(
                bike,
                row,
                services.get((bike.id, row.key), []),
                [finding for finding in findings if finding.reservoir == row.key],
                now,
                speaks,
                doubted.get(row.key, []),
            )
            for row in tanks
        ],
    )
