"""What can hurt somebody, said in one place: what, and at which job. Gathered before a visit, and said
again at its step.

Common practice, no source. The manual, local codes and licensed practice come first.
"""

from ..codes.poses import Pose
from ..codes.steps import JobKind, Name

RUNNING = "Running engine indoors: exhaust extraction on. Oil and exhaust get hot."
STRAPPED = "Nobody goes under a bike that is not strapped. Not even for a minute."
TILTED = "Two hands or two people on it, nobody under it. Then strap it down again."
HOT_OIL = "Hot oil. Gloves and glasses. Used oil never goes to ground or drain."
SOLVENT = "Solvents near heat burn. Never petrol for cleaning."
WHEEL = "Exhaust extraction on. Keep hands off wheel and chain."
ESCAPED = "Oil on the exhaust burns. Oil on tyre or brake kills."
WASTE = "Waste oil and filters by local rules."
SPRING = "Fork cap under spring load: keep the face away, hold it down to the last thread."
AXLE = "Axle, brakes and bars: manual values, second signature."
GAS = "Shock under gas pressure: a specialist's work. Only look."
BRAKE = "Brake fluid eats paint and eyes: glasses, lid wiped first, never two kinds together."
COOLANT = "Never open a hot radiator cap: it spits boiling coolant. Coolant poisons animals."
TYRES = "Too little air heats a tyre until it tears: the manual's or the placard's pressures, cold."
VAPOUR = "With the tank off fuel vapour burns: lines relieved, no flame or spark, air through."

AT: dict[JobKind, tuple[str, ...]] = {
    JobKind.WARM_UP: (RUNNING,),
    JobKind.SUPPORT: (STRAPPED,),
    JobKind.DRAIN: (HOT_OIL,),
    JobKind.REFIT: (SOLVENT,),
    JobKind.RUN: (WHEEL,),
    JobKind.LEAKS: (ESCAPED,),
    JobKind.LEAKS_AGAIN: (ESCAPED,),
    JobKind.FINISH: (WASTE,),
    JobKind.WHEEL_OUT: (AXLE,),
    JobKind.LEG_DRAIN: (SPRING,),
    JobKind.LEG_GAP: (SPRING,),
    JobKind.WHEEL_IN: (AXLE,),
}
COLD_AT: dict[str, tuple[str, ...]] = {Name.TYRES: (TYRES,), Name.VALVES: (VAPOUR,)}


def at_job(kind: JobKind) -> tuple[str, ...]:
    """What to be careful of at a kind of job, whatever it is done on."""
    return AT.get(kind, ())


def at_look(*, hydraulic: bool, gas: bool) -> tuple[str, ...]:
    """What to be careful of where something is only looked at: what hurts. Nobody signs a second time for
    a look."""
    return (BRAKE,) if hydraulic else (GAS,) if gas else (COOLANT,)


def of_reservoir(label: str, caution: str) -> str:
    """What its own sheet warns of."""
    return f"{label.capitalize()}: {caution}"


def unstrapped(pose: Pose) -> str:
    """What to be careful of where a bike is not strapped down."""
    return TILTED if pose == Pose.TILTED else STRAPPED
