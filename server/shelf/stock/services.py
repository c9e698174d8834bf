"""Every line of the stock's ledger. An act sent twice is done once; a stale count is told."""

from collections.abc import Iterable
from datetime import date
from decimal import Decimal
from uuid import UUID, uuid5

from config.problems import Conflict
from django.db import connection, transaction
from django.http import Http404
from oilward_core.errors import CoreError, at
from oilward_core.kit import (
    Line,
    LineKind,
    bottle_came,
    bottle_counted,
    bottle_thrown,
    bottle_used,
    pieces,
)
from oilward_core.quantity import Kind, parse_single, read_count
from workshop.access import as_id
from workshop.models import Person
from workshop.repeated import digest, unchanged, written

from shelf.models import Fluid, StockLine

from . import mapping, selectors
from .shapes import Arrival, BottleForm, BottleUse, SealForm

_MOST_BOTTLES, _MOST_ML = 50, 100_000


def _queue(what: str) -> None:
    """Acts on one bottle, or on one kind of seal, queue up until this transaction ends."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT pg_advisory_xact_lock(hashtextextended(%s, 0))", [f"stock/{what}"])


def _done(act: UUID, sent: object) -> bool:
    """Whether this act is written already. Raises Conflict ``visit.id_taken`` where its id stands for
    something else."""
    return written(StockLine.objects.filter(act=act).first(), digest(sent)) is not None


def _write(
    sent: BottleForm | BottleUse | SealForm | Arrival,
    lines: Iterable[Line],
    about: dict[str, object],
    actor: Person,
) -> None:
    act, told = as_id(sent.act), digest(sent)
    StockLine.objects.bulk_create(
        StockLine(
            act=act, sent=told, kind=line.kind, change=line.change, on=line.on, by=actor, **about
        )
        for line in lines
    )


def _volume(text: str, field: str) -> Decimal:
    with at(field):
        return parse_single(text, Kind.VOLUME, "ml").low


def _day(text: str) -> date | None:
    try:
        return mapping.day(text.strip())
    except ValueError as error:
        raise CoreError("garage.date", field="opened_on") from error


@transaction.atomic
def save_bottle(form: BottleForm, *, actor: Person, today: date) -> None:
    """A bottle that is put there, or what is found in one. Raises Conflict ``garage.edited`` where
    somebody did something to it since it was seen; CoreError at ``size``, ``left``, ``opened_on``."""
    act, bottle_id = as_id(form.act), as_id(form.id)
    _queue(form.id)
    if _done(act, form):
        return
    size = _volume(form.size, "size")
    if not 0 < size < _MOST_ML:
        raise CoreError("shelf.bottle", field="size")
    batch = form.batch.strip()
    opened, stands = _day(form.opened_on), selectors.standing(bottle_id)
    there = stands.bottle.left if stands else size
    left = _volume(form.left, "left") if form.left.strip() else there
    if stands is None:
        if form.version or StockLine.objects.filter(bottle=bottle_id).exists():
            raise Conflict("shelf.gone")
        if not Fluid.objects.filter(pk=form.fluid).exists():
            raise Http404
        lines = bottle_came(size, left, opened, today)
        _write(form, lines, mapping.of_bottle(form.id, form.fluid, size, batch), actor)
        return
    lines = bottle_counted(stands.bottle, left, opened, today)
    if batch and batch != stands.batch and not lines:
        lines = (Line(LineKind.COUNTED, Decimal(0), today),)
    if lines:
        unchanged(stands, form.version, by=stands.by)
    about = mapping.of_bottle(form.id, stands.fluid, stands.bottle.size, batch)
    _write(form, lines, about, actor)


@transaction.atomic
def take_from_bottle(use: BottleUse, *, actor: Person, today: date) -> None:
    """Pour out of a bottle, or throw it away; thrown away twice changes nothing."""
    act, bottle_id = as_id(use.act), as_id(use.id)
    _queue(use.id)
    if _done(act, use):
        return
    stands = selectors.standing(bottle_id)
    if stands is None:
        if use.gone and StockLine.objects.filter(bottle=bottle_id).exists():
            return
        raise Http404
    about = mapping.of_bottle(use.id, stands.fluid, stands.bottle.size)
    if use.gone:
        _write(use, [bottle_thrown(stands.bottle, today)], about, actor)
    else:
        _write(use, bottle_used(stands.bottle, _volume(use.used, "used"), today), about, actor)


@transaction.atomic
def put_away(came: Arrival, *, actor: Person, today: date) -> None:
    """Put what has come from the counter on the shelf or into the drawer. Two deliveries of the same
    count are two; one delivery sent twice is one."""
    act, what = as_id(came.act), came.what.strip()
    _queue(what)
    if not came.bottles:
        if not _done(act, came):
            _pieces(came, what, LineKind.CAME, came.count, actor=actor, today=today)
        return
    if any(not (0 < b.ml < _MOST_ML and 0 < b.count <= _MOST_BOTTLES) for b in came.bottles):
        raise CoreError("shelf.count", field="bottles")
    fluid = Fluid.objects.filter(name=what).first()
    if fluid is None:
        raise Http404
    if _done(act, came):
        return
    for size in came.bottles:
        ml = Decimal(size.ml)
        for n in range(size.count):
            one = f"{uuid5(act, f'{size.ml}/{n}')}"
            lines = bottle_came(ml, ml, None, today)
            _write(came, lines, mapping.of_bottle(one, fluid.pk, ml), actor)


def _pieces(
    sent: SealForm | Arrival, name: str, kind: LineKind, count: int, *, actor: Person, today: date
) -> None:
    if not name:
        raise CoreError("garage.name_it", field="name")
    there = selectors.drawer().get(name, 0)
    _write(sent, [pieces(kind, there, count, today)], {"part": name}, actor)


@transaction.atomic
def save_seals(form: SealForm, *, actor: Person, today: date) -> None:
    """Seals or filters counted, used, thrown away or come in. Raises Conflict ``shelf.counted`` where
    the count replaces another number than the one seen."""
    act, name = as_id(form.act), form.name.strip()
    if form.kind not in [*LineKind]:
        raise CoreError("sheet.choose", field="kind", options=[str(kind) for kind in LineKind])
    with at("count"):
        count = read_count(form.count.strip())
    _queue(name)
    if _done(act, form):
        return
    drawer = selectors.drawer()
    stands, seen = drawer.get(name, 0), form.seen if name in drawer else form.seen or 0
    if form.kind == LineKind.COUNTED and seen != stands and count != stands:
        raise Conflict("shelf.counted", name=name, count=stands)
    _pieces(form, name, LineKind(form.kind), count, actor=actor, today=today)
