"""Stand-ins for outside devices. They are simulated, and say so."""

import random
from decimal import Decimal
from typing import Protocol

from oilward_core.drained import USUAL_DENSITY
from oilward_core.kit import Size
from oilward_core.torque import Wrench


class TorqueSource(Protocol):
    """Anything that reports the peak of a pull, in N·m."""

    def peak(self, wrench: Wrench, aim: Decimal) -> Decimal: ...


class DrainScale(Protocol):
    """Anything that weighs a pan with oil and says how warm that is: grams with the pan, grams of the pan
    alone, °C."""

    def weigh(self, ml: Decimal) -> tuple[int, int, int]: ...


class PartsCounter(Protocol):
    """Anything that says in what sizes a fluid is sold, for how much, what a seal or a filter costs,
    and when it is there."""

    def sizes(self, name: str, bottle_ml: Decimal) -> tuple[Size, ...]: ...

    def price(self, name: str) -> Decimal: ...

    def available(self, name: str) -> str: ...


class SimulatedCounter:
    """A parts counter that makes its prices up, the same ones each time: its own bottle, and four of
    it in one can for less."""

    def sizes(self, name: str, bottle_ml: Decimal) -> tuple[Size, ...]:
        litre = 9 + sum(map(ord, name)) % 9
        one = (bottle_ml / 1000 * litre).quantize(Decimal("0.1"))
        return (
            Size(int(bottle_ml), one),
            Size(int(bottle_ml) * 4, (one * Decimal("3.5")).quantize(Decimal("0.1"))),
        )

    def price(self, name: str) -> Decimal:
        dear = 9 if name.startswith("filter") else 1
        return (Decimal(sum(map(ord, name)) % 30) / 10 + dear).quantize(Decimal("0.01"))

    def available(self, name: str) -> str:
        days = sum(map(ord, name)) % 4
        return f"in {days} days" if days > 1 else "tomorrow" if days else "at the counter"


class SimulatedWrench:
    """A digital wrench whose peaks scatter around the aim within its accuracy."""

    def __init__(self, rng: random.Random | None = None) -> None:
        self.rng = rng or random.Random()

    def peak(self, wrench: Wrench, aim: Decimal) -> Decimal:
        spread = float(wrench.accuracy) / 3
        return (aim * Decimal(str(round(self.rng.gauss(1.0, spread), 4)))).quantize(Decimal("0.1"))


class SimulatedScale:
    """A scale and a thermometer under a drain pan that should hold so much oil; a little of it stays in
    the bike."""

    PAN = 640
    HOT, SPREAD = 62, 6

    def __init__(self, rng: random.Random | None = None) -> None:
        self.rng = rng or random.Random()

    def weigh(self, ml: Decimal) -> tuple[int, int, int]:
        out = float(ml) * min(self.rng.gauss(0.985, 0.01), 1.0)
        grams = round(float(USUAL_DENSITY) / 1000 * out)
        return grams + self.PAN, self.PAN, round(self.rng.gauss(self.HOT, self.SPREAD))
