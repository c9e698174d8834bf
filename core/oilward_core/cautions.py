"""What can hurt somebody, said in one place: gathered before a visit, and again at its step.

Common practice, no source. The manual, local codes and licensed practice come first.
"""

from .spec import ReservoirKind, ReservoirSpec

RUNNING = "Running engine indoors: exhaust extraction on. Oil and exhaust get hot."
STRAPPED = "Nobody goes under a bike that is not strapped. Not even for a minute."
HOT_OIL = "Hot oil. Gloves and glasses. Used oil never goes to ground or drain."
SOLVENT = "Solvents near heat burn. Never petrol for cleaning."
WHEEL = "Exhaust extraction on. Keep hands off wheel and chain."
ESCAPED = "Oil on the exhaust burns. Oil on tyre or brake kills."
WASTE = "Waste oil and filters by local rules."
SPRING = "Fork cap under spring load: keep the face away, hold it down to the last thread."
AXLE = "Axle, brakes and bars: manual values, second signature."
GAS = "Shock under gas pressure: a specialist's work. Only look."
BRAKE = "Brake and clutch fluid: manual values, second signature."
TYRES = "Tyres: the manual's or the placard's pressures, second signature."

_AT_KIND = {
    "warm up": (RUNNING,),
    "support": (STRAPPED,),
    "drain": (HOT_OIL,),
    "refit": (SOLVENT,),
    "run": (WHEEL,),
    "leaks": (ESCAPED,),
    "finish": (WASTE,),
    "front wheel out": (AXLE,),
    "leg drain": (SPRING,),
    "front wheel in": (AXLE,),
    "tyres": (TYRES,),
}
_LOOKED_AT = {
    ReservoirKind.SHOCK: GAS,
    ReservoirKind.FRONT_BRAKE: BRAKE,
    ReservoirKind.REAR_BRAKE: BRAKE,
    ReservoirKind.CLUTCH_FLUID: BRAKE,
}
# where work on a reservoir begins, its sheet's own caution is said
_BEGINS = ("drain", "leg out", "look", "circuit filter")


def at_job(kind: str, spec: ReservoirSpec | None = None) -> tuple[str, ...]:
    """What to be careful of at a kind of job, what the reservoir's sheet says included."""
    said = _AT_KIND.get(kind, ())
    if spec is None or kind not in _BEGINS:
        return said
    looked = (_LOOKED_AT[spec.kind],) if kind == "look" and spec.kind in _LOOKED_AT else ()
    own = (f"{spec.label.capitalize()}: {spec.caution}",) if spec.caution else ()
    return (*said, *looked, *own)
