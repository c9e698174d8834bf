"""What to set on which wrench, and what a reading means."""

from collections.abc import Sequence
from dataclasses import dataclass
from decimal import ROUND_CEILING, ROUND_FLOOR, ROUND_HALF_EVEN, Decimal
from math import cos, radians
from typing import Literal

from ..errors import CoreError
from ..guard import Sound, guarded, remembered
from ..quantity import UNITS, convert, parse, show, show_range
from ..quantity.units import Kind
from ..reasons import Reason, Source
from ..said import torque as said
from .spec import TorqueSpec

School = Literal["middle", "lower third"]
Verdict = Literal["in", "borderline", "under", "over"]

USABLE_FROM = Decimal("0.2")  # of the scale's maximum, ISO 6789


# ISO 6789-1:2017, greatest permissible deviation in per cent, up to 10 N·m and above [from memory]
_DEVIATION = {
    **{("I", cls): (6, 6) for cls in "AD"},
    **{("I", cls): (6, 4) for cls in "BCE"},
    **{("II", cls): (6, 4) for cls in "ABC"},
    **{("II", cls): (6, 6) for cls in "DEFG"},
}
_SMALL_WRENCH = 10  # N·m, the largest torque of a small wrench


@dataclass(frozen=True, kw_only=True)
class Wrench(Sound):
    """A torque wrench. ``low``, ``high`` and ``resolution`` are numbers of its own ``unit``;
    ``accuracy`` is a fraction of the reading (0.04 is ± 4 %); ``length`` in mm from the middle of
    its drive to the middle of the grip, None: never measured. ``usable_from`` is the share of its
    maximum its maker vouches for; 20 % where nothing else is said; ``calibration`` what is to be known of
    it, in words: when it was, and that it is past.

    Raises CoreError ``torque.wrench`` for a scale that cannot be: no step, no top, ends swapped.
    """

    id: str
    name: str
    unit: str
    low: Decimal
    high: Decimal
    resolution: Decimal
    accuracy: Decimal
    simulated: bool = False
    length: Decimal | None = None
    usable_from: Decimal = USABLE_FROM
    calibration: str = ""

    def __post_init__(self) -> None:
        super().__post_init__()
        numbers = (self.low, self.high, self.resolution, self.accuracy, self.usable_from)
        known = [*numbers, *([self.length] if self.length is not None else [])]
        if self.unit not in UNITS or not all(n.is_finite() and n >= 0 for n in known):
            raise CoreError("torque.wrench", text=self.name)
        if not self.resolution or not self.high or self.low > self.high or self.usable_from > 1:
            raise CoreError("torque.wrench", text=self.name)


@dataclass(frozen=True)
class Setting(Sound):
    """A torque to aim at, N·m, with its why."""

    value: Decimal
    reasons: tuple[Reason, ...]


@dataclass(frozen=True, kw_only=True)
class WrenchSetting(Sound):
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


FEWEST_SCREWS, MOST_SCREWS = 2, 24
FIRST_PASS = Decimal("0.5")  # of the torque, before all of it [trade]


@guarded
def ring_order(count: int, pattern: str = "") -> tuple[int, ...]:
    """In what order ``count`` screws on a ring are pulled, by their numbers from 1 round the ring: a
    star, in which the next stands as far from the last as it goes. Odd: every (n − 1)/2-th; even:
    opposite pairs, the pairs in the order of n/2. ``as numbered``: one after the other. Common
    practice, no source.

    Raises CoreError ``torque.ring`` for fewer than 2 or more than 24.
    """
    if not FEWEST_SCREWS <= count <= MOST_SCREWS:
        raise CoreError("torque.ring", least=FEWEST_SCREWS, most=MOST_SCREWS)
    if pattern == "as numbered":
        return tuple(range(1, count + 1))
    return _star(count)


def _star(count: int) -> tuple[int, ...]:
    if count == 1:
        return (1,)
    half = count // 2
    if count % 2:
        return tuple(n * half % count + 1 for n in range(count))
    return tuple(one for first in _star(half) for one in (first, first + half))


OVER_SOFT, OVER_HARD = Decimal("1.1"), Decimal("1.2")  # of the top of the band [our definition]


@guarded
def overpulled(reading: Decimal, spec: TorqueSpec, soft: bool) -> bool:
    """Whether a thread has to be looked at before anything else: a ``reading`` (N·m, at the fastener)
    over the band's top by a tenth in ``soft`` material, by a fifth elsewhere [our definition]. Never of
    what no wrench sets."""
    if not spec.by_wrench or spec.high is None:
        return False
    return reading > spec.high * (OVER_SOFT if soft else OVER_HARD)


