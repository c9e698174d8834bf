"""The plan as papers others read: a calendar and a printed pick list."""

from collections.abc import Iterable
from datetime import date, datetime, timedelta
from io import BytesIO
from xml.sax.saxutils import escape

from icalendar import Calendar, Event
from oilward_core.calendar import date_words
from reportlab.lib.pagesizes import A4
from reportlab.lib.styles import getSampleStyleSheet
from reportlab.lib.units import mm
from reportlab.platypus import Flowable, Paragraph, SimpleDocTemplate, Spacer, Table, TableStyle

from planning.models import DueRow, PlannedVisit

from .shapes import PlanPage

BOX = "[  ]"
_STYLES = getSampleStyleSheet()


def _event(uid: str, on: date, summary: str, text: str, now: datetime) -> Event:
    event = Event()
    event.add("uid", f"{uid}@oil-ward")
    event.add("dtstamp", now)
    event.add("dtstart", on)
    event.add("dtend", on + timedelta(days=1))
    event.add("summary", summary)
    event.add("description", text)
    return event


def as_ics(
    visits: Iterable[tuple[PlannedVisit, list[str]]], expected: Iterable[DueRow], now: datetime
) -> bytes:
    """An iCalendar: planned visits, and when each reservoir is expected to be due."""
    calendar = Calendar()
    calendar.add("prodid", "-//Oil Ward//planned visits//EN")
    calendar.add("version", "2.0")
    for visit, labels in visits:
        summary = f"{visit.bike.name}: {', '.join(labels)}"
        text = f"About {visit.minutes} min. Planned by {visit.planned_by}."
        calendar.add_component(_event(f"visit-{visit.pk}", visit.on, summary, text, now))
    for row in expected:
        if row.forecast_on is None:
            continue
        uid = f"due-{row.bike_id}-{row.reservoir.replace(' ', '-')}"
        summary = f"{row.bike.name}: {row.label} due"
        text = "Expected, from the bike's use and its spec sheet."
        calendar.add_component(_event(uid, row.forecast_on, summary, text, now))
    return bytes(calendar.to_ical())


def _heading(text: str) -> Flowable:
    return Paragraph(escape(text), _STYLES["Heading3"])


def _rows(rows: list[list[str]], widths: list[float]) -> Flowable:
    cells = [[Paragraph(escape(cell), _STYLES["BodyText"]) for cell in row] for row in rows]
    table = Table(cells, colWidths=[width * mm for width in widths])
    table.setStyle(
        TableStyle(
            [("LINEBELOW", (0, 0), (-1, -1), 0.3, "#999"), ("VALIGN", (0, 0), (-1, -1), "TOP")]
        )
    )
    return table


def _body(page: PlanPage) -> list[Flowable]:
    kit = page.kit
    chosen = [task for task in page.tasks if task.chosen and not task.done]
    what = ", ".join(f"{task.label} ({task.variant})" for task in chosen)
    minutes = f"{page.order.minutes} min, {page.order.hands_on} hands-on" if page.order else ""
    flow: list[Flowable] = [Paragraph(escape(f"{what}. {minutes}"), _STYLES["BodyText"])]
    if kit.to_buy:
        words = escape(f"To buy first: {', '.join(kit.to_buy)}.")
        flow.append(Paragraph(f"<b>{words}</b>", _STYLES["BodyText"]))
    fluids = [[BOX, f.fluid, f"{f.need} for {f.what_for}", f.words] for f in kit.fluids]
    parts = [[BOX, part.name, f"{part.count}", part.words] for part in kit.parts]
    torques = [[BOX, t.what, t.manual, t.setting] for t in kit.torques]
    for title, rows, widths in (
        ("Oil", fluids, [10, 38, 50, 80]),
        ("Seals and filters", parts, [10, 80, 20, 68]),
        ("Torque", torques, [10, 60, 40, 68]),
        ("Tools", [[BOX, tool] for tool in kit.tools], [10, 168]),
        ("Used up", [[BOX, thing] for thing in kit.consumables], [10, 168]),
    ):
        if rows:
            flow += [_heading(title), _rows(rows, widths)]
    flow += [
        _heading("Be careful"),
        *(Paragraph(escape(c), _STYLES["BodyText"]) for c in page.cautions),
    ]
    costs = (
        f"Parts {kit.parts_cost} (simulated prices), to buy {kit.buying}, labour {kit.labour}, "
        f"together {kit.total}."
    )
    flow += [Spacer(1, 4 * mm), Paragraph(f"{costs} Flat price {kit.flat}.", _STYLES["BodyText"])]
    return flow


def as_pdf(page: PlanPage, on: date) -> bytes:
    """The pick list on paper, with a box before each thing."""
    out = BytesIO()
    title = f"{page.bike}, {date_words(on)}"
    document = SimpleDocTemplate(
        out, pagesize=A4, title=title, author="Oil Ward", topMargin=14 * mm, bottomMargin=12 * mm,
        leftMargin=16 * mm, rightMargin=16 * mm, pageCompression=0,
    )  # fmt: skip
    document.build([Paragraph(escape(f"Kit: {title}"), _STYLES["Heading2"]), *_body(page)])
    return out.getvalue()
