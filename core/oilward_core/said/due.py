"""What is said of when something is due, how fast a bike is used, and what goes together."""

from collections.abc import Sequence
from datetime import date
from decimal import Decimal

from ..calendar import date_words
from ..codes.roles import Role

NO_INTERVAL = "The spec sheet gives no interval."
WATCHED = "Half the interval: its last plug asked for another look."
NOT_LOOKED_AT = "No record of a look. Look at it now, then count from there."
NO_RECORD = "No record of the last service. Do it now, then count from there."
DO_IT_NOW = "no record: do it now"
UNLIMITED = "no interval"
DUE_NOW = "due now"
LOOK, CHANGE = "look", "change"
TOGETHER = "Saves a warm-up, a lift and a clean-up later: cheaper now."
APART = "Cheaper when it is due."


def used(so_much: str, of: str) -> str:
    """How much of a limit is used."""
    return f"{so_much} of {of} used."


def days(count: int) -> str:
    """So many days."""
    return "1 day" if count == 1 else f"{count} days"


def hours(count: Decimal) -> str:
    """So many hours."""
    return "1 hour" if count == 1 else f"{count:.0f} hours"


def by(day: date) -> str:
    """Until when, on one line."""
    on_one_line = date_words(day).replace(" ", "\u00a0")
    return f"by {on_one_line}"


def over(amounts: Sequence[str]) -> str:
    """By how much it is over."""
    return " and ".join(amounts) + " over"


def ahead(amounts: Sequence[str], until: str) -> str:
    """What is left: ``in 1240 km or by 14 Mar 2027``."""
    left = " or ".join(amounts)
    return f"in {left} or {until}" if left and until else f"in {left}" if left else until


def look(words: str) -> str:
    """When a look is due, beside the change of what is looked at."""
    return f"look {words}"


def then(what: str, on: date | None, at: str) -> str:
    """What is due later beside what is due first, in words that stay true: ``A look is due on 14 Mar
    2027 or at 12000 km.``"""
    limits = " or ".join([*([f"on {date_words(on)}"] if on else []), *([f"at {at}"] if at else [])])
    return f"A {what} is due {limits}." if limits else NO_INTERVAL


def by_time(day: date) -> str:
    """A limit in time alone."""
    return f"By time on {date_words(day)}."


def by_class(use_class: str, a_year: str) -> str:
    """How fast bikes like it are used."""
    return f"Too few readings; {use_class} bikes do about {a_year} a year."


def by_readings(a_month: str, readings: int) -> str:
    """How fast it was used."""
    return f"{a_month} a month, from {readings} readings of the last year."


def forecast(on: date, early: date, late: date) -> str:
    """``about Mar 2027 (Feb–May 2027)``; a day certain is said as such."""
    if early == late:
        return date_words(on)
    if (early.year, early.month) == (late.year, late.month):
        return f"about {on:%b %Y}"
    since = f"{early:%b}" if early.year == late.year else f"{early:%b %Y}"
    return f"about {on:%b %Y} ({since}–{late:%b %Y})"


def when_due(due: date, on: date) -> str:
    """A due day beside the day of a visit."""
    said = date_words(due)
    if due < on:
        return f"Due since {said}."
    return f"Due on {said}." if due == on else f"Due on {said}, within a week of it."


def worth(hours: float) -> str:
    """What is thrown away, in hours of work."""
    return f"{hours:.1f} h" if hours >= 0.05 else "a few minutes"


def pulled_forward(left: float, worth: str, pays: bool) -> str:
    """What doing it early throws away, and whether it pays."""
    verdict = TOGETHER if pays else APART
    return f"Pulled forward it throws away {left:.0%} of its life, worth {worth}. {verdict}"


def new_next_time(part: str) -> str:
    """A part that goes on new."""
    return f"{part}: new with the next service"


def so_far(part: str, had: int, every: int) -> str:
    """A part that stays for now."""
    return f"{part}: {had} of {every} services so far"


_OF: dict[str, str] = {Role.FILL_PLUG: "filler", Role.COVER_SCREW: "cover"}


def seal_of(seal: str, role: str) -> str:
    """A fastener's seal, by name: ``O-ring 28 mm of the filler``."""
    return f"{seal} of the {_OF.get(role, role)}"