def _bounds(spec: TorqueSpec) -> tuple[Decimal, Decimal]:
    if spec.low is None or spec.high is None or not spec.by_wrench:
        raise CoreError("torque.no_wrench", text=spec.text)
    if not (spec.low.is_finite() and spec.high.is_finite()) or spec.low > spec.high:
        raise CoreError("number.unusable", name="torque")
    return spec.low, spec.high


def _third(low: Decimal, high: Decimal) -> Decimal:
    return low + (high - low) / 3


def setting(spec: TorqueSpec, school: School = "middle", sealed: bool = False) -> Setting:
    """The torque to aim at, N·m [trade]; of torque then turn, its first stage.

    A range is set to its middle, in aluminium too: the range was made for its material. In the
    school ``lower third`` it is set to ``lo + (hi − lo)/3``, which is suggested where the thread is
    oiled or ``sealed`` (less friction loads it more). A single manual value is never changed.
    Raises CoreError ``torque.no_wrench`` for hand-tight and turn specs.
    """
    low, high = _bounds(spec)
    written = show_range(low, high, spec.unit)
    if low == high:
        why = Reason("manual value", said.one_value(written), Source.MANUAL)
        return Setting(low, (why,))
    middle, third = (low + high) / 2, _third(low, high)
    if spec.form == "tolerance":
        text = said.inside_tolerance(show(middle, spec.unit))
        return Setting(middle, (Reason("manual value", text, Source.MANUAL),))
    if school == "lower third":
        text = said.lower_third(written, show(third, spec.unit))
        return Setting(third, (Reason("lower third", text, Source.TRADE),))
    text = said.middle(written, show(middle, spec.unit))
    reasons = [Reason("middle of range", text, Source.TRADE)]
    if sealed:
        text = said.sealed(show(third, spec.unit))
        reasons.append(Reason("lower third suggested", text, Source.TRADE))
    return Setting(middle, tuple(reasons))


def _usable(wrench: Wrench) -> tuple[Decimal, Decimal]:
    return max(wrench.low, wrench.high * wrench.usable_from), wrench.high


def wrench_usable(torque: Decimal, wrench: Wrench) -> bool:
    """Whether a torque (number of the wrench's own unit) lies where its scale is to be trusted:
    from its lower limit, usually 20 % of its maximum, to its maximum [std ISO 6789-1, memory]."""
    low, high = _usable(wrench)
    return torque.is_finite() and low <= torque <= high


def wrench_limit(kind: str, cls: str, largest: Decimal) -> int:
    """Greatest permissible deviation of a torque wrench, ± %, by type, class and largest torque in
    N·m (ISO 6789-1:2017, from memory: compare with the current edition).

    ``kind`` I indicating or II setting, ``cls`` its letter. Raises CoreError ``torque.wrench``.
    """
    limits = _DEVIATION.get((kind.upper(), cls.upper()))
    if limits is None or not largest.is_finite() or largest <= 0:
        raise CoreError("torque.wrench", text=f"{kind} {cls}")
    return limits[largest > _SMALL_WRENCH]


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


def scale_factor(
    wrench: Wrench, adapter: Decimal | None, angle: Decimal = Decimal(0)
) -> Decimal | None:
    """What a wrench's scale shows of the torque at the fastener, with an adapter of so many mm at an
    ``angle`` in degrees, 0 straight on from the handle; None where the wrench was never measured."""
    if adapter is None:
        return Decimal(1)
    if wrench.length is None:
        return None
    return adapter_setting(Decimal(1), wrench.length, adapter, angle)


def _why(
    wrench: Wrench, mark: Decimal, adapter: Decimal | None, angle: Decimal
) -> tuple[Reason, ...]:
    usable_low, usable_high = _usable(wrench)
    text = said.usable(wrench.name, usable_low, usable_high, wrench.unit, wrench.resolution, mark)
    why = Reason("ISO 6789 usable range", text, Source.STANDARD)
    if adapter is None:
        return (why,)
    return (
        why,
        Reason("T·L/(L + E·cos θ)", said.adapter(adapter, wrench.length, angle), Source.STANDARD),
    )


