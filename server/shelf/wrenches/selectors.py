from decimal import Decimal

from oilward_core.people import TORQUES
from oilward_core.torque import is_past
from workshop.days import today

from shelf.mapping import wrench
from shelf.models import WrenchRow

from .shapes import WrenchCard, Wrenches, WrenchForm


def _plain(value: Decimal | None) -> str:
    return "" if value is None else f"{value.normalize():f}"


def card(row: WrenchRow) -> WrenchCard:
    known = wrench(row)
    low = max(known.low, known.usable_from * known.high)
    return WrenchCard(
        WrenchForm(
            id=row.pk,
            version=row.version,
            name=row.name,
            unit=row.unit,
            low=_plain(row.low),
            high=_plain(row.high),
            resolution=_plain(row.resolution),
            accuracy=_plain(row.accuracy * 100),
            length=_plain(row.length_mm),
            calibrated=row.calibrated_on.isoformat() if row.calibrated_on else "",
        ),
        f"{_plain(low)}–{_plain(row.high)} {row.unit}",
        row.simulated,
        known.calibration,
        is_past(row.calibrated_on, row.pulls, today()),
    )


def wrenches() -> Wrenches:
    """Every torque wrench of the workshop, as it was written down."""
    return Wrenches([card(row) for row in WrenchRow.objects.all()], list(TORQUES))
