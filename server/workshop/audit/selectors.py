import csv
from collections.abc import Iterable
from datetime import datetime, time, timedelta
from functools import reduce
from io import StringIO
from math import ceil
from operator import or_
from typing import Any

from django.db.models import F, Q

from workshop import days
from workshop.access import require_lead
from workshop.happened import COLUMNS, Told, acts, happened
from workshop.models import Person, Trace
from workshop.names import named, with_word
from workshop.spreadsheet import as_text

from .mapping import about_words, was_words
from .shapes import Audit, AuditAsked, AuditLine

PAGE, MOST = 50, 100_000


def _all_of_it() -> list[Told]:
    """What was traced, and what keeps its own history."""
    traces = Trace.objects.order_by().annotate(
        told_at=F("at"),
        told_by=F("by__name"),
        told_act=F("act"),
        told_about=F("about"),
        told_was=F("was"),
    )
    return [traces, *happened()]


def _narrowed(rows: Told, asked: AuditAsked) -> Told:
    if asked.by:
        rows = rows.filter(told_by=asked.by)
    if asked.act:
        rows = rows.filter(told_act=asked.act)
    if asked.since:
        rows = rows.filter(told_at__gte=_midnight(asked.since, "since"))
    if asked.until:
        rows = rows.filter(told_at__lt=_midnight(asked.until, "until") + timedelta(days=1))
    for word in asked.text.split()[:6]:
        known = [Q(told_about__contains=key) for key in with_word(word)]
        said = Q(told_about__icontains=word) | Q(told_was__icontains=word)
        rows = rows.filter(reduce(or_, known, said))
    return rows.values(*COLUMNS)


def _wanted(asked: AuditAsked) -> Told:
    first, *others = [_narrowed(rows, asked) for rows in _all_of_it()]
    return first.union(*others, all=True).order_by("-told_at", "told_about")


def _midnight(day: str, field: str) -> datetime:
    return datetime.combine(days.day_typed(day, field), time.min, days.zone())


def _lines(rows: Iterable[dict[str, Any]]) -> list[AuditLine]:
    found, zone = list(rows), days.zone()
    about = named(row["told_about"] for row in found)
    return [
        AuditLine(
            at=f"{row['told_at'].astimezone(zone):%Y-%m-%d %H:%M}",
            by=row["told_by"],
            act=row["told_act"],
            about=about_words(words),
            was=was_words(row["told_was"]),
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
    traced = Trace.objects.order_by("act").values_list("act", flat=True).distinct()
    return Audit(
        lines=_lines(rows[(page - 1) * PAGE : page * PAGE]),
        count=count,
        page=page,
        pages=pages,
        people=list(Person.objects.order_by("name").values_list("name", flat=True)),
        acts=sorted({*traced, *acts()}),
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
