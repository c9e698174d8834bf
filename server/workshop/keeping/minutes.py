"""How the minutes of a workshop stand: its work, kept apart from its data as it is done."""

from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Any

LATE = timedelta(minutes=15)  # they come one a minute while anything is done
OLD_COPY, OLD_DRILL = timedelta(days=2), timedelta(days=14)


@dataclass(frozen=True)
class MinutesKept:
    said: str
    alarm: bool


def age_of(told: Any, now: datetime) -> timedelta | None:
    """How long ago a moment is that was told; None for none."""
    try:
        return now - datetime.fromisoformat(str(told))
    except (ValueError, TypeError):
        return None


def ago(age: timedelta) -> str:
    hours = age / timedelta(hours=1)
    if hours < 1:
        return "within the last hour"
    return f"{hours:.0f} hours ago" if hours < 48 else f"{age.days} days ago"


def _wrong(told: dict[str, Any], now: datetime) -> str:
    """What has to be done about them; empty where nothing has."""
    reaches, copied = age_of(told.get("reaches"), now), age_of(told.get("copied_at"), now)
    drill = told.get("drill") or {}
    drilled = age_of(drill.get("at"), now)
    if told.get("failing") or reaches is None or reaches > LATE:
        return "They are not kept at the moment: the log says why."
    if told.get("copy_failed") or copied is None or copied > OLD_COPY:
        return "There is no copy to begin from: the log says why."
    if drilled is not None and not drill.get("good"):
        return "They could not be put back when that was tried: the log says why."
    return str(told.get("refused") or "")


def minutes_kept(told: Any, now: datetime) -> MinutesKept:
    """How the minutes stand, in words. Where none are kept nothing is said of them."""
    if not isinstance(told, dict) or not told:
        return MinutesKept("", False)
    reaches, drilled = age_of(told.get("reaches"), now), (told.get("drill") or {}).get("reached")
    said = ["None yet." if reaches is None else f"Up to {_minutes(reaches)} ago."]
    if drilled:
        said.append("They were put back for a try.")
    if told.get("same_disk"):
        said.append("On the same disk as the data: lose it, and both are gone.")
    wrong = _wrong(told, now)
    return MinutesKept(" ".join([*said, *([wrong] if wrong else [])]), bool(wrong))


def _minutes(age: timedelta) -> str:
    minutes = age // timedelta(minutes=1)
    if minutes >= 120:
        return ago(age).removesuffix(" ago")
    return "a minute" if minutes <= 1 else f"{minutes} minutes"
