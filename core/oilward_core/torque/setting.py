"""What to set on which wrench, and what a reading means."""

from collections.abc import Sequence
from dataclasses import dataclass
from decimal import ROUND_CEILING, ROUND_FLOOR, ROUND_HALF_EVEN, Decimal
from math import cos, radians
from typing import Literal

from ..errors import CoreError
from ..quantity import UNITS, convert, parse, show, show_range
from ..quantity.units import Kind
from ..reasons import Reason, Source
from .spec import TorqueSpec

School = Literal["middle", "lower third"]
Verdict = Literal["in", "borderline", "under", "over"]

USABLE_FROM = Decimal("0.2")  # of the scale's maximum, ISO 6789


@dataclass(frozen=True)
class Wrench:
    """A torque wrench. ``low``, ``high`` and ``resolution`` are numbers of its own ``unit``;
    ``accuracy`` is a fraction of the reading (0.04 is ± 4 %); ``length`` in mm from the middle of
    its drive to the middle of the grip, None: never measured."""

    id: str
    name: str
    unit: str
    low: Decimal
    high: Decimal
    resolution: Decimal
    accuracy: Decimal
    simulated: bool = False
    length: Decimal | None = None


@dataclass(frozen=True)
class Setting:
    """A torque to aim at, N·m, with its why."""

    value: Decimal
    reasons: tuple[Reason, ...]


@dataclass(frozen=True)
class WrenchSetting:
    """A wrench and the number to set on its scale (its own unit). ``factor`` is what its scale
    shows of the torque at the fastener: less than 1 behind an adapter."""

    wrench: Wrench
    scale: Decimal
    reasons: tuple[Reason, ...]
    factor: Decimal = Decimal(1)


@dataclass(frozen=True)
class TorqueVerdict:
    """What a reading means, with what to do about it."""

    verdict: Verdict
    action: str
    reasons: tuple[Reason, ...]


def _bounds(spec: TorqueSpec) -> tuple[Decimal, Decimal]:
    if spec.low is None or spec.high is None or spec.form == "turn":
        raise CoreError("torque.no_wrench", text=spec.text)
    return spec.low, spec.high


def setting(spec: TorqueSpec, school: School = "middle", soft: bool = False) -> Setting:
    """The torque to aim at, N·m [trade].

    A range is set to its middle; for soft (aluminium, plastic) or sealed threads, or in the school
    ``lower third``, to ``lo + (hi − lo)/3``. A single manual value is never changed.
    Raises CoreError ``torque.no_wrench`` for hand-tight and turn specs.
    """
    low, high = _bounds(spec)
    written = show_range(low, high, spec.unit)
    if spec.form == "single":
        why = Reason("manual value", f"The manual gives one value: {written}.", Source.MANUAL)
        return Setting(low, (why,))
    if spec.form == "tolerance":
        value = (low + high) / 2
        text = f"The manual's value inside its tolerance: {show(value, spec.unit)}."
        return Setting(value, (Reason("manual value", text, Source.MANUAL),))
    if soft or school == "lower third":
        value = low + (high - low) / 3
        cause = "Soft or sealed thread" if soft else "Workshop's choice"
        text = f"{cause}: a third up from the bottom of {written} is {show(value, spec.unit)}."
        return Setting(value, (Reason("lower third", text, Source.TRADE),))
    value = (low + high) / 2
    text = f"Middle of {written} is {show(value, spec.unit)}."
    return Setting(value, (Reason("middle of range", text, Source.TRADE),))


def _usable(wrench: Wrench) -> tuple[Decimal, Decimal]:
    return max(wrench.low, wrench.high * USABLE_FROM), wrench.high


def _on_scale(target: Decimal, low: Decimal, high: Decimal, wrench: Wrench) -> Decimal | None:
    """The mark of the scale nearest ``target`` that lies within low–high (all in its unit)."""
    step = wrench.resolution
    nearest = (target / step).to_integral_value(ROUND_HALF_EVEN) * step
    if low == high:  # one value: the nearest mark is as near as this wrench can come
        return nearest
    if nearest < low:
        nearest = (low / step).to_integral_value(ROUND_CEILING) * step
    if nearest > high:
        nearest = (high / step).to_integral_value(ROUND_FLOOR) * step
    return nearest if low <= nearest <= high else None


def scale_factor(wrench: Wrench, adapter: Decimal | None) -> Decimal | None:
    """What a wrench's scale shows of the torque at the fastener, with an adapter of so many mm in
    line with the handle; None where the wrench was never measured."""
    if adapter is None:
        return Decimal(1)
    if wrench.length is None:
        return None
    return adapter_setting(Decimal(1), wrench.length, adapter, Decimal(0))


