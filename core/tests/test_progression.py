"""What another air gap does to a leg: the tables' values, the gas's own law by another way."""

from dataclasses import replace
from decimal import Decimal
from unittest import TestCase

from oilward_core.codes.suspension import LegKind
from oilward_core.errors import CoreError, Question
from oilward_core.progression import progression
from oilward_core.spec import LegSpec, ReservoirSpec
from scipy.integrate import quad

from .test_fork import leg


def spec(**more: Decimal | None) -> ReservoirSpec:
    """43 tube, 39 bore, travel 130, gap 110, springs 8.5 N/mm."""
    told = {
        "seal": Decimal(43), "bore": Decimal(39), "travel": Decimal(130), "rate": Decimal("8.5"),
        "preload": Decimal(10), **more,
    }  # fmt: skip
    own = leg(0).reservoir
    ride = replace(own.ride, pitch=Decimal("1.5"))
    made = LegSpec(kind=LegKind.DAMPER_ROD, **told)  # type: ignore[arg-type]
    return replace(own, leg=made, air_gap=Decimal(110), ride=ride)


class ProgressionTests(TestCase):
    def test_the_tables_forces(self) -> None:
        """1378 N at 120 mm and gap 110, 1400 N at gap 100: n 1.2, preload 15 mm [worked example]."""
        found = progression(spec(), "100")
        for at, forces in ((1378, found.forces[0]), (1400, found.forces[1])):
            near = [(abs(stroke - 120), n) for n, stroke in enumerate(found.strokes)]
            off, n = min(near)
            self.assertLessEqual(off, 2.7)
            below, above = sorted((forces[n - 1], forces[n + 1]))
            self.assertLess(below, at)
            self.assertGreater(above, at)

    def test_less_gap_carries_it_earlier(self) -> None:
        """What gap 110 carries at 125 mm, gap 100 carries at 123.2."""
        self.assertAlmostEqual(progression(spec(), "100").later, 123.2 - 125, delta=0.05)
        self.assertGreater(progression(spec(), "120").later, 0)
        self.assertAlmostEqual(progression(spec(), "110").later, 0, delta=0.01)

    def test_its_force_is_what_its_pressure_rises_by(self) -> None:
        """The integral of dP/dx over the stroke, by another library's quadrature."""
        found = progression(spec(rate=Decimal(0)), "100")
        area = 3.141592653589793 / 4 * 43**2
        volume = 3.141592653589793 / 4 * 39**2 * 110 + area * 130
        start = 0.101325
        rise, _ = quad(
            lambda x: start * 1.2 * area * volume**1.2 / (volume - area * x) ** 2.2, 0, 130
        )
        self.assertAlmostEqual(found.forces[0][-1], rise * area, delta=0.5)

    def test_bad_input_has_its_sentence(self) -> None:
        for told, typed, code in (
            (spec(), "", None),
            (spec(), "-10", None),
            (spec(), "200", "suspension.gap"),
            (spec(bore=None), "100", "progression.missing"),
            (replace(spec(), air_gap=None), "100", "progression.no_gap"),
        ):
            with self.subTest(typed=typed, code=code), self.assertRaises(CoreError) as refused:
                progression(told, typed)
            if code:
                self.assertEqual(refused.exception.code, code)
        with self.assertRaises(Question) as asked:
            progression(spec(), "10")  # centimetres
        self.assertIn("100 mm", str(asked.exception.fields["options"]))
