"""Which grade measured values satisfy: SAE J300, SAE J306, ISO 3448, JASO T903.

All limits are recalled, not opened: whoever shows them says "compare with the current edition".
"""

import re
from dataclasses import dataclass
from decimal import Decimal
from math import inf
from typing import TypeVar

from ..errors import CoreError
from ..guard import Sound, guarded
from ..said import laboratory as say

# SAE J300_202104 table 1: least viscosity at 100 °C of the W grades
ENGINE_W = {"0W": 3.8, "5W": 3.8, "10W": 4.1, "15W": 5.6, "20W": 5.6, "25W": 9.3}
# cranking max mPa·s at °C, pumping max 60 000 mPa·s at °C
ENGINE_COLD = {
    "0W": (6200, -35, -40),
    "5W": (6600, -30, -35),
    "10W": (7000, -25, -30),
    "15W": (7000, -20, -25),
    "20W": (9500, -15, -20),
    "25W": (13000, -10, -15),
}
PUMPING_MAX = 60_000
# viscosity at 100 °C from (≥) and to (<), least HTHS mPa·s at 150 °C
ENGINE_HOT = {
    "8": (4.0, 6.1, 1.7),
    "12": (5.0, 7.1, 2.0),
    "16": (6.1, 8.2, 2.3),
    "20": (6.9, 9.3, 2.6),
    "30": (9.3, 12.5, 2.9),
    "40": (12.5, 16.3, 3.5),
    "50": (16.3, 21.9, 3.7),
    "60": (21.9, 26.1, 3.7),
}
_THICK_40 = 3.7  # HTHS of a 40 with 15W, 20W, 25W, and as a monograde
_THIN_W = ("0W", "5W", "10W")

# SAE J306 by edition: W grade: (150 000 mPa·s at or below °C, least viscosity at 100 °C)
GEAR_W = {
    2019: {"70W": (-55, 3.8), "75W": (-40, 3.8), "80W": (-26, 8.5), "85W": (-12, 11.0)},
    2005: {"70W": (-55, 4.1), "75W": (-40, 4.1), "80W": (-26, 7.0), "85W": (-12, 11.0)},
}
_GEAR_THICK = {
    "85": (11.0, 13.5),
    "90": (13.5, 18.5),
    "110": (18.5, 24.0),
    "140": (24.0, 32.5),
    "190": (32.5, 41.0),
    "250": (41.0, inf),
}
GEAR_HOT = {
    2019: {"65": (3.8, 5.0), "70": (5.0, 6.5), "75": (6.5, 8.5), "80": (8.5, 11.0), **_GEAR_THICK},
    2005: {"80": (7.0, 11.0), **_GEAR_THICK},
}

ISO_MID = {2: "2.2", 3: "3.2", 5: "4.6", 7: "6.8"} | {
    vg: str(vg)
    for vg in (10, 15, 22, 32, 46, 68, 100, 150, 220, 320, 460, 680, 1000, 1500, 2200, 3200)
}

# JASO T903 by edition: least DFI, SFI, STI of MA, MA2, MB; 2.50 is the upper end of all
CLUTCH = {
    2016: {"MA": (1.35, 1.45, 1.40), "MA2": (1.50, 1.60, 1.60), "MB": (0.40, 0.40, 0.40)},
    2011: {"MA": (1.30, 1.25, 1.45), "MA2": (1.85, 1.70, 1.85), "MB": (0.50, 0.50, 0.50)},
    2006: {"MA": (1.45, 1.15, 1.55), "MA2": (1.80, 1.70, 1.90), "MB": (0.50, 0.50, 0.50)},
}
_CLUTCH_TOP = 2.50


@dataclass(frozen=True, kw_only=True)
class Measured(Sound):
    """What was measured on an engine oil; None where it was not.

    cSt at 100 °C, HTHS and cold viscosities in mPa·s at the labelled W grade's own temperatures.
    """

    kv100: float
    hths: float | None = None
    cranking: float | None = None
    pumping: float | None = None


def _hths_min(grade: str, w: str | None) -> float:
    return _THICK_40 if grade == "40" and w not in _THIN_W else ENGINE_HOT[grade][2]


_Table = TypeVar("_Table")


def _edition(tables: dict[int, _Table], edition: int) -> _Table:
    """The table of an edition. Raises CoreError ``fluid.edition`` for one we have no numbers of."""
    if edition not in tables:
        raise CoreError("fluid.edition", options=list(tables))
    return tables[edition]


@guarded
def engine_grades(oil: Measured, w: str | None = None) -> tuple[str, ...]:
    """The hot grades of SAE J300 these values satisfy; several where the bands overlap.

    ``w`` is the W grade of a multigrade (None: monograde): a 40 asks for more HTHS with 15W and up.
    """
    return tuple(
        grade
        for grade, (low, high, _) in ENGINE_HOT.items()
        if low <= oil.kv100 < high and (oil.hths is None or oil.hths >= _hths_min(grade, w))
    )


