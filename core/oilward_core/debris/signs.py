"""The rules D1 to D13: what a plug and its oil show, each by itself. Common practice, no source."""

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from decimal import Decimal

from ..codes.debris import FAMILY, Family, Form, Level, Matter, OilLook, Rule
from ..due import DueLimits, Meter, add_months
from ..guard import guarded
from ..said import debris as said
from ..spec import KINDS, Recipe
from .seen import PASTY, Observation, Part


@dataclass(frozen=True, kw_only=True)
class RuleSpoke:
    """A rule that fits the observation: its level, likely origin, and sentence."""

    rule: Rule
    level: Level
    origin: str
    text: str


RUN_IN_KM = Decimal(1500)


@guarded
def running_in(
    now: Meter, new: Meter | None, limits: DueLimits, served_before: bool = False
) -> bool:
    """Whether fine shavings are to be expected: below 1500 km, or at a first service within the sheet's
    first interval from ``new`` [trade].

    A bike without records (``new`` None) may have been served, so for it only the distance counts; so it
    does where the sheet has no first interval.
    """
    if now.km < RUN_IN_KM:
        return True
    if new is None or served_before:
        return False
    if limits.first_km is not None:
        return now.km - new.km <= limits.first_km
    return limits.first_months is not None and now.on <= add_months(new.on, limits.first_months)


_FORMS = list(Form)
_HALF = Decimal("0.5")
Spoken = RuleSpoke | None


def _steel(part: Part) -> bool:
    return FAMILY[part.matter] == Family.FERROUS and part.magnetic is not False


def _from(part: Part, form: Form) -> bool:
    return _FORMS.index(part.form) >= _FORMS.index(form)


def _covers(parts: Iterable[Part]) -> Decimal:
    return sum((part.share for part in parts), Decimal(0))


def _running_in(part: Part, seen: Observation) -> bool:
    if not (seen.first_service and _steel(part)):
        return False
    return part.form in PASTY or (
        part.form == Form.SLIVERS and part.largest_mm is not None and part.largest_mm <= 1
    )


def _spoke(rule: Rule, level: Level, origin: str, text: str) -> RuleSpoke:
    return RuleSpoke(rule=rule, level=level, origin=origin, text=text)


def _in_a_leg(seen: Observation) -> bool:
    return KINDS[seen.reservoir].recipe == Recipe.FORK


def _origin(seen: Observation, usually: str) -> str:
    """Where steel comes from: a primary has no gears, but a chain and what holds it; a fork leg has a
    tube, a spring and a piston."""
    if _in_a_leg(seen):
        return said.IN_A_LEG
    return said.CHAIN if KINDS[seen.reservoir].clutch else usually


def _d1(seen: Observation) -> Spoken:
    pasty = all(part.form == Form.PASTE and _steel(part) for part in seen.parts)
    if pasty and _covers(seen.parts) <= _HALF:
        what = said.USUAL_PASTE if seen.parts else said.CLEAN
        return _spoke(Rule.USUAL, Level.ROUTINE, said.NORMAL, what)
    return None


def fine_steel(seen: Observation) -> str:
    """What a finding shows of fine steel beyond the usual, in words; empty: no more than usual."""
    pasty = [p for p in seen.parts if p.form in PASTY and _steel(p) and not _running_in(p, seen)]
    for form, sign in ((Form.FUZZ, said.FUZZ), (Form.SPECKS, said.STEEL_SPECKS)):
        if any(part.form == form for part in pasty):
            return sign
    # dark paste belongs to a primary and to a final drive
    if KINDS[seen.reservoir].clutch or KINDS[seen.reservoir].hypoid:
        return ""
    return said.MUCH_PASTE if _covers(pasty) > _HALF else ""


def _d2(seen: Observation) -> Spoken:
    text = fine_steel(seen)
    if not text:
        return None
    again = KINDS[seen.reservoir].gears and seen.fine_last_time
    level = Level.WATCH if again else Level.NOTE
    origin = _origin(seen, said.FINE) if text != said.MUCH_PASTE else said.FINE
    return _spoke(Rule.FINE, level, origin, said.again(text) if again else text)


def _d3(seen: Observation) -> Spoken:
    if not any(_running_in(part, seen) for part in seen.parts):
        return None
    return _spoke(Rule.RUN_IN, Level.ROUTINE, said.RUNNING_IN, said.EXPECTED_ONCE)


def _d4(seen: Observation) -> Spoken:
    slivers = any(
        p.form == Form.SLIVERS and _steel(p) and not _running_in(p, seen) for p in seen.parts
    )
    origin = _origin(seen, said.EDGE)
    return _spoke(Rule.SLIVERS, Level.WATCH, origin, said.SLIVERS) if slivers else None


def _d5(seen: Observation) -> Spoken:
    if not any(p.form == Form.FLAKES and _steel(p) for p in seen.parts):
        return None
    level = Level.WATCH if seen.first_service else Level.INVESTIGATE
    return _spoke(Rule.FLAKES, level, _origin(seen, said.SURFACE), said.STEEL_FLAKES)


