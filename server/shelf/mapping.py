"""Between the shelf's rows and the core."""

from oilward_core.torque import Wrench

from .models import WrenchRow


def wrench(row: WrenchRow) -> Wrench:
    return Wrench(
        str(row.pk),
        row.name,
        row.unit,
        row.low,
        row.high,
        row.resolution,
        row.accuracy,
        row.simulated,
    )


def wrenches() -> tuple[Wrench, ...]:
    return tuple(wrench(row) for row in WrenchRow.objects.all())
