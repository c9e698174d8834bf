"""What is said of a laboratory's report, and of measured values that leave a grade."""

from decimal import Decimal

from ..codes.laboratory import Element
from ..guard import whole_table

# common practice; from memory
MEANS: dict[Element, str] = whole_table(
    Element,
    {
        Element.FE: "cylinders, gears, shafts, chain, rust",
        Element.AL: "pistons, cases, bearing alloy; with silicon: dirt",
        Element.CU: "bronze bushes, bearings, clutch plates, cooler",
        Element.SN: "bearing overlay, bronze",
        Element.PB: "bearing overlay, leaded bronze",
        Element.CR: "rings, hard-chromed parts",
        Element.SI: "dirt past the air filter; also sealant, antifoam",
        Element.NA: "coolant, road salt, some detergents",
        Element.K: "coolant",
        Element.B: "an additive, or coolant",
        Element.MO: "an additive; piston ring coating",
    },
)
TOGETHER = "Sodium, potassium and boron together: coolant in the oil."
THINNER = "fuel, shear, or another oil topped up"
THICKER = "oxidation, soot, water or evaporation"
WATER, FROM_WATER = "Water", "condensation or coolant"
FUEL, FROM_FUEL = "Fuel", "rings, carburettor or injector"


def share(what: str, percent: Decimal, means: str) -> str:
    """So many per cent of something that does not belong there."""
    return f"{what} {percent.normalize():f} %: {means}."


def viscosity(percent: Decimal) -> str:
    """Thinner or thicker than fresh oil."""
    why = THINNER if percent < 0 else THICKER
    return f"Viscosity at 100 °C {percent:+.0f} % of fresh: {why}."


def left_its_grade(kv100: Decimal, grade: object, low: float, high: float) -> str:
    """A viscosity outside its grade."""
    has = f"Viscosity at 100 °C {kv100.normalize():f} cSt has left its grade"
    return f"{has}, {grade} ({low:g} to {high:g})."


def outside(kv100: float, low: float, high: float, hot: str) -> str:
    """Not the hot grade on the label."""
    return f"{kv100:g} cSt at 100 °C is outside {low:g}–{high:g} of a {hot}"


def sheared(hths: float, least: float, label: str) -> str:
    """Too thin under shear."""
    return f"HTHS {hths:g} mPa·s is below the {least:g} of a {label}"


def too_thin(kv100: float, least: float, w: str) -> str:
    """Too thin for its W grade."""
    return f"{kv100:g} cSt at 100 °C is below the {least:g} of a {w}"


def cranks(mpas: float, most: float, at: int, w: str) -> str:
    """Too stiff to crank."""
    return f"cranks at {mpas:g} mPa·s, over {most} at {at} °C of a {w}"


def pumps(mpas: float, most: float, at: int, w: str) -> str:
    """Too stiff to pump."""
    return f"pumps at {mpas:g} mPa·s, over {most} at {at} °C of a {w}"
