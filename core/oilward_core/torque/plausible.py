"""Could this torque be meant for this fastener? Catches lbf·in taken for lbf·ft.

By role, thread and both materials. The preload formula speaks only where a bolt clamps; plugs seal,
caps and bleed screws close, banjo bolts squeeze washers: they have bands of their own. Bands are
common practice, no source; never shown as a specification.
"""

from collections.abc import Iterator
from dataclasses import dataclass
from decimal import Decimal

from ..codes.roles import Role
from ..errors import CoreError
from ..guard import guarded
from ..quantity import convert, parse, show
from ..reasons import Reason, Source
from ..said import doubts as say
from .spec import TorqueSpec
from .thread import Thread, read_thread

Band = tuple[Decimal, Decimal]


def _band(low: float, high: float) -> Band:
    return Decimal(str(low)), Decimal(str(high))


# metal drain plugs by nominal diameter in mm, N·m
PLUG_BANDS = {
    6: _band(5, 14),
    8: _band(10, 22),
    10: _band(15, 30),
    12: _band(18, 35),
    14: _band(20, 45),
    16: _band(25, 50),
    18: _band(25, 60),
    20: _band(25, 70),
    22: _band(30, 80),
    24: _band(30, 80),
    30: _band(15, 80),
}
# by role, N·m, whatever the thread
ROLE_BANDS: dict[str, Band] = {
    Role.DRAIN_PLUG: _band(9, 55),
    Role.FILL_PLUG: _band(2.5, 30),
    Role.LEVEL_PLUG: _band(5, 32),
    Role.LEVEL_SCREW: _band(4, 22),
    "sealing plug": _band(4, 32),
    Role.FILTER: _band(8, 22),
    Role.SECOND_FILTER: _band(6, 24),
    Role.SCREEN: _band(8, 42),
    Role.BLEED_SCREW: _band(4, 14),
    Role.FORK_CAP: _band(12, 45),
    Role.CAP: _band(4, 45),
    Role.AXLE_NUT: _band(45, 160),
    Role.BANJO_BOLT: _band(12, 45),
    Role.COVER_SCREW: _band(4, 28),
    Role.PINCH_BOLT: _band(6, 36),
    Role.UPPER_PINCH: _band(6, 36),
    Role.LOWER_PINCH: _band(6, 36),
    Role.AXLE_PINCH: _band(6, 36),
    Role.AXLE: _band(25, 160),
    Role.CALLIPER_BOLT: _band(15, 60),
    Role.DAMPER_BOLT: _band(12, 75),
    Role.ROD_NUT: _band(8, 50),
}
# by role and nominal diameter in mm, N·m
_SIZED: dict[str, dict[int, Band]] = {
    Role.BANJO_BOLT: {8: _band(9, 22), 10: _band(14, 38), 12: _band(18, 48), 14: _band(25, 60)},
    Role.LEVEL_PLUG: {6: _band(5, 13), 8: _band(7, 20), 10: _band(8, 26), 12: _band(10, 34)},
    Role.LEVEL_SCREW: {6: _band(4, 13), 8: _band(6, 20), 10: _band(8, 26)},
}
# tapered pipe threads seal on their flanks, N·m by size
PIPE_BANDS = {9.9: _band(7, 20), 13.3: _band(10, 32), 16.8: _band(15, 45), 21.0: _band(20, 65)}
_PLASTIC = _band(0.8, 9)
# of a drain plug's least torque: less than that holds no steel plug (common practice, no source)
_STEEL_FILLER = Decimal("0.14")
CLAMPED = (
    Role.COVER_SCREW,
    Role.PINCH_BOLT,
    Role.UPPER_PINCH,
    Role.LOWER_PINCH,
    Role.AXLE_PINCH,
)
_UNKNOWN = _band(2, 150)
# a bolt that clamps is tightened to between a quarter and a little over three quarters of its proof
_CLAMP_FROM, _CLAMP_TO = Decimal("0.3"), Decimal("1.05")
# the bands are soft: what lies up to this factor outside is let pass without a question
_SLACK = Decimal("1.3")

