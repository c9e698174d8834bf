"""Could this torque be meant for this fastener? Catches lbf·in taken for lbf·ft."""

import re
from dataclasses import dataclass
from decimal import Decimal
from math import pi

from ..quantity import show
from ..reasons import Reason, Source
from .spec import TorqueSpec

Band = tuple[Decimal, Decimal]


def _bands(rows: dict[str, tuple[float, float]]) -> dict[str, Band]:
    return {name: (Decimal(str(low)), Decimal(str(high))) for name, (low, high) in rows.items()}


# Soft warning bands, N·m. Common practice, no source; never shown as a specification.
PLUG_BANDS = _bands(
    {
        "M8": (10, 22),
        "M10": (15, 30),
        "M12": (18, 35),
        "M14": (20, 45),
        "M16": (25, 50),
        "M18": (25, 60),
        "M20": (25, 70),
        "M22": (30, 80),
        "M24": (30, 80),
    }
)
ROLE_BANDS = _bands(
    {
        "drain plug": (8, 80),
        "fill plug": (4, 60),
        "level plug": (2, 40),
        "filter": (8, 22),
        "cover screw": (4, 28),
        "axle nut": (50, 150),
    }
)
_SEALED = ("drain plug", "fill plug", "level plug", "filter")
# The bands are soft: what lies up to this factor outside is let pass without a question.
_SLACK = Decimal("1.35")

PROOF_STRESS_8_8 = {"small": 580.0, "large": 600.0}  # MPa, d ≤ 16 and above, ISO 898-1:2013
_METRIC = re.compile(r"^M(?P<d>\d+)(?:\s*[x×]\s*(?P<p>[\d.]+))?", re.IGNORECASE)
COARSE_PITCH = {5: 0.8, 6: 1.0, 8: 1.25, 10: 1.5, 12: 1.75, 14: 2.0, 16: 2.0, 18: 2.5, 20: 2.5}


@dataclass(frozen=True)
class Plausibility:
    """``ok``, or a ``question`` with the spec text it proposes and why."""

    ok: bool
    proposal: str
    question: str
    reasons: tuple[Reason, ...]


def stress_area(diameter: float, pitch: float) -> float:
    """Stress area of a metric thread, mm²: ``π/4·(d − 0.9382·P)²`` [std ISO 898-1 cl. 9.1.6.1]."""
    return pi / 4 * (diameter - 0.9382 * pitch) ** 2


def proof_torque(diameter: float, pitch: float, friction: float = 0.20) -> float:
    """Torque in N·m at 75 % of the proof load of an 8.8 screw: ``K·d·F`` [std ISO 898-1, derived].

    No plug lies above it: a higher value is almost certainly a unit or typing error.
    """
    stress = PROOF_STRESS_8_8["small" if diameter <= 16 else "large"]
    return friction * diameter * 0.75 * stress * stress_area(diameter, pitch) / 1000


def plausible_band(role: str, thread: str = "") -> Band:
    """The band in N·m a torque for this role (and thread, if known) is expected in."""
    match = _METRIC.match(thread)
    size = f"M{match['d']}" if match else ""
    if role.endswith("plug") and size in PLUG_BANDS:
        return PLUG_BANDS[size]
    if role in _SEALED:  # these seal; how tight has little to do with what the thread could bear
        return ROLE_BANDS[role]
    if match:
        diameter = int(match["d"])
        pitch = float(match["p"] or COARSE_PITCH.get(diameter, 1.5))
        highest = Decimal(str(round(proof_torque(diameter, pitch), 1)))
        return highest / 6, highest
    return ROLE_BANDS.get(role, (Decimal(2), Decimal(150)))


def _fits(low: Decimal, high: Decimal, band: Band) -> bool:
    return band[0] / _SLACK <= low and high <= band[1] * _SLACK


# slips in the order they are asked: (what the number was, what it may have meant)
_SLIPS = (
    ("lbf·ft", "lbf·in"),
    ("lbf·in", "lbf·ft"),
    ("lbf·ft", "N·m"),
    ("N·m", "lbf·ft"),
    ("N·m", "lbf·in"),
    ("kgf·m", "N·m"),
)
_FACTOR = {
    "lbf·ft": Decimal("1.355818"),
    "lbf·in": Decimal("0.112985"),
    "N·m": Decimal(1),
    "kgf·m": Decimal("9.80665"),
}


def plausibility(spec: TorqueSpec, role: str, thread: str = "") -> Plausibility:
    """Whether a torque is believable for the fastener; if a unit slip explains it, ask for that.

    Bands are common practice, no source; the slip factors are 12, 1.356 and 9.81 [std NIST SP 811].
    """
    if spec.low is None or spec.high is None or spec.form == "turn":
        return Plausibility(True, "", "", ())
    band = plausible_band(role, thread)
    what = f"{role} {thread}".strip()
    usual = f"{show(band[0], 'N·m', 0).removesuffix(' N·m')}–{show(band[1], 'N·m', 0)}"
    why = Reason(
        "plausibility band",
        f"A {what} usually takes {usual}; {spec.text} is {show(spec.high, 'N·m')}.",
        Source.TRADE,
    )
    if _fits(spec.low, spec.high, band):
        return Plausibility(True, "", "", (why,))
    for written, meant in _SLIPS:
        ratio = _FACTOR[meant] / _FACTOR[written]
        if spec.unit == written and _fits(spec.low * ratio, spec.high * ratio, band):
            number = re.sub(r"[^\d.,/½¼¾±–\- ]", "", spec.text).strip(" -–.")
            return Plausibility(False, f"{number} {meant}", f"{meant}?", (why,))
    return Plausibility(False, "", "Look again at the manual.", (why,))
