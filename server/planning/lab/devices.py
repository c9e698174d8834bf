"""A stand-in for an oil laboratory. It is simulated, and says so."""

from decimal import Decimal
from random import Random
from typing import Protocol


class OilLaboratory(Protocol):
    """Anything that answers a sample: values by the names of the open format."""

    def analyse(self, label: str, km_on_oil: Decimal | None) -> dict[str, Decimal]: ...


class SimulatedLaboratory:
    """Makes a report up, the same one for the same label: iron and copper grow with the distance."""

    PER_1000 = (("Fe", 6.0), ("Al", 1.2), ("Cu", 1.5), ("Cr", 0.4), ("Si", 1.8), ("Pb", 0.5))
    ALWAYS = (("Na", 4.0), ("K", 2.0), ("B", 60.0), ("Mo", 30.0), ("Sn", 0.5))

    def analyse(self, label: str, km_on_oil: Decimal | None) -> dict[str, Decimal]:
        dice = Random(label)
        thousands = float(km_on_oil or 0) / 1000
        found = {name: dice.gauss(rate * thousands, 0.3 * rate) for name, rate in self.PER_1000}
        found |= {name: dice.gauss(value, 0.1 * value) for name, value in self.ALWAYS}
        found["kv100"] = dice.gauss(13.6 if km_on_oil else 14.4, 0.25)
        found["water"], found["fuel"] = dice.uniform(0, 0.06), dice.uniform(0, 1.2)
        found["p4"] = dice.lognormvariate(7.6, 0.4)
        found["p6"] = found["p4"] * dice.uniform(0.15, 0.3)
        found["p14"] = found["p6"] * dice.uniform(0.08, 0.16)
        return {name: Decimal(str(round(max(value, 0.0), 2))) for name, value in found.items()}
