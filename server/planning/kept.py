"""What is kept of a bike, and how it is said on a later day: what runs with the calendar alone is
said from its clocks."""

from collections.abc import Mapping, Sequence
from datetime import date
from decimal import Decimal
from typing import Any

from oilward_core.ageing import Clock, said_on
from oilward_core.usage import Forecast, left_from

NOTCH_DAYS = 30
# how the time to a change, or to a look, is called among an answer's reasons
_TIME = ("time", "look time")


def kept_clock(clock: Clock, ahead: Forecast | None) -> dict[str, Any]:
    return {
        "shares": [[rule, str(share)] for rule, share in clock.shares],
        "over": list(clock.over),
        "ahead": ahead.on.isoformat() if ahead else None,
        **{name: _iso(getattr(clock, name)) for name in ("since", "due_on", "changed")},
        "span": clock.span,
        "look": clock.look,
    }


def _iso(day: date | None) -> str | None:
    return day.isoformat() if day else None


def _day(text: str | None) -> date | None:
    return date.fromisoformat(text) if text else None


def _clock(kept: Mapping[str, Any]) -> Clock:
    return Clock(
        shares=tuple((rule, Decimal(share)) for rule, share in kept["shares"]),
        over=tuple(kept["over"]),
        since=_day(kept["since"]),
        due_on=_day(kept["due_on"]),
        changed=_day(kept["changed"]),
        span=kept["span"],
        look=kept.get("look", False),
    )


def _glass_on(glass: dict[str, Any], kept: Mapping[str, Any] | None, day: date) -> dict[str, Any]:
    """A glass as it was kept, said on a later day on which its state is still the same."""
    if kept is None:
        return glass
    now, ahead = said_on(_clock(kept), day, glass["when"]), _day(kept["ahead"])
    left = float(now.left)
    return {
        **glass,
        "level": min(max(left, 0.0), 1.0),
        "age": float(now.age),
        "when": now.when,
        "forecast": glass["forecast"] if left > 0 else "",
        "notch": left_from(left, ahead, day, NOTCH_DAYS) if ahead else None,
        "reasons": _reasons_on(glass["reasons"], now.rules, now.used),
    }


def bike_on(shape: dict[str, Any], clocks: Mapping[str, Any], day: date) -> dict[str, Any]:
    """A bike as it was kept, said on a later day."""
    glasses = [_glass_on(glass, clocks.get(glass["key"]), day) for glass in shape["glasses"]]
    return {**shape, "glasses": glasses, "asks": shape.get("asks", [])}


def _reasons_on(
    reasons: Sequence[dict[str, Any]], rules: Sequence[str], used: str
) -> list[dict[str, Any]]:
    """The limits' reasons in the order of the day, how much time is used among them; then the others."""
    limits = {reason["rule"]: reason for reason in reasons[: len(rules)]}
    for rule in _TIME:
        if used and rule in limits:
            limits[rule] = {**limits[rule], "text": used}
    first = [limits[rule] for rule in rules if rule in limits]
    return [*first, *reasons[len(first) :]]
