"""What a sheet says of how a bike rides on its springs: travel, sag, preload, and a shock's gas."""

from dataclasses import dataclass
from decimal import Decimal

from ..guard import Sound

AT_VALVE, SPECIALISTS = "at its valve", "by a specialist alone"


@dataclass(frozen=True, kw_only=True)
class RideSpec(Sound):
    """Of a fork leg or a shock. Lengths in mm: ``travel`` at the wheel, ``stroke`` of the spring itself,
    ``pitch`` of a turn of preload, between which two the bike sinks alone (``static``) and under its
    rider. ``gas`` as charged at 20 °C, kPa; ``gas_read``: whether its pressure may be read at its valve.
    None: it does not say."""

    travel: Decimal | None = None
    stroke: Decimal | None = None
    pitch: Decimal | None = None
    static: tuple[Decimal, Decimal] | None = None
    rider: tuple[Decimal, Decimal] | None = None
    gas: Decimal | None = None
    gas_read: bool = False


NO_RIDE = RideSpec()
