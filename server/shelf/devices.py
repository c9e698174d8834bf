"""Stand-ins for outside devices. They are simulated, and say so."""

import random
from decimal import Decimal
from typing import Protocol

from oilward_core.torque import Wrench


class TorqueSource(Protocol):
    """Anything that reports the peak of a pull, in N·m."""

    def peak(self, wrench: Wrench, aim: Decimal) -> Decimal: ...


class SimulatedWrench:
    """A digital wrench whose peaks scatter around the aim within its accuracy."""

    def __init__(self, rng: random.Random | None = None) -> None:
        self.rng = rng or random.Random()

    def peak(self, wrench: Wrench, aim: Decimal) -> Decimal:
        spread = float(wrench.accuracy) / 3
        return (aim * Decimal(str(round(self.rng.gauss(1.0, spread), 4)))).quantize(Decimal("0.1"))
