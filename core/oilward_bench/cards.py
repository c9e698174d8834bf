"""A wrench card, as the bench shows it."""

from oilward_core.bench import Speaker, TorqueCard
from oilward_core.codes.options import Stage
from oilward_core.quantity import convert, show, show_range
from oilward_core.spec import Fastener
from oilward_core.torque import WrenchSetting, ring_order

from .reasons import whys
from .shapes import RingShape, TorqueShape, WrenchShape


def _scale(chosen: WrenchSetting) -> str:
    return f"{chosen.scale.normalize():f} {chosen.wrench.unit}"


def _wrench(
    chosen: WrenchSetting, half: WrenchSetting | None, card: TorqueCard, manual: str
) -> WrenchShape:
    wrench = chosen.wrench
    unit = wrench.unit
    low, high = card.low * chosen.factor, card.high * chosen.factor
    return WrenchShape(
        id=wrench.id,
        name=wrench.name,
        unit=unit,
        setting=_scale(chosen),
        converted="" if unit == manual and chosen.factor == 1 else show_range(low, high, unit),
        scale_low=float(wrench.low),
        scale_high=float(wrench.high),
        band_low=float(convert(low, unit)),
        band_high=float(convert(high, unit)),
        mark=float(chosen.scale),
        simulated=wrench.simulated,
        reasons=whys(chosen.reasons),
        half=_scale(half) if half else "",
        calibration=wrench.calibration,
    )


def _ring(card: TorqueCard, plug: Fastener) -> RingShape | None:
    if not plug.ring:
        return None
    following = {None: Stage.HALF, Stage.HALF: Stage.FULL, Stage.FULL: None}
    return RingShape(
        count=plug.count,
        order=list(ring_order(plug.count, plug.pattern)),
        next=following[card.stage],
    )


def torque_shape(
    card: TorqueCard | None, plug: Fastener | None, speaks: Speaker
) -> TorqueShape | None:
    """The wrench card of a fastener; None where no wrench sets it."""
    if card is None or plug is None or plug.torque is None:
        return None
    judged = card.verdict
    halves = card.half or (None,) * len(card.wrenches)
    return TorqueShape(
        manual=plug.torque.text,
        aim=show(card.aim.value, speaks.torque),
        reading="" if card.reading is None else show(card.reading, speaks.torque),
        verdict=judged.verdict if judged else "",
        action=judged.action if judged else "",
        wrenches=[
            _wrench(chosen, half, card, plug.torque.unit)
            for chosen, half in zip(card.wrenches, halves, strict=True)
        ],
        reasons=whys(card.aim.reasons),
        ring=_ring(card, plug),
        ticked=list(card.ticked),
        pulled=card.pulled,
        second=card.second,
    )
