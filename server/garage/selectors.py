from collections.abc import Iterable
from uuid import UUID

from django.http import Http404
from oilward_core.schools import TOPICS, Choice, Schools
from oilward_core.spec import ReservoirSpec
from workshop.access import leads, may_work
from workshop.mapping import choice
from workshop.models import Person, SchoolRow

from . import mapping
from .mapping import BikeSpec
from .models import Bike, BikeModel, BikePhoto, OwnCell, OwnSchool, SpecSheet
from .shapes import BikeFormPage, ModelChoice, PhotoLine, SchoolsPage


def approved_sheets(model_ids: Iterable[int]) -> dict[int, SpecSheet]:
    """The newest approved sheet of each model, with its cells."""
    sheets = (
        SpecSheet.objects.filter(model_id__in=list(model_ids), state=SpecSheet.State.APPROVED)
        .order_by("model_id", "-version")
        .distinct("model_id")
        .prefetch_related("cells")
        .select_related("approved_by")
    )
    return {sheet.model_id: sheet for sheet in sheets}


def own_cells(bike_ids: Iterable[UUID]) -> dict[UUID, list[OwnCell]]:
    """What differs on single bikes from their model's sheet."""
    found: dict[UUID, list[OwnCell]] = {}
    for row in OwnCell.objects.filter(bike_id__in=list(bike_ids)):
        found.setdefault(row.bike_id, []).append(row)
    return found


def specs_of(many: Iterable[Bike]) -> dict[UUID, BikeSpec]:
    """What each of these bikes is serviced by; those without an approved sheet are left out."""
    listed = list(many)
    sheets = approved_sheets({bike.model_id for bike in listed})
    shared = {model: mapping.model_spec(sheet) for model, sheet in sheets.items()}
    own = own_cells([bike.pk for bike in listed])
    return {
        bike.pk: mapping.own_spec(shared[bike.model_id], own.get(bike.pk, []))
        for bike in listed
        if bike.model_id in shared
    }


def reservoir_or_404(bike_id: UUID, key: str) -> ReservoirSpec:
    """One reservoir of a bike's sheet. Raises Http404 where there is none."""
    bike = Bike.objects.filter(pk=bike_id).first()
    spec = specs_of([bike]).get(bike.pk) if bike else None
    reservoir = spec.reservoir(key) if spec else None
    if reservoir is None:
        raise Http404
    return reservoir


def schools_of(bike_ids: Iterable[UUID]) -> dict[UUID, Schools]:
    """The practices that count for each bike: its own, then the workshop's."""
    listed = list(bike_ids)
    shared = tuple(choice(row) for row in SchoolRow.objects.all())
    own: dict[UUID, list[Choice]] = {}
    for row in OwnSchool.objects.filter(bike_id__in=listed):
        own.setdefault(row.bike_id, []).append(
            Choice(kind=row.kind, topic=row.topic, choice=row.choice, this_bike=True)
        )
    return {bike: Schools((*own.get(bike, ()), *shared)) for bike in listed}


def workshop_schools() -> Schools:
    return Schools(tuple(choice(row) for row in SchoolRow.objects.all()))


def schools_page(bike_id: UUID | None, person: Person) -> SchoolsPage:
    """Every practice with what counts now, for the workshop or for one bike."""
    schools = schools_of([bike_id])[bike_id] if bike_id else workshop_schools()
    may = leads(person) or (bike_id is not None and may_work(person))
    return SchoolsPage([mapping.school_topic(topic, schools) for topic in TOPICS], may)


def bike_form(bike_id: UUID | None) -> BikeFormPage:
    """A bike's form, or an empty one, with what can be chosen in it."""
    models = [
        ModelChoice(model.pk, mapping.model_words(model))
        for model in BikeModel.objects.filter(gone_by="").order_by("make", "name", "year")
    ]
    bike = Bike.objects.filter(pk=bike_id).first() if bike_id else None
    if bike_id and bike is None:
        raise Http404
    form = mapping.bike_form(bike)
    return BikeFormPage(
        form=form, models=models, use_classes=mapping.USE_CLASSES, records=list(Bike.Records.values)
    )


def photos_of(bike_id: UUID) -> list[PhotoLine]:
    rows = BikePhoto.objects.filter(bike_id=bike_id).defer("jpeg")
    return [
        PhotoLine(
            id=str(row.pk),
            caption=row.caption,
            taken_on=row.taken_on.isoformat(),
            taken_by=row.taken_by,
        )
        for row in rows
    ]


def photo_or_404(photo_id: UUID) -> bytes:
    row = BikePhoto.objects.filter(pk=photo_id).first()
    if row is None:
        raise Http404
    return bytes(row.jpeg)


MOST_FOUND = 200


def bikes_with(word: str) -> list[UUID]:
    """The bikes with a word in their name."""
    found = Bike.objects.filter(name__icontains=word).order_by("pk")
    return list(found.values_list("pk", flat=True)[:MOST_FOUND])


def names_of(ids: Iterable[UUID]) -> dict[UUID, str]:
    """What these bikes are called."""
    return dict(Bike.objects.filter(pk__in=list(ids)).values_list("pk", "name"))
