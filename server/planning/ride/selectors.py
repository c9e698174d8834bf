"""How far a bike sinks, by what was measured just now; nothing of it is kept."""

from decimal import Decimal
from typing import Literal
from uuid import UUID

from garage.selectors import reservoir_or_404
from oilward_core.progression import progression
from oilward_core.quantity import show, show_range
from oilward_core.ride import SagSaid, SagTyped, sag
from oilward_core.said.ride import BY_SHEET, COMMON, bottoms
from oilward_core.suspension import Sag, Window

from .shapes import ForceLine, GapAnswer, GapRead, SagAnswer, SagLine, SagRead


def _mm(value: float) -> Decimal:
    return Decimal(str(round(value, 1)))


def _line(who: Literal["bike", "rider"], found: Sag, window: Window, by_sheet: bool) -> SagLine:
    return SagLine(
        who=who,
        sag=show(_mm(found.sag), "mm"),
        apart=show(_mm(found.stiction), "mm"),
        window=show_range(_mm(window.low), _mm(window.high), "mm"),
        source=BY_SHEET if by_sheet else COMMON,
        right=window.holds(found.sag),
        mm=found.sag,
        low_mm=window.low,
        high_mm=window.high,
    )


def _answer(found: SagSaid, travel: Decimal) -> SagAnswer:
    static, rider = found.windows
    return SagAnswer(
        lines=[
            _line("bike", found.static, static, found.by_sheet[0]),
            _line("rider", found.rider, rider, found.by_sheet[1]),
        ],
        says=found.advice.says,
        words=found.words,
        rate=f"{found.rate:.2f} N/mm" if found.rate is not None else "",
        turn=show(_mm(found.turn), "mm") if found.turn is not None else "",
        travel_mm=float(travel),
    )


def gaps(bike_id: UUID, key: str, read: GapRead) -> GapAnswer:
    """What another gap does beside the sheet's. Raises as `oilward_core.progression.progression`."""
    found = progression(reservoir_or_404(bike_id, key), read.gap, read.sure)
    names = [show(_mm(gap), "mm") for gap in found.gaps]
    lines = [
        ForceLine(gap=name, strokes=list(found.strokes), forces=[round(one, 1) for one in forces])
        for name, forces in zip(names, found.forces, strict=True)
    ]
    return GapAnswer(
        lines=lines, words=bottoms(names[1], show(_mm(abs(found.later)), "mm"), found.later)
    )


def sags(bike_id: UUID, key: str, read: SagRead) -> SagAnswer:
    """What it says of one fork leg, or a shock. Raises as `oilward_core.ride.sag`."""
    reservoir = reservoir_or_404(bike_id, key)
    typed = SagTyped(
        free=read.free,
        bike_down=read.bike_down,
        bike_up=read.bike_up,
        rider_down=read.rider_down,
        rider_up=read.rider_up,
        weight=read.weight,
        sure=tuple(read.sure),
    )
    return _answer(sag(reservoir, typed, read.ridden), reservoir.ride.travel or Decimal(0))