@guarded
def engine_disagreements(label: str, oil: Measured) -> tuple[str, ...]:
    """Where measured values disagree with an engine oil's label (``10W-40``, ``SAE 50``), in words.

    Empty: they agree, as far as measured. Raises CoreError ``fluid.label``.
    """
    w, hot = _split(label)
    low, high, _ = ENGINE_HOT[hot]
    said = []
    if not low <= oil.kv100 < high:
        said.append(say.outside(oil.kv100, low, high, hot))
    least = _hths_min(hot, w)
    if oil.hths is not None and oil.hths < least:
        said.append(say.sheared(oil.hths, least, label))
    if w:
        said += _cold_disagreements(w, oil)
    return tuple(said)


def _cold_disagreements(w: str, oil: Measured) -> list[str]:
    cranking, at, pumped_at = ENGINE_COLD[w]
    said = []
    if oil.kv100 < ENGINE_W[w]:
        said.append(say.too_thin(oil.kv100, ENGINE_W[w], w))
    if oil.cranking is not None and oil.cranking > cranking:
        said.append(say.cranks(oil.cranking, cranking, at, w))
    if oil.pumping is not None and oil.pumping > PUMPING_MAX:
        said.append(say.pumps(oil.pumping, PUMPING_MAX, pumped_at, w))
    return said


_LABEL = re.compile(r"^(?:SAE ?)?(?:(\d{1,2} ?W)[-/ ]?)?(\d{1,2})$")


def _split(label: str) -> tuple[str | None, str]:
    match = _LABEL.match(" ".join(label.upper().split()))
    w, hot = (match[1] or "").replace(" ", "") if match else "", match[2] if match else ""
    if hot not in ENGINE_HOT or (w and w not in ENGINE_W):
        raise CoreError("fluid.label", label=label)
    return w or None, hot


@guarded
def gear_grade(kv100: float, edition: int = 2019) -> str | None:
    """The hot grade of SAE J306 for a viscosity at 100 °C, or None."""
    bands = _edition(GEAR_HOT, edition)
    return next((g for g, (low, high) in bands.items() if low <= kv100 < high), None)


@guarded
def gear_w_grade(kv100: float, reaches_150000_at: float, edition: int = 2019) -> str | None:
    """The coldest W grade of SAE J306: 150 000 mPa·s at or below its temperature, and thick enough."""
    return next(
        (
            w
            for w, (t, low) in _edition(GEAR_W, edition).items()
            if reaches_150000_at <= t and kv100 >= low
        ),
        None,
    )


@guarded
def iso_vg(kv40: Decimal) -> int | None:
    """The viscosity class of ISO 3448 (mid-point ± 10 %, inclusive), or None between classes."""
    for vg in ISO_MID:
        low, high = iso_vg_limits(vg)
        if low <= kv40 <= high:
            return vg
    return None


@guarded
def clutch_class(dfi: float, sfi: float, sti: float, edition: int = 2016) -> str | None:
    """Friction class of JASO T903 from dynamic, static and stop-time index: MA, MA1, MA2, MB, None.

    All three in MA2 → MA2; all in MA but below MA2 → MA1; mixed → MA; any in the MB band → MB.
    """
    indices = (dfi, sfi, sti)
    limits = _edition(CLUTCH, edition)
    if any(i >= _CLUTCH_TOP or i < low for i, low in zip(indices, limits["MB"], strict=True)):
        return None
    if any(i < low for i, low in zip(indices, limits["MA"], strict=True)):
        return "MB"
    high = [i >= low for i, low in zip(indices, limits["MA2"], strict=True)]
    return "MA2" if all(high) else "MA" if any(high) else "MA1"


@guarded
def clutch_index(oil: float, low: float, high: float) -> float:
    """A friction index of JASO T904: ``1 + (oil − low)/(high − low)`` against the two reference
    oils, 1 for the slippery one and 2 for the other [from memory].

    Raises CoreError ``fluid.references`` when the references do not differ.
    """
    if high <= low:
        raise CoreError("fluid.references")
    return 1 + (oil - low) / (high - low)


def iso_vg_limits(vg: int) -> tuple[Decimal, Decimal]:
    """Lowest and highest viscosity at 40 °C of an ISO 3448 class, cSt. Raises CoreError
    ``fluid.class``."""
    if vg not in ISO_MID:
        raise CoreError("fluid.class", options=list(ISO_MID))
    middle = Decimal(ISO_MID[vg])
    return middle * Decimal("0.9"), middle * Decimal("1.1")
