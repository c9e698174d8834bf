"""Between rows and the core: how the reservoirs of a bike stand."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from decimal import Decimal

from findings.mapping import is_watched, plug
from findings.models import Finding
from garage.mapping import meter, odometer, when_new
from garage.models import Bike, OdometerReading
from oilward_bench import whys
from oilward_core.due import Meter
from oilward_core.odometer import shown
from oilward_core.schools import Schools
from oilward_core.spec import ReservoirSpec
from oilward_core.standing import LastDone, Running, Standing, running, standing
from visits.models import Service
from visits.rows import changes, last_looked

from .models import DueRow
from .shapes import Glass


@dataclass(frozen=True)
class Known:
    """A bike as it runs, with the schools that count for it."""

    bike: Bike
    running: Running
    schools: Schools

    @property
    def now(self) -> Meter:
        """Where its counters stand today."""
        return self.running.now


@dataclass(frozen=True)
class Reservoir:
    """One reservoir, worked out."""

    spec: ReservoirSpec
    stands: Standing
    glass: Glass


def known_of(
    bike: Bike, readings: Sequence[OdometerReading], schools: Schools, today: date
) -> Known:
    """``readings``: the bike's, oldest first."""
    runs = running(
        [meter(row) for row in readings],
        today,
        bike.use_class,
        bike.odometer_unit,
        bike.severity,
        when_new(bike),
    )
    return Known(bike, runs, schools)


def _last_done(services: Sequence[Service], finding: Finding | None) -> LastDone | None:
    """Their last change. ``finding``: the last one; found then, it may ask for half the interval."""
    done = changes(services)
    if not done:
        return None
    last = done[-1]
    asked = finding is not None and finding.found_on >= last.done_on and is_watched(finding)
    return LastDone(Meter(last.done_on, last.km, last.hours), last.by_word, asked)


def worked_out(
    known: Known, spec: ReservoirSpec, services: Sequence[Service], finding: Finding | None
) -> Reservoir:
    """``services`` oldest first; ``finding``: the last one."""
    last = _last_done(services, finding)
    looked = last_looked(services)
    stands = standing(
        spec,
        known.running,
        known.schools,
        last,
        done_so_far(services),
        seals_so_far(services),
        Meter(looked.done_on, looked.km, looked.hours) if looked else None,
    )
    glass = Glass(
        key=spec.key,
        kind=spec.kind.value,
        label=spec.label,
        column=spec.facts.column,
        state=stands.due.state,
        level=stands.level,
        age=stands.age,
        when=stands.when,
        forecast=stands.expected,
        notch=stands.notch,
        reasons=whys(stands.reasons),
        plug=plug(finding) if finding and not finding.look else None,
    )
    return Reservoir(spec, stands, glass)


def done_so_far(services: Sequence[Service]) -> tuple[str, ...]:
    """The variants of a reservoir's changes, oldest first, as the core counts by them."""
    return tuple(row.variant for row in changes(services))


def seals_so_far(services: Sequence[Service]) -> tuple[dict[str, str], ...]:
    """What seals went on where with them; rows of the last release, on their way here, do not say."""
    return tuple(getattr(row, "seals", None) or {} for row in changes(services))


def odometer_words(bike: Bike, now: Meter) -> str:
    hours = f" · {now.hours:.0f} h" if now.hours else ""
    return shown(now.km, odometer(bike)) + hours


def due_row(bike: Bike, reservoir: Reservoir) -> DueRow:
    answer, ahead = reservoir.stands.due, reservoir.stands.ahead
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
        lasts_days=reservoir.stands.lasts_days,
    )