@remembered
def fitting_wrenches(
    spec: TorqueSpec,
    aim: Decimal,
    wrenches: Sequence[Wrench],
    adapter: Decimal | None = None,
    angle: Decimal = Decimal(0),
) -> tuple[WrenchSetting, ...]:
    """Every wrench that can set this, with its mark; nearest the middle of its scale first.

    ``aim`` is in N·m; ``adapter`` the mm a crow-foot adds, at an ``angle`` from straight on. A wrench is
    usable from 20 % to 100 % of its maximum [std ISO 6789-1:2017, from memory] and never below its
    lowest mark. Raises CoreError ``torque.no_wrench``, ``number.unusable``.
    """
    low, high = _bounds(spec)
    if not aim.is_finite():
        raise CoreError("number.unusable", name="aim")
    fitting = []
    for wrench in wrenches:
        factor = scale_factor(wrench, adapter, angle)
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
        span = usable_high - usable_low or usable_high
        off_middle = abs(mark - (usable_low + usable_high) / 2) / span
        found = WrenchSetting(
            wrench=wrench, scale=mark, reasons=_why(wrench, mark, adapter, angle), factor=factor
        )
        fitting.append((off_middle, wrench.id, found))
    return tuple(setting for _, _, setting in sorted(fitting, key=lambda row: row[:2]))


@guarded
def half_way(full: WrenchSetting, share: Decimal) -> WrenchSetting:
    """The same wrench for a first pass at a ``share`` of what it is set to: the mark nearest to that."""
    step = full.wrench.resolution
    mark = (full.scale * share / step).to_integral_value(ROUND_HALF_EVEN) * step
    return WrenchSetting(
        wrench=full.wrench, scale=mark, reasons=full.reasons, factor=full.factor * share
    )


def _lever(length: Decimal, extension: Decimal, angle: Decimal) -> Decimal:
    lever = float(length) + float(extension) * cos(radians(float(angle)))
    if length <= 0 or lever <= 0:
        raise CoreError("torque.adapter")
    return Decimal(lever)


@guarded
def adapter_setting(
    torque: Decimal, length: Decimal, extension: Decimal, angle: Decimal
) -> Decimal:
    """Setting for a wrench with an adapter: ``T·L/(L + E·cos θ)`` (moment balance).

    ``length`` L: drive centre to middle of the grip; ``extension`` E: drive centre to fastener;
    ``angle`` θ in degrees, 0 straight away from the grip. Same length unit for both.
    Raises CoreError ``torque.adapter`` if the lever would vanish.
    """
    return torque * length / _lever(length, extension, angle)


@guarded
def adapter_actual(
    setting: Decimal, length: Decimal, extension: Decimal, angle: Decimal
) -> Decimal:
    """The torque at the fastener when the wrench shows ``setting``: ``T·(L + E·cos θ)/L``; else as
    `adapter_setting`."""
    return setting * _lever(length, extension, angle) / length


@remembered
def judge(
    reading: Decimal, spec: TorqueSpec, accuracy: Decimal, soft: bool = False
) -> TorqueVerdict:
    """What a peak reading (N·m) means against the spec.

    *borderline* lies outside by no more than the wrench's accuracy (a fraction). A single value is
    met when the reading is within that accuracy of it. Raises CoreError ``torque.no_wrench``,
    ``number.unusable``.
    """
    low, high = _bounds(spec)
    if not (reading.is_finite() and accuracy.is_finite()):
        raise CoreError("number.unusable", name="reading")
    one_value = low == high
    if one_value:
        low, high = low * (1 - accuracy), high * (1 + accuracy)
    text = said.against(show(reading, spec.unit), show_range(low, high, spec.unit))
    reason = Reason("reading against spec", text, Source.MANUAL)

    def answer(verdict: Verdict, action: str) -> TorqueVerdict:
        return TorqueVerdict(verdict, action, (reason,))

    if low <= reading <= high:
        return answer("in", said.TORQUED)
    if not one_value and low * (1 - accuracy) <= reading <= high * (1 + accuracy):
        return answer("borderline", said.BORDERLINE)
    if reading < low:
        return answer("under", said.UNDER)
    if soft and reading > high * Decimal("1.1"):
        return answer("over", said.FAR_OVER)
    return answer("over", said.OVER)


def as_torque(text: str, unit: str | None = None) -> Decimal:
    """A typed reading in N·m. Raises CoreError as `quantity.parse` does, and ``quantity.one_value``."""
    measure = parse(text, Kind.TORQUE, unit if unit in UNITS else None)
    if measure.form != "single":
        raise CoreError("quantity.one_value", text=measure.text)
    return measure.low
