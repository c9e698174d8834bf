"""What is said of a torque: where a setting comes from, what a wrench can, what a reading means."""

from decimal import Decimal

TORQUED = "Torqued. Go on."
BORDERLINE = "Within the wrench's own error. Pull once more, slowly."
UNDER = "Too loose. Pull again to the setting."
OVER = "Too tight. Back it off and pull again to the setting."
FAR_OVER = "More than 10 % over in a soft thread. Take it out, look at the thread, new washer."


def one_value(written: str) -> str:
    """The manual names no range."""
    return f"The manual gives one value: {written}."


def inside_tolerance(value: str) -> str:
    """The manual names a value with its tolerance."""
    return f"The manual's value inside its tolerance: {value}."


def lower_third(written: str, value: str) -> str:
    """A third up from the bottom of a range."""
    return f"A third up from the bottom of {written} is {value}."


def middle(written: str, value: str) -> str:
    """The middle of a range."""
    return f"Middle of {written} is {value}."


def sealed(third: str) -> str:
    """Why less is usually set on an oiled or sealed thread."""
    return (
        "The thread is oiled or sealed: less friction, so the same torque loads it more. "
        f"The lower third, {third}, is the usual choice then."
    )


def usable(name: str, low: Decimal, high: Decimal, unit: str, step: Decimal, mark: Decimal) -> str:
    """Where a wrench is true, and what to set on it."""
    return (
        f"{name} works from {low:.0f} to {high:.0f} {unit}, "
        f"in steps of {step.normalize():f}; set {mark.normalize():f}."
    )


def adapter(longer: Decimal, length: Decimal | None, angle: Decimal) -> str:
    """Why another setting is right with an adapter."""
    what = f"An adapter of {longer.normalize():f} mm"
    if angle == 90:
        return f"{what} at a right angle to the handle changes nothing: what is set is what turns."
    how, then = ("harder", "less") if angle < 90 else ("less hard", "more")
    way = "in line with" if not angle else f"at {angle.normalize():f}° to"
    return (
        f"{what} {way} a wrench of {length} mm turns {how} than the scale shows, so {then} is set. At a "
        "right angle it would not."
    )


def calibrated(day: str) -> str:
    """When a wrench was calibrated."""
    return f"calibrated {day}"


def calibration_past(day: str, pulls: int) -> str:
    """That a wrench wants to be calibrated again."""
    return f"calibrated {day}, {pulls} pulls since: past its calibration"


def clamps(dry: str, oiled: str) -> str:
    """How hard a bolt presses at its setting, dry and oiled."""
    return (
        f"At that torque it clamps with about {dry} kN dry, {oiled} kN oiled; give or take a third."
    )


def against(reading: str, written: str) -> str:
    """What a reading was held against."""
    return f"{reading} against {written}."


def then_turns(turns: str, back: bool) -> str:
    """What follows the wrench: ``then 1/4 turn on``, ``then back off 1/4 turn``."""
    return f"then back off {turns}" if back else f"then {turns} on"