# proof and least tensile stress, MPa, up to 16 mm and above; ISO 898-1:2013 table 3, from memory
PROOF_STRESS = {
    "4.6": (225.0, 225.0),
    "5.6": (280.0, 280.0),
    "8.8": (580.0, 600.0),
    "10.9": (830.0, 830.0),
    "12.9": (970.0, 970.0),
}
TENSILE_STRENGTH = {"8.8": (800.0, 830.0), "10.9": (1040.0, 1040.0), "12.9": (1220.0, 1220.0)}
_THICK_FROM = 16


@dataclass(frozen=True, kw_only=True)
class Plausibility:
    """``ok``, or a ``question`` with the spec text it proposes and why."""

    ok: bool
    proposal: str
    question: str
    reasons: tuple[Reason, ...]


@guarded
def proof_torque(
    diameter: float,
    pitch: float,
    friction: float = 0.20,
    property_class: str = "8.8",
    share: float = 0.75,
) -> float:
    """Torque in N·m at a share of the proof load of a screw: ``K·d·F`` [std ISO 898-1, derived].

    ``diameter`` and ``pitch`` in mm, ``friction`` K the nut factor (0.20 dry, 0.15 oiled). No plug
    lies above that of 8.8: a higher value is almost certainly a unit or typing error. Raises
    CoreError ``torque.no_class``, ``thread.impossible``.
    """
    return _proof_torque(
        Thread(family="metric", diameter=diameter, pitch=pitch), friction, property_class, share
    )


def _proof_torque(thread: Thread, friction: float, property_class: str, share: float) -> float:
    stresses = PROOF_STRESS.get(property_class)
    if stresses is None:
        raise CoreError("torque.no_class", options=list(PROOF_STRESS))
    if friction <= 0 or share <= 0:
        raise CoreError("number.unusable", name="friction" if friction <= 0 else "share")
    stress = stresses[thread.diameter > _THICK_FROM]
    return friction * thread.diameter * share * stress * thread.area / 1000


@guarded
def preload(torque: float, friction: float, diameter: float) -> float:
    """The clamp force in kN of a torque in N·m: ``T/(K·d)``, d in mm [derived].

    Scatter of preload by torque is about ± 25–30 % (practice). Raises CoreError ``number.unusable``.
    """
    if friction <= 0 or diameter <= 0:
        raise CoreError("number.unusable", name="friction" if friction <= 0 else "diameter")
    return torque / (friction * diameter)


@guarded
def clamp_lever(pitch: float, pitch_diameter: float, friction: float, head: float) -> float:
    """Torque per clamp force in mm: ``0.16·P + 0.58·d₂·μ + μ·D/2`` [std VDI 2230 form, from memory].

    ``pitch`` P and ``pitch_diameter`` d₂ of the thread, ``head`` D the mean diameter the head turns on,
    all mm; ``friction`` μ of thread and head. N·m over mm is kN. Raises CoreError ``number.unusable``.
    """
    named = {"pitch": pitch, "diameter": pitch_diameter, "friction": friction, "head": head}
    wrong = next((name for name, value in named.items() if value <= 0), None)
    if wrong is not None:
        raise CoreError("number.unusable", name=wrong)
    return 0.16 * pitch + 0.58 * pitch_diameter * friction + friction * head / 2


def _nearest(bands: dict[int, Band], diameter: float) -> Band:
    return bands[min(bands, key=lambda size: abs(size - diameter))]


def _thread_or_none(text: str) -> Thread | None:
    try:
        return read_thread(text) if text.strip() else None
    except CoreError:
        return None


def _sized(role: str, thread: Thread, made_of: str = "") -> Band | None:
    """The band of a role that is told by its size; None where the thread says nothing of it."""
    if thread.family == "pipe" and role.endswith(("plug", "screw", "bolt")):
        return PIPE_BANDS[min(PIPE_BANDS, key=lambda size: abs(size - thread.diameter))]
    if role == Role.DRAIN_PLUG:
        return _nearest(PLUG_BANDS, thread.diameter)
    if role == Role.FILL_PLUG:
        least, most = _nearest(PLUG_BANDS, thread.diameter)
        floor = least * _STEEL_FILLER if made_of == "steel" else Decimal(0)
        return max(ROLE_BANDS[role][0], floor), min(most, ROLE_BANDS[role][1])
    if role in _SIZED:
        return _nearest(_SIZED[role], thread.diameter)
    if role in CLAMPED or role not in ROLE_BANDS:
        most = Decimal(str(round(_proof_torque(thread, 0.20, "8.8", 0.75), 1)))
        return most * _CLAMP_FROM, most * _CLAMP_TO
    return None


