"""The plan as papers others read: a calendar and a printed pick list."""

from collections.abc import Iterable
from datetime import date, datetime, timedelta

from icalendar import Calendar, Event
from oilward_core.calendar import date_words
from reportlab.platypus import Flowable
from workshop.paper import Tick, block, number, print_pages, words

from planning.models import DueRow, PlannedVisit

from .shapes import PlanPage


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


def _body(page: PlanPage) -> list[Flowable]:
    kit = page.kit
    chosen = [task for task in page.tasks if task.chosen and not task.done]
    what = ", ".join(f"{task.label} ({task.variant})" for task in chosen)
    minutes = f"{page.order.minutes} min, {page.order.hands_on} hands-on" if page.order else ""
    flow: list[Flowable] = [words(f"{what}. {minutes}")]
    if kit.to_buy:
        flow.append(words(f"To buy first: {', '.join(kit.to_buy)}.", bold=True, alarm=True))
    fluids = [
        [Tick(), words(f.fluid, bold=True), number(f"{f.need} for {f.what_for}"), words(f.words)]
        for f in kit.fluids
    ]
    parts = [[Tick(), words(p.name), number(f"{p.count}"), words(p.words)] for p in kit.parts]
    torques = [[Tick(), words(t.what), number(t.manual), words(t.setting)] for t in kit.torques]
    for title, rows, widths in (
        ("Oil", fluids, [8, 40, 50, 80]),
        ("Seals and filters", parts, [8, 82, 20, 68]),
        ("Torque", torques, [8, 62, 40, 68]),
        ("Tools", [[Tick(), words(tool)] for tool in kit.tools], [8, 170]),
        ("Used up", [[Tick(), words(thing)] for thing in kit.consumables], [8, 170]),
        ("Be careful", [[words(caution)] for caution in page.cautions], [178]),
    ):
        if rows:
            flow.append(block(title, rows, widths))
    costs = [
        ("Parts, at the simulated counter's prices", kit.parts_cost),
        ("of them to buy", kit.buying),
        ("Labour", kit.labour),
        ("Together", kit.total),
        ("Flat price", kit.flat),
    ]
    flow.append(block("Cost", [[words(name), number(price)] for name, price in costs], [110, 68]))
    flow.append(words("The bike's own service manual comes first."))
    return flow


def as_pdf(page: PlanPage, on: date) -> bytes:
    """The pick list on paper, with a box before each thing."""
    about = f"{page.bike}, {date_words(on)}"
    return print_pages(f"Kit: {about}", about, _body(page))
