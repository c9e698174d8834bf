import csv
from collections.abc import Iterable
from datetime import datetime, time, timedelta
from io import StringIO
from math import ceil
from typing import Any

from django.db.models import Q, QuerySet

from workshop import days
from workshop.access import require_lead
from workshop.models import Person, Trace
from workshop.names import named
from workshop.spreadsheet import as_text

from .shapes import Audit, AuditAsked, AuditLine

PAGE, MOST = 50, 100_000


def _wanted(asked: AuditAsked) -> QuerySet[Trace]:
    rows = Trace.objects.select_related("by").order_by("-at", "-pk")
    if asked.by:
        rows = rows.filter(by__name=asked.by)
    if asked.act:
        rows = rows.filter(act=asked.act)
    if asked.since:
        rows = rows.filter(at__gte=_midnight(asked.since, "since"))
    if asked.until:
        rows = rows.filter(at__lt=_midnight(asked.until, "until") + timedelta(days=1))
    for word in asked.text.split()[:6]:
        rows = rows.filter(Q(about__icontains=word) | Q(was__icontains=word))
    return rows


def _midnight(day: str, field: str) -> datetime:
    return datetime.combine(days.day_typed(day, field), time.min, days.zone())


def _said(value: Any) -> str:
    return ", ".join(map(str, value)) if isinstance(value, list) else str(value)


def _lines(rows: Iterable[Trace]) -> list[AuditLine]:
    found, zone = list(rows), days.zone()
    about = named(row.about for row in found)
    return [
        AuditLine(
            at=f"{row.at.astimezone(zone):%Y-%m-%d %H:%M}",
            by=row.by.name,
            act=row.act,
            about=words,
            was="; ".join(
                f"{key}: {_said(value)}" for key, value in row.was.items() if value != ""
            ),
        )
        for row, words in zip(found, about, strict=True)
    ]


def audit(asked: AuditAsked, actor: Person) -> Audit:
    """Who changed what, a page of it. A lead's to see."""
    require_lead(actor)
    rows = _wanted(asked)
    count = rows.count()
    pages = max(1, ceil(count / PAGE))
    page = min(max(asked.page, 1), pages)
    acts = Trace.objects.order_by("act").values_list("act", flat=True).distinct()
    return Audit(
        lines=_lines(rows[(page - 1) * PAGE : page * PAGE]),
        count=count,
        page=page,
        pages=pages,
        people=list(Person.objects.order_by("name").values_list("name", flat=True)),
        acts=list(acts),
    )


def table(asked: AuditAsked, actor: Person) -> str:
    """The same as a table of comma-separated values, all of it."""
    require_lead(actor)
    out = StringIO()
    written = csv.writer(out)
    written.writerow(("when", "who", "what", "about", "was"))
    for line in _lines(_wanted(asked)[:MOST]):
        written.writerow(map(as_text, (line.at, line.by, line.act, line.about, line.was)))
    return out.getvalue()