def _d6(seen: Observation) -> Spoken:
    for part in seen.parts:
        chip = part.form == Form.CHIPS and _steel(part)
        # a chip nobody measured is taken as large: the safe side
        if part.form == Form.FRAGMENTS and FAMILY[part.matter] != Family.PIECES:
            origin = _origin(seen, said.TOOTH_OR_PART) if _steel(part) else said.TOOTH_OR_PART
            return _spoke(Rule.CHIPS, Level.HOLD, origin, said.FRAGMENT)
        if chip and (part.largest_mm is None or part.largest_mm >= 2):
            return _spoke(Rule.CHIPS, Level.HOLD, _origin(seen, said.TOOTH), said.BIG_CHIP)
    if any(p.form == Form.CHIPS and _steel(p) for p in seen.parts):
        return _spoke(Rule.CHIPS, Level.INVESTIGATE, _origin(seen, said.TOOTH), said.SMALL_CHIPS)
    return None


def _d7(seen: Observation) -> Spoken:
    leg = _in_a_leg(seen)
    bright = [
        p
        for p in seen.parts
        # what nobody names is a coating there, until a magnet says otherwise
        if (leg and p.matter == Matter.UNKNOWN and p.magnetic is not True)
        or FAMILY[p.matter] == Family.LIGHT
        or (FAMILY[p.matter] == Family.FERROUS and p.magnetic is False)
    ]
    if not bright:
        return None
    if any(_from(part, Form.FLAKES) for part in bright):
        origin = said.COATING if leg else said.OVERLAY
        return _spoke(Rule.BRIGHT, Level.INVESTIGATE, origin, said.BRIGHT_FLAKES)
    light = said.COATING if leg else said.LIGHT
    few = all(
        part.count <= 5 if part.count is not None else part.share <= Decimal("0.05")
        for part in bright
    )
    if few:
        return _spoke(Rule.BRIGHT, Level.NOTE, light, said.FEW_SPECKS)
    return _spoke(Rule.BRIGHT, Level.WATCH, light, said.MANY_SPECKS)


def _d8(seen: Observation) -> Spoken:
    yellow = [part for part in seen.parts if FAMILY[part.matter] == Family.YELLOW]
    if not yellow:
        return None
    bronze = any(part.matter == Matter.BRONZE for part in yellow)
    origin = said.LEG_BUSH if _in_a_leg(seen) else said.BEARING if bronze else said.BUSH
    if any(_from(part, Form.FLAKES) for part in yellow):
        return _spoke(Rule.YELLOW, Level.HOLD, origin, said.YELLOW_FLAKES)
    return _spoke(Rule.YELLOW, Level.INVESTIGATE, origin, said.YELLOW_SPECKS)


def _d9(seen: Observation) -> Spoken:
    primary = KINDS[seen.reservoir].clutch
    if not (primary or seen.wet_clutch):
        return None
    friction = [part for part in seen.parts if FAMILY[part.matter] == Family.FRICTION]
    paste = [part for part in seen.parts if part.form == Form.PASTE]
    stringy = any(part.form not in (Form.PASTE, Form.SPECKS) for part in friction)
    if stringy or (not primary and _covers(friction) > _HALF):
        return _spoke(Rule.CLUTCH, Level.WATCH, said.CLUTCH, said.STRINGY)
    if not friction and not (primary and paste):
        return None
    return _spoke(Rule.CLUTCH, Level.ROUTINE, said.CLUTCH, said.FRICTION)


def _d10(seen: Observation) -> Spoken:
    if not KINDS[seen.reservoir].hypoid:
        return None
    if any(_from(part, Form.SLIVERS) and _steel(part) for part in seen.parts):
        return _spoke(Rule.HYPOID, Level.INVESTIGATE, said.CROWN_WHEEL, said.BITS)
    paste = [part for part in seen.parts if part.form == Form.PASTE and _steel(part)]
    if _covers(paste) > _HALF:
        return _spoke(Rule.HYPOID, Level.ROUTINE, said.NORMAL, said.DARK_PASTE)
    return None


def _d11(seen: Observation) -> Spoken:
    if OilLook.MILKY not in seen.oil:
        return None
    level = Level.HOLD if KINDS[seen.reservoir].milky_is_grave else Level.INVESTIGATE
    return _spoke(Rule.MILKY, level, said.WATER, said.MILKY)


def _d12(seen: Observation) -> Spoken:
    looks = (
        (OilLook.FUEL, Level.INVESTIGATE, said.FUEL_FROM, said.FUEL),
        (OilLook.SPARKLE, Level.INVESTIGATE, said.FINE_METAL, said.SPARKLE),
        (OilLook.BURNT, Level.WATCH, said.HEAT, said.BURNT),
    )
    there = [row for row in looks if row[0] in seen.oil]
    if not there:
        return None
    _, levels, origins, signs = zip(*there, strict=True)
    return _spoke(Rule.LOOKS, max(levels), said.all_of(origins), " ".join(signs))


def _d13(seen: Observation) -> Spoken:
    if seen.seal_missing:
        return _spoke(Rule.SEALS, Level.WATCH, said.SEAL, said.SEAL_MISSING)
    if not any(FAMILY[part.matter] == Family.PIECES for part in seen.parts):
        return None
    return _spoke(Rule.SEALS, Level.WATCH, said.SEAL, said.SEAL_PIECES)


RULES: tuple[Callable[[Observation], Spoken], ...] = (
    _d1,
    _d2,
    _d3,
    _d4,
    _d5,
    _d6,
    _d7,
    _d8,
    _d9,
    _d10,
    _d11,
    _d12,
    _d13,
)