def _why(wrench: Wrench, mark: Decimal, adapter: Decimal | None) -> tuple[Reason, ...]:
    usable_low, usable_high = _usable(wrench)
    text = (
        f"{wrench.name} works from {usable_low:.0f} to {usable_high:.0f} {wrench.unit}, "
        f"in steps of {wrench.resolution.normalize():f}; set {mark.normalize():f}."
    )
    why = Reason("ISO 6789 usable range", text, Source.STANDARD)
    if adapter is None:
        return (why,)
    text = (
        f"An adapter of {adapter.normalize():f} mm in line with a wrench of {wrench.length} mm "
        "turns harder than the scale shows, so less is set. At a right angle it would not."
    )
    return (why, Reason("T·L/(L + E)", text, Source.STANDARD))


def fitting_wrenches(
    spec: TorqueSpec, aim: Decimal, wrenches: Sequence[Wrench], adapter: Decimal | None = None
) -> tuple[WrenchSetting, ...]:
    """Every wrench that can set this, with its mark; nearest the middle of its scale first.

    ``aim`` is in N·m; ``adapter`` the mm a crow-foot adds in line with the handle. A wrench is
    usable from 20 % to 100 % of its maximum [std ISO 6789-1:2017, from memory] and never below its
    lowest mark.
    """
    low, high = _bounds(spec)
    fitting = []
    for wrench in wrenches:
        factor = scale_factor(wrench, adapter)
        if factor is None:
            continue
        mark = _on_scale(
            convert(aim * factor, wrench.unit),
            convert(low * factor, wrench.unit),
            convert(high * factor, wrench.unit),
            wrench,
        )
        usable_low, usable_high = _usable(wrench)
        if mark is None or not usable_low <= mark <= usable_high:
            continue
        off_middle = abs(mark - (usable_low + usable_high) / 2) / (usable_high - usable_low)
        found = WrenchSetting(wrench, mark, _why(wrench, mark, adapter), factor)
        fitting.append((off_middle, wrench.id, found))
    return tuple(setting for _, _, setting in sorted(fitting, key=lambda row: row[:2]))


def adapter_setting(
    torque: Decimal, length: Decimal, extension: Decimal, angle: Decimal
) -> Decimal:
    """Setting for a wrench with an adapter: ``T·L/(L + E·cos θ)`` (moment balance).

    ``length`` L: drive centre to middle of the grip; ``extension`` E: drive centre to fastener;
    ``angle`` θ in degrees, 0 straight away from the grip. Same length unit for both.
    Raises CoreError ``torque.adapter`` if the lever would vanish.
    """
    lever = float(length) + float(extension) * cos(radians(float(angle)))
    if length <= 0 or lever <= 0:
        raise CoreError("torque.adapter")
    return torque * length / Decimal(lever)


def judge(
    reading: Decimal, spec: TorqueSpec, accuracy: Decimal, soft: bool = False
) -> TorqueVerdict:
    """What a peak reading (N·m) means against the spec.

    *borderline* lies outside by no more than the wrench's accuracy (a fraction). A single value is
    met when the reading is within that accuracy of it.
    """
    low, high = _bounds(spec)
    if spec.form == "single":
        low, high = low * (1 - accuracy), high * (1 + accuracy)
    written, said = show_range(low, high, spec.unit), show(reading, spec.unit)
    reason = Reason("reading against spec", f"{said} against {written}.", Source.MANUAL)

    def answer(verdict: Verdict, action: str) -> TorqueVerdict:
        return TorqueVerdict(verdict, action, (reason,))

    if low <= reading <= high:
        return answer("in", "Torqued. Go on.")
    if spec.form != "single" and low * (1 - accuracy) <= reading <= high * (1 + accuracy):
        return answer("borderline", "Within the wrench's own error. Pull once more, slowly.")
    if reading < low:
        return answer("under", "Too loose. Pull again to the setting.")
    if soft and reading > high * Decimal("1.1"):
        return answer(
            "over",
            "More than 10 % over in a soft thread. Take it out, look at the thread, new washer.",
        )
    return answer("over", "Too tight. Back it off and pull again to the setting.")


def as_torque(text: str, unit: str | None = None) -> Decimal:
    """A typed reading in N·m. Raises CoreError as `quantity.parse` does, and ``quantity.one_value``."""
    measure = parse(text, Kind.TORQUE, unit if unit in UNITS else None)
    if measure.form != "single":
        raise CoreError("quantity.one_value", text=measure.text)
    return measure.low