def plausible_band(role: str, thread: str = "", goes_into: str = "", made_of: str = "") -> Band:
    """The band in N·m a torque for this role is expected in, by thread and materials if known.

    Common practice, no source.
    """
    if "plastic" in (goes_into, made_of):
        return _PLASTIC
    read = _thread_or_none(thread)
    band = (_sized(role, read, made_of) if read else None) or ROLE_BANDS.get(role, _UNKNOWN)
    if goes_into in ("steel", "cast iron") and role.endswith("plug"):
        return band[0], band[1] * Decimal("1.2")
    return band


def _fits(low: Decimal, high: Decimal, band: Band) -> bool:
    return band[0] / _SLACK <= low and high <= band[1] * _SLACK


# what a number may have been meant in, in the order it is asked: 12, 8.85, 9.8, 1.36
_SLIPS = {
    "lbf·ft": ("lbf·in", "N·m", "kgf·m"),
    "lbf·in": ("lbf·ft", "N·m", "kgf·cm"),
    "N·m": ("lbf·in", "lbf·ft", "kgf·m", "kgf·cm", "N·cm"),
    "kgf·m": ("N·m", "lbf·ft", "kgf·cm"),
    "kgf·cm": ("kgf·m", "N·cm", "N·m"),
    "N·cm": ("N·m", "kgf·cm"),
    "daN·m": ("N·m",),
}
_SHIFTS = (Decimal(1000), Decimal(10))  # a thousands comma, a decimal point lost


def _trim(value: Decimal) -> str:
    return f"{round(value, 3).normalize():f}"


def _proposals(spec: TorqueSpec, low: Decimal, high: Decimal) -> Iterator[tuple[str, str]]:
    """Texts the number may have been meant as, each with its question."""
    ends = convert(low, spec.unit), convert(high, spec.unit)

    def said(factor: Decimal, unit: str) -> str:
        numbers = dict.fromkeys(_trim(end * factor) for end in ends)
        return f"{'–'.join(numbers)} {unit}"

    for meant in _SLIPS.get(spec.unit, ()):
        yield said(Decimal(1), meant), f"{meant}?"
    for shift in _SHIFTS:
        for factor in (1 / shift, shift):
            proposal = said(factor, spec.unit)
            yield proposal, f"{proposal}?"


def plausibility(
    spec: TorqueSpec, role: str, thread: str = "", goes_into: str = "", made_of: str = ""
) -> Plausibility:
    """Whether a torque is believable for the fastener; if a slip of unit or point explains it, ask.

    Bands are common practice, no source; the slip factors are 12, 8.85, 9.81 and 1.356
    [std NIST SP 811], 1000 and 10. The proposal is a text that `read_torque` reads.
    """
    low, high = spec.low, spec.high
    if low is None or high is None or not spec.by_wrench or not _finite(low, high):
        return Plausibility(ok=True, proposal="", question="", reasons=())
    band = plausible_band(role, thread, goes_into, made_of)
    what = f"{role} {thread}".strip()
    usual = f"{show(band[0], 'N·m', 0).removesuffix(' N·m')}–{show(band[1], 'N·m', 0)}"
    why = Reason(
        "plausibility band",
        say.usual_torque(what, usual, spec.text, show(high, "N·m")),
        Source.TRADE,
    )
    if _fits(low, high, band):
        return Plausibility(ok=True, proposal="", question="", reasons=(why,))
    for proposal, question in _proposals(spec, low, high):
        meant = parse(proposal, None)
        if _fits(meant.low, meant.high, band):
            return Plausibility(ok=False, proposal=proposal, question=question, reasons=(why,))
    return Plausibility(ok=False, proposal="", question=say.LOOK_IN_MANUAL, reasons=(why,))


def _finite(*values: Decimal) -> bool:
    return all(value.is_finite() for value in values)
