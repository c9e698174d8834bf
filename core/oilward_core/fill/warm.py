"""Oil that is read colder than its marks are for: how much higher it will stand.

Volume over temperature is `fluid.density`'s [std API MPMS 11.1, lubricating oils].
"""

from decimal import Decimal

from ..drained import USUAL_DENSITY
from ..fluid.density import volume_at
from ..guard import guarded

# °C that marks for a warm and for a hot engine are meant at [our definitions]
MARKS_AT = {"warm": 60.0, "hot": 90.0}


@guarded
def will_rise(
    ml: Decimal, celsius: Decimal, engine: str, density15: Decimal = USUAL_DENSITY
) -> Decimal:
    """By how many ml oil of ``celsius`` will have swollen where its marks are meant for a ``warm`` or
    ``hot`` engine; nothing where it is as warm, or the marks name no warmth. ``density15`` in kg/m³.
    Raises CoreError ``fluid.density``."""
    marks = MARKS_AT.get(engine)
    if marks is None or float(celsius) >= marks or ml <= 0:
        return Decimal(0)
    return Decimal(
        str(round(volume_at(float(ml), float(celsius), marks, float(density15)) - float(ml), 1))
    )
