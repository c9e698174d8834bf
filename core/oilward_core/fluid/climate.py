"""Can it still be started? The W grade against the coldest morning."""

from dataclasses import dataclass
from decimal import Decimal

from ..guard import guarded
from ..quantity import grouped
from ..said import fluid as say
from .grades import ENGINE_COLD, GEAR_W
from .labels import read_grades
from .viscosity import TwoPoint, viscosity_at

_TOO_STIFF = 5000.0  # cSt; an oil without W grade is too stiff to crank above [trade]


@dataclass(frozen=True)
class Climate:
    """Whether an oil suits a start at that temperature, and why."""

    ok: bool
    text: str


def _w_limit(grade: str) -> tuple[str, int] | None:
    w = next((found.w for found in read_grades(grade) if found.w), "")
    if w in ENGINE_COLD:
        return w, ENGINE_COLD[w][1]
    return (w, int(GEAR_W[2019][w][0])) if w in GEAR_W[2019] else None


@guarded
def climate(grade: str, oil: TwoPoint | None, coldest: float) -> Climate:
    """The W grade's cranking limit (SAE J300; for gear oils SAE J306) against the coldest start, °C.

    Without a W grade the viscosity at that temperature decides (ASTM D341, over 5000 cSt is too
    stiff: common practice, no source).
    """
    limit = _w_limit(grade)
    if limit is not None:
        w, t = limit
        ok = coldest >= t
        return Climate(ok, say.held_to(w, t, coldest, ok))
    if oil is None:
        return Climate(True, say.NOTHING_OF_COLD)
    v = viscosity_at(oil, coldest)
    ok = v <= _TOO_STIFF
    return Climate(ok, say.no_w_grade(grouped(Decimal(round(v))), coldest, ok))
