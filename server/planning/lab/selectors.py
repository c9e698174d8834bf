"""Samples that wait, files on their way in, and what laboratories said of a reservoir."""

from collections.abc import Iterable
from decimal import Decimal
from uuid import UUID

from django.db.models import Exists, OuterRef
from django.http import Http404
from garage.models import Bike
from shelf.models import Fluid

from planning.models import LabFile, LabReport, Sample

from . import mapping
from .papers import label_pdf
from .shapes import LabHistory, LabProgress, SampleLine

SOME = 200


def _with_answers(rows: Iterable[Sample]) -> list[SampleLine]:
    return [mapping.sample_line(row, bool(getattr(row, "answered", False))) for row in rows]


def samples() -> list[SampleLine]:
    """The newest samples, those that wait for a report first."""
    answered = Exists(LabReport.objects.filter(sample=OuterRef("pk")))
    rows = Sample.objects.annotate(answered=answered).select_related("bike", "by")
    return _with_answers(rows.order_by("answered", "-taken_on", "-id")[:SOME])


def one_sample(sample_id: UUID) -> SampleLine:
    answered = Exists(LabReport.objects.filter(sample=OuterRef("pk")))
    rows = Sample.objects.filter(pk=sample_id).annotate(answered=answered)
    found = _with_answers(rows.select_related("bike", "by"))
    if not found:
        raise Http404
    return found[0]


def label_of(sample_id: UUID) -> bytes:
    return label_pdf(one_sample(sample_id))


def progress(file_id: UUID) -> LabProgress:
    row = LabFile.objects.filter(pk=file_id).defer("text").first()
    if row is None:
        raise Http404
    return mapping.progress(row)


def _fresh(fluids: Iterable[str]) -> dict[str, tuple[mapping.Fresh, Decimal | None, str]]:
    """What is known of each oil when it is fresh: its own newest report, and its data sheet."""
    names = set(fluids)
    shelf = Fluid.objects.filter(name__in=names).values_list("name", "kv100", "grade")
    sheet = {name: (kv100, grade) for name, kv100, grade in shelf}
    rows = LabReport.objects.filter(sample__fresh=True, sample__fluid__in=names)
    said = {
        row.sample.fluid: mapping.values(row)
        for row in rows.select_related("sample").prefetch_related("values").order_by("received")
    }
    return {name: (said.get(name, {}), *sheet.get(name, (None, ""))) for name in names}


def lab_history(bike_id: UUID, reservoir: str) -> LabHistory:
    """Every report on a reservoir, by distance."""
    bike = Bike.objects.filter(pk=bike_id).first()
    if bike is None:
        raise Http404
    rows = LabReport.objects.filter(sample__bike=bike, sample__reservoir=reservoir)
    found = list(
        rows.select_related("sample__reading")
        .prefetch_related("values")
        .order_by("sample__reading__km", "received", "id")
    )
    return mapping.history(bike, found, _fresh(row.sample.fluid for row in found))
