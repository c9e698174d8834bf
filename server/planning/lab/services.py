"""Samples on their way out, reports on their way in."""

from collections.abc import Iterator, Sequence
from datetime import date, datetime
from decimal import Decimal
from random import Random
from typing import Any
from uuid import UUID, uuid5

from config.problems import Conflict
from config.sentences import sentence_of
from django.db import transaction
from django.http import Http404
from django.utils import timezone
from garage.models import Bike
from garage.odometer.selectors import last_odometer
from oilward_core.codes.options import Did
from oilward_core.errors import CoreError
from oilward_core.usedoil import LabLine, read_reports
from procrastinate.contrib.django.models import ProcrastinateJob
from shelf.models import Fluid
from visits.models import Service
from workshop import days
from workshop.access import as_id
from workshop.background import want
from workshop.models import Person

from planning.models import LabFile, LabReport, LabValue, Sample

from . import mapping
from .devices import OilLaboratory, SimulatedLaboratory
from .shapes import NewLabFile, NewSample

CHUNK = 200
TAKE_IN = "lab.take_in"  # the job's code
_SIGNS = "23456789ABCDEFGHJKLMNPQRSTUVWXYZ"  # none that a pen makes look like another


def _label(sample_id: UUID) -> str:
    dice = Random(sample_id.int)
    return "S-" + "".join(dice.choice(_SIGNS) for _ in range(6))


@transaction.atomic
def take_sample(new: NewSample, *, actor: Person, today: date) -> Sample:
    """A sample of what is in a reservoir, or of fresh oil, under a label of its own. Sent twice, it
    stands once. Raises CoreError ``visit.no_fluid`` and ``lab.never_served``."""
    sample_id = as_id(new.id)
    before = Sample.objects.filter(pk=sample_id).first()
    if before is not None:
        return before
    common = {"id": sample_id, "label": _label(sample_id), "taken_on": today, "by": actor}
    if not new.bike:
        if not Fluid.objects.filter(name=new.fluid).exists():
            raise CoreError("visit.no_fluid", field="fluid")
        return Sample.objects.create(**common, fluid=new.fluid, fresh=True)
    bike = Bike.objects.filter(pk=as_id(new.bike)).first()
    if bike is None:
        raise Http404
    last = Service.objects.filter(bike=bike, reservoir=new.reservoir, did=Did.CHANGED)
    service = last.select_related("reading").order_by("-done_on", "-reading__km").first()
    if service is None:
        raise CoreError("lab.never_served", field="reservoir")
    reading = last_odometer([bike.pk]).get(bike.pk)
    return Sample.objects.create(
        **common,
        bike=bike,
        reservoir=new.reservoir,
        reading=reading,
        km_on_oil=max(reading.km - service.km, Decimal(0)) if reading else None,
        fluid=service.fluid,
    )


@transaction.atomic
def send_in(new: NewLabFile, *, actor: Person, now: datetime) -> LabFile:
    """A laboratory's file, kept as it was sent; it is taken in in the background. Raises Conflict
    ``lab.id_taken`` where that id stands for another file."""
    file_id = as_id(new.id)
    told = {"text": new.text, "by": actor, "at": now}
    row, _ = LabFile.objects.get_or_create(pk=file_id, defaults=told)
    if row.text != new.text:
        raise Conflict("lab.id_taken")
    _want(row)
    return row


def _want(row: LabFile) -> None:
    from planning.tasks import take_in

    want(take_in, f"lab/{row.pk}", file=str(row.pk))


def left(sender: object, **_: Any) -> None:
    """Files that are not taken in yet are wanted, whatever became of the queue."""
    waiting = ProcrastinateJob.objects.filter(task_name=TAKE_IN).values_list(
        "args__file", flat=True
    )
    for row in (
        LabFile.objects.filter(finished_at=None).exclude(pk__in=list(waiting)).order_by("at")
    ):
        _want(row)


def work(file_id: str) -> None:
    """Take in a file, unless that is done."""
    for row in LabFile.objects.filter(pk=file_id, finished_at=None):
        take_in(row)


def take_in(row: LabFile) -> None:
    """Every report that can be taken, in pieces, with the faults of the others. Begun again, nothing is
    taken twice."""
    samples = dict(Sample.objects.values_list("label", "pk"))
    try:
        lines, faults = read_reports(row.text, samples, days.today())
    except CoreError as error:
        row.refused = sentence_of(error)[:300]
        lines, faults = (), ()
    row.faults = [mapping.fault(f.line, f.field, f.code, f.fields) for f in faults[:1000]]
    row.lines, row.done, row.taken = len(lines) + len(faults), len(faults), 0
    row.save()
    for piece in _pieces(lines):
        with transaction.atomic():
            _keep(row, piece, samples)
            row.done, row.taken = row.done + len(piece), row.taken + len(piece)
            row.save(update_fields=["done", "taken"])
    row.finished_at = timezone.now()
    row.save(update_fields=["finished_at"])


def _pieces(lines: Sequence[LabLine]) -> Iterator[Sequence[LabLine]]:
    for start in range(0, len(lines), CHUNK):
        yield lines[start : start + CHUNK]


def _keep(row: LabFile, piece: Sequence[LabLine], samples: dict[str, UUID]) -> None:
    wanted = {uuid5(row.pk, f"{line.line}"): line for line in piece}
    there = set(LabReport.objects.filter(pk__in=wanted).values_list("pk", flat=True))
    new = {pk: line for pk, line in wanted.items() if pk not in there}
    LabReport.objects.bulk_create(
        LabReport(
            id=pk,
            sample_id=samples[line.label],
            received=line.received,
            laboratory=line.laboratory,
        )
        for pk, line in new.items()
    )
    LabValue.objects.bulk_create(
        LabValue(report_id=pk, name=name, value=value)
        for pk, line in new.items()
        for name, value in line.values.items()
    )


@transaction.atomic
def ask_simulated(
    sample_id: UUID, today: date, laboratory: OilLaboratory | None = None
) -> LabReport:
    """The simulated laboratory answers a sample's label, once, and says that it is simulated."""
    sample = Sample.objects.filter(pk=sample_id).first()
    if sample is None:
        raise Http404
    report_id = uuid5(sample.pk, "simulated")
    row = LabReport.objects.filter(pk=report_id).first()
    if row is not None:
        return row
    answer = (laboratory or SimulatedLaboratory()).analyse(sample.label, sample.km_on_oil)
    row = LabReport.objects.create(
        id=report_id,
        sample=sample,
        received=today,
        laboratory="Simulated laboratory",
        simulated=True,
    )
    LabValue.objects.bulk_create(
        LabValue(report=row, name=name, value=value) for name, value in answer.items()
    )
    return row
