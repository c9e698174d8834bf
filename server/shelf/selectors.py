from collections.abc import Sequence
from decimal import Decimal

from django.http import Http404
from oilward_core.errors import CoreError, at
from oilward_core.fluid import FAMILIES, Fit, Match, labelled, match
from oilward_core.quantity import Kind, parse_single, show
from oilward_core.schools import FLUID, Schools
from oilward_core.spec import KINDS, Requirement, ReservoirKind
from workshop.mapping import speaker
from workshop.models import Person, Workshop

from . import mapping
from .devices import DrainScale, SimulatedScale, SimulatedWrench, TorqueSource
from .mapping import fluid_card, scales, wrench
from .models import Fluid, WrenchRow
from .shapes import Blend, Matches, Peak, Shelf, Weighed

CAVEAT = "Grade limits are recalled, not quoted: compare with the current edition."


def pull(wrench_id: int, aim: str, source: TorqueSource | None = None) -> Peak:
    """The peak of one pull on a digital wrench towards ``aim`` (any torque unit)."""
    row = WrenchRow.objects.filter(pk=wrench_id, simulated=True).first()
    if row is None:
        raise Http404
    target = _typed("aim", aim, Kind.TORQUE, row.unit)
    peak: Decimal = (source or SimulatedWrench()).peak(wrench(row), target)
    return Peak(show(peak, row.unit, 1), row.simulated)


def weigh(expected: str, scale: DrainScale | None = None) -> Weighed:
    """What a scale and a thermometer show of a pan that should hold so much oil (any volume unit)."""
    should = _typed("expected", expected, Kind.VOLUME, "ml")
    weight, pan, celsius = (scale or SimulatedScale()).weigh(should)
    return Weighed(
        weight=f"{weight} g", pan=f"{pan} g", celsius=f"{celsius} °C", simulated=scale is None
    )


def shelf() -> Shelf:
    """Every fluid with what its measured values satisfy, in one query."""
    cold = coldest_start()
    cards = [fluid_card(row, cold) for row in on_shelf()]
    return Shelf(
        fluids=cards,
        scales=scales(),
        families=list(FAMILIES),
        coldest=f"{cold:g} °C",
        caveat=CAVEAT,
    )


def coldest_start() -> float:
    workshop = Workshop.objects.first()
    return float(workshop.coldest_start) if workshop else 0.0


def matches(reservoir: str, need: Requirement, kind: ReservoirKind, schools: Schools) -> Matches:
    """The shelf held against what a reservoir asks for, best first."""
    cold = coldest_start()
    found = [mapping.fluid_match(row, need, kind, schools, cold) for row in on_shelf()]
    found.sort(key=lambda fluid: (fluid.rank, fluid.name))
    school = str(schools.of(kind, FLUID)) if KINDS[kind].own_case else ""
    return Matches(
        reservoir=reservoir,
        wanted=mapping.wanted(need),
        school=school,
        fluids=found,
        scales=scales(),
        caveat=CAVEAT,
    )


def on_shelf() -> list[Fluid]:
    return list(Fluid.objects.filter(retired=False))


def judged(
    need: Requirement, kind: ReservoirKind, schools: Schools, rows: Sequence[Fluid] | None = None
) -> list[tuple[Fluid, Match]]:
    """How well each fluid of the shelf, or of ``rows``, fits: best first, by name among equals."""
    rows = on_shelf() if rows is None else rows
    found = [(row, match(need, kind, mapping.offer(row), schools)) for row in rows]
    return sorted(found, key=lambda one: (one[1].fit, one[0].name))


def fitting(
    need: Requirement, kind: ReservoirKind, schools: Schools, rows: Sequence[Fluid] | None = None
) -> list[Fluid]:
    """The fluids that fit, best first and by name among equals; of the whole shelf, or of ``rows``."""
    return [row for row, found in judged(need, kind, schools, rows) if found.fit < Fit.CAUTION]


def is_refused(
    name: str, need: Requirement, kind: ReservoirKind, schools: Schools, label: str = ""
) -> bool:
    """Whether the shelf's fluid of that name, or another one with that ``label``, may not go into such a
    reservoir."""
    if label:
        return match(need, kind, labelled(name, label), schools).fit == Fit.REFUSED
    row = Fluid.objects.filter(name=name).first() if name else None
    return row is not None and match(need, kind, mapping.offer(row), schools).fit == Fit.REFUSED


def best_fluid(
    need: Requirement, kind: ReservoirKind, schools: Schools, rows: Sequence[Fluid] | None = None
) -> Fluid | None:
    """The fluid that fits best and is not refused."""
    return next(iter(fitting(need, kind, schools, rows)), None)


def blend(thin_id: int, thick_id: int, target: str, total: str, person: Person) -> Blend:
    """Two oils of the shelf mixed to a viscosity at 40 °C between them."""
    rows = {row.pk: row for row in Fluid.objects.filter(pk__in=(thin_id, thick_id))}
    if len(rows) != 2:
        raise CoreError("shelf.two_oils", field="thick")
    thin, thick = sorted(rows.values(), key=lambda row: row.kv40 or Decimal(0))
    if thin.kv40 is None or thick.kv40 is None:
        raise CoreError("shelf.no_viscosity", field="thin")
    wanted = _typed("target", target, Kind.VISCOSITY, "cSt")
    amount = _typed("total", total, Kind.VOLUME, speaker(person).volume)
    with at("target"):
        return mapping.blend(thin, thick, wanted, amount, speaker(person).volume)


def _typed(field: str, text: str, kind: Kind, unit: str) -> Decimal:
    with at(field):
        return parse_single(text, kind, unit).low
