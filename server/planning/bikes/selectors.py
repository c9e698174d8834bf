"""What the page of a bike shows."""

from datetime import date
from uuid import UUID

from django.http import Http404
from findings.mapping import asking, plug
from findings.models import Finding
from findings.selectors import of_bike, still_asking
from garage.mapping import BikeSpec, engine_words, model_words
from garage.models import Bike
from garage.odometer.selectors import recent_odometer
from garage.selectors import photos_of, reservoir_or_404, schools_of, specs_of
from oilward_core.away import part_of
from oilward_core.bench import Speaker
from oilward_core.progression import may_compare
from oilward_core.renewals import variants
from oilward_core.said.away import PARTS
from oilward_core.spec import ReservoirSpec, why_not_serviceable
from shelf.selectors import matches as held_against
from shelf.shapes import Matches
from visits.away.selectors import in_words, not_on_the_bike
from visits.models import HandedOut, Service, TopUp
from visits.rows import plugs
from visits.selectors import services_of, top_ups_of
from workshop.mapping import speaker
from workshop.models import Person

from planning.mapping import Known, done_so_far, known_of, odometer_words, worked_out
from planning.selectors import next_planned, of_one, open_visit
from planning.shapes import BikePage, ReservoirPage
from planning.warded import asks

from . import mapping


def _reservoir_page(
    known: Known,
    spec: BikeSpec,
    reservoir: ReservoirSpec,
    services: list[Service],
    top_ups: list[TopUp],
    found: list[Finding],
    speaks: Speaker,
    doubted: list[str],
    out: HandedOut | None,
) -> ReservoirPage:
    shape = worked_out(known, reservoir, services, found[0] if found else None).glass
    why_not = in_words(out, reservoir.label) if out else why_not_serviceable(reservoir)
    still = asking(found)
    unit = known.bike.odometer_unit
    return ReservoirPage(
        glass=shape,
        fluid=reservoir.fluid,
        rule=reservoir.fill_rule.value,
        spec=mapping.spec_groups(spec, reservoir, speaks, known.bike),
        services=[mapping.service_line(s, speaks, unit) for s in reversed(services)],
        findings=[
            plug(f, mapping.worked_again(known, reservoir, f, services), f in still, whole=True)
            for f in found
        ],
        variants=[v.value for v in variants(reservoir, known.schools, done_so_far(services))],
        looked_at=reservoir.facts.looked_at,
        serviceable=not why_not,
        not_serviceable=why_not,
        expected_take=mapping.expected_take(reservoir, services, speaks),
        doubts=doubted,
        missing=mapping.missing_words(reservoir),
        serves=reservoir.serves,
        caution=reservoir.caution,
        reset=reservoir.reset,
        goes_out=PARTS[part] if (part := part_of(reservoir)) else "",
        sags=reservoir.ride.travel is not None,
        gaps=may_compare(reservoir),
        top_ups=[mapping.top_up_line(row, speaks, unit) for row in top_ups],
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
    readings = recent_odometer([bike.pk], today).get(bike.pk, [])
    services, findings = services_of([bike.id]), of_bike(bike.id)
    visit, top_ups = open_visit(bike.id), top_ups_of(bike.id)
    known = known_of(bike, readings, schools_of([bike.pk])[bike.pk], today)
    reservoirs = spec.reservoirs if spec else ()
    sheet = spec.sheet if spec else None
    answered = set(sheet.answers.values_list("reservoir", "text")) if sheet else set()
    doubted = mapping.doubted(reservoirs, bike.model.displacement_cc, answered)
    handed = not_on_the_bike([bike.pk]).get(bike.pk, [])
    out = {row.reservoir: row for row in handed}
    pages = [
        _reservoir_page(
            known,
            spec,
            reservoir,
            services.get((bike.id, reservoir.key), []),
            top_ups.get(reservoir.key, []),
            [finding for finding in findings if finding.reservoir == reservoir.key],
            speaker(person),
            doubted.get(reservoir.key, []),
            out.get(reservoir.key),
        )
        for reservoir in reservoirs
        if spec
    ]
    return BikePage(
        id=str(bike.id),
        name=bike.name,
        model=model_words(bike.model),
        layout=bike.model.layout,
        displacement=f"{bike.model.displacement_cc} cm³",
        plate=bike.plate,
        frame_number=bike.frame_number,
        year_built=bike.year_built,
        engine=engine_words(bike, known.now.km),
        owner=bike.owner,
        use_class=bike.use_class,
        odometer=odometer_words(bike, known.now),
        odometer_unit=bike.odometer_unit,
        odometer_on=known.running.read.on.isoformat() if readings else "",
        records=bike.records,
        notes=bike.notes,
        archived=bike.archived,
        counts_hours=bike.counts_hours,
        model_id=bike.model_id,
        sheet_id=sheet.pk if sheet else 0,
        sheet_version=sheet.version if sheet else 0,
        sheet_approved_by=sheet.approved_by.name if sheet and sheet.approved_by else "",
        visit=visit,
        planned=next_planned([bike.id], today).get(bike.id),
        asks=asks((page.glass for page in pages), of_one(still_asking([bike.pk]), bike.pk)),
        reservoirs=pages,
        plugs=plugs(spec) if spec else [],
        photos=photos_of(bike.pk),
    )


def fluid_matches(bike_id: UUID, key: str) -> Matches:
    """The shelf held against what one reservoir of a bike asks for."""
    reservoir, schools = reservoir_or_404(bike_id, key), schools_of([bike_id])[bike_id]
    return held_against(reservoir.label, reservoir.requirement, reservoir.kind, schools)
