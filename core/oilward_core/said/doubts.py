"""What is said of a value on a spec sheet that looks wrong: what stands there, and what it might be."""

from decimal import Decimal

QUARTS_MEANT = "Litres in one, quarts in the other?"
SWAPPED = "Swapped?"
INCHES_MEANT = "Inches, not millimetres?"
LOOK_AGAIN = "Look again."
LOOK_IN_MANUAL = "Look again at the manual."
FIRST_AMOUNT = "The first amount is more than the capacity."
EXACT_WITH_GAUGE = "An exact quantity has no level to read. Which is it?"
LONG_MINUTES = "That is long to run or settle. Seconds, not minutes?"
SECOND_MARKS = "Both pairs of marks are for the same attitude. One is for the other."
DRAIN_BY_HAND = "The drain plug by hand and the fill plug by wrench? Look whether they are swapped."
DRAIN_ABOVE = "On the map the drain plug stands above the fill plug. Swapped?"
FIRST_LATER = "The first service comes later than the repeat. Swapped?"
NO_SUCH_KV40 = "No oil here has that viscosity at 40 °C."
NO_SUCH_KV100 = "No oil here has that viscosity at 100 °C. That of 40 °C?"
KV_SWAPPED = "An oil is thicker at 40 °C than at 100 °C. Swapped?"
HYPOID = "A shaft drive has hypoid gears, which need GL-5. Is GL-4 what the manual says?"
SLIPPERY = "MB lets a wet clutch slip. Does this oil wet the clutch? Then MA, MA1 or MA2."


def litres_meant(said: str) -> str:
    """The number would be usual in litres."""
    return f"Litres, not millilitres? {said}."


def millilitres_meant(said: str) -> str:
    """The number would be usual in millilitres."""
    return f"Millilitres, not litres? {said}."


def capacity(said: str, variant: str, usual: str, asked: str) -> str:
    """A capacity outside what reservoirs of its kind take."""
    return f"{said} {variant} is unusual here; {usual} would be usual. {asked}".rstrip()


def less_than(less: str, more: str, asked: str) -> str:
    """Without the filter it takes less than with it."""
    return f"{less} should take less than {more}. {asked}"


def prefill(held: str) -> str:
    """More pre-filled than a filter holds."""
    return f"A filter that holds {held} is not pre-filled with more."


def marks(share: Decimal) -> str:
    """Marks too near or too far apart."""
    return f"The marks are {share:.0%} of the capacity apart. Unit slipped?"


def torque(usually: str, question: str) -> str:
    """A torque outside what such a fastener usually takes."""
    return f"{usually} {question}"


def usual_torque(what: str, usual: str, written: str, value: str) -> str:
    """What such a fastener usually takes."""
    return f"A {what} usually takes {usual}; {written} is {value}."


def wide_range(written: str) -> str:
    """A range of torque from one to more than four times that."""
    return f"{written} is a very wide range. Two numbers of two things?"


def no_thread(written: str) -> str:
    """A thread that cannot be read as one."""
    return f"{written} is no thread. A decimal point lost? M14x1.5, 1/4-20 or G 1/4."


LOOKED_AT_LATER = "Looked at less often than it is changed: the two intervals swapped?"


def every_km(said: str) -> str:
    """An unusual distance between services."""
    return f"Every {said} is unusual. A nought too few or many?"


def every_months(months: int) -> str:
    """An unusual time between services."""
    return f"Every {months} months is unusual."


def every_hours(hours: Decimal) -> str:
    """Unusually many hours between services."""
    return f"Every {hours} hours is unusual. Kilometres?"


def first_at(said: str) -> str:
    """An unusual first service."""
    return f"A first service at {said} is unusual."


def filter_every(changes: int) -> str:
    """A filter for too many changes."""
    return f"A filter for {changes} oil changes? Kilometres or months belong elsewhere."


def seal_life(services: int) -> str:
    """A seal for too many services."""
    return f"No seal lasts {services} services. Months?"


def air_gap(said: str, asked: str) -> str:
    """An air gap no fork leg has."""
    return f"An air gap of {said} is unusual. {asked}"


ROD_FILLS = "The rod is as thick as the tube it stands in. Swapped?"
SEAL_INSIDE = "A seal runs on the outside of the upper tube: it is wider than the bore. Swapped?"
SPRING_LIMIT = "A spring's limit lies below its length when new. Swapped?"
GAP_OVER_TRAVEL = "The air gap is longer than the leg's travel. Look again."


def leg_size(name: str, said: str) -> str:
    """A size no fork leg has."""
    return f"A {name} of {said} is unusual for a fork leg. Look at the unit."


def same_place(mine: str, other: str) -> str:
    """Two fasteners at one place."""
    return f"{mine} stands at the same place as {other}. One of them is wrong."


def unequal_legs(second: str, first: str) -> str:
    """Two legs of one fork that differ."""
    return f"{second} differs from {first}. Equal legs, unless the manual says so."
