"""What is said of a fluid that is held against what a sheet asks for."""

from decimal import Decimal

from ..codes.fluid import Thickness
from ..guard import whole_table

MADE_FOR = {
    "engine": "engines",
    "gear": "gears",
    "primary": "primary drives",
    "transmission": "automatic transmissions",
    "fork": "forks",
    "shock": "shocks",
    "brake": "brakes and clutches",
    "coolant": "cooling",
}
THICKNESS: dict[Thickness, str] = whole_table(
    Thickness,
    {
        Thickness.UNKNOWN: "",
        Thickness.AS_THICK: "as thick at 100 °C",
        Thickness.THINNER: "thinner at 100 °C",
        Thickness.THICKER: "thicker at 100 °C",
    },
)
NOT_HYPOID = "GL-5 is asked for hypoid gears; this fluid is not made for them."
SAVING = "A fuel-saving oil may carry friction modifiers: not without MA in a wet clutch."
NO_GL_5 = "GL-5 is asked for hypoid gears; this label does not name it."
NO_GL_4 = "GL-4 is asked; this label does not name it."
GL_5_FOR_4 = "GL-4 is asked. GL-5 does not cover it: its additives attack brass and bronze."
WHICH_BRAKE = "The sheet does not say which brake fluid: look on the cap of the reservoir."


def another_trade(family: str, kind: str) -> str:
    """A fluid that is made for something else."""
    return f"A fluid made for {MADE_FOR.get(family, family)} does not go into the {kind}."


def slips(wanted: str) -> str:
    """A wet clutch slips in it."""
    return f"{wanted} is asked for a wet clutch; MB lets it slip."


def no_friction(wanted: str) -> str:
    """A label without a friction class."""
    return f"{wanted} is asked for a wet clutch; this label names no friction class."


def other_friction(wanted: str, has: str) -> str:
    """Another class of the same kind."""
    return f"{wanted} is asked, {has} is on the label: the clutch takes up differently."


def more_drag(has: str) -> str:
    """More friction than asked for."""
    return f"MB is asked, {has} is on the label: safe for the clutch, a little more drag."


def both_grades(asked: str, given: str) -> str:
    """Two grades that are not one."""
    return f"{asked} is asked, {given or 'no grade'} is on the label"


def too_thin(both: str) -> str:
    """More than a grade too thin."""
    return f"{both}: more than one grade too thin at 100 °C."


def other_grade(both: str, thickness: Thickness) -> str:
    """Another grade, and where it lies hot."""
    if thickness == Thickness.AS_THICK:
        return f"{both}: as thick at 100 °C, but another grade."
    return f"{both}: {THICKNESS[thickness]}." if THICKNESS[thickness] else f"{both}."


def window(low: Decimal, high: Decimal, at: int) -> str:
    """The viscosities a sheet asks for."""
    return f"{low.normalize():f}–{high.normalize():f} cSt at {at} °C is asked"


def not_known(asked: str) -> str:
    """A viscosity nobody knows."""
    return f"{asked}; this fluid's is not known."


def this_has(asked: str, v: float, where: str = "") -> str:
    """A viscosity outside what is asked."""
    return f"{asked}, this has {v:g}: {where}." if where else f"{asked}, this has {v:g}."


def outside(near: bool) -> str:
    """How far outside."""
    return "just outside" if near else "outside"


def no_category(asked: str) -> str:
    """A label without a service category."""
    return f"API {asked} is asked; this label names no API category."


def older(asked: str, given: str) -> str:
    """An older service category."""
    return f"API {asked} is asked, API {given} is older and asks less of an oil."


def not_named(asked: str) -> str:
    """Something the label does not name."""
    return f"{asked} is asked and not named on the label."


def no_class(asked: str) -> str:
    """A brake fluid without its class."""
    return f"{asked} is asked; this label names no class."


def never_meet(wanted: str, has: str) -> str:
    """Brake fluids that destroy each other's seals."""
    return f"{wanted.capitalize()} fluid is asked, this is {has}: they must never meet."


def other_dot(asked: str, given: tuple[str, ...]) -> str:
    """A lower class of glycol fluid."""
    said = " / ".join(f"DOT {dot}" for dot in given) or "no class"
    return f"DOT {asked} is asked; {said} is on the label."


def base(asked: str, has: str) -> str:
    """Another base oil."""
    return f"Base {asked} is asked; this one's is {has or 'not known'}."


def by_school(chosen: str, fits: bool) -> str:
    """What a school says of it."""
    return f"Which oil: {chosen}." if fits else f"Which oil: {chosen}; this one is not."


def all_there(asked: str) -> str:
    """Nothing speaks against it."""
    return f"{asked or 'The sheet asks nothing in particular'}: all there."


ENOUGH, TOO_STIFF = "enough", "too stiff"
CRANKS, NOT_TO_CRANK = "it will crank", "too stiff to crank"
NOTHING_OF_COLD = "No W grade and no viscosities: nothing to say about the cold."


def held_to(w: str, limit: int, coldest: float, ok: bool) -> str:
    """A W grade beside the coldest start."""
    verdict = ENOUGH if ok else TOO_STIFF
    return f"{w} is held to {limit} °C; for {coldest:g} °C that is {verdict}."


def no_w_grade(cst: str, coldest: float, ok: bool) -> str:
    """A viscosity beside the coldest start."""
    verdict = CRANKS if ok else NOT_TO_CRANK
    return f"No W grade; about {cst} cSt at {coldest:g} °C: {verdict}."
