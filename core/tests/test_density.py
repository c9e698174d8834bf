"""Density over temperature, against API MPMS 11.1 as tabulated (derived, two routes)."""

from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st
from oilward_core.errors import CoreError
from oilward_core.fluid import density15_from, density_at, volume_at, volume_correction

# rows ρ₁₅ in kg/m³, columns °C; API MPMS 11.1 generalized lubricating oils, tolerance 0.00003
AT = (-10, 0, 20, 40, 60, 80, 90, 100, 120)
GRID = {
    850: (1.01836, 1.01104, 0.99630, 0.98144, 0.96646, 0.95137, 0.94379, 0.93619, 0.92094),
    870: (1.01794, 1.01079, 0.99639, 0.98187, 0.96723, 0.95250, 0.94510, 0.93768, 0.92278),
    900: (1.01734, 1.01043, 0.99651, 0.98247, 0.96833, 0.95410, 0.94695, 0.93978, 0.92539),
}


class DensityTests(TestCase):
    def test_the_table_is_reproduced(self) -> None:
        for rho15, row in GRID.items():
            for t, factor in zip(AT, row, strict=True):
                with self.subTest(rho15=rho15, t=t):
                    self.assertAlmostEqual(volume_correction(rho15, t), factor, delta=0.00003)

    def test_worked_values(self) -> None:
        self.assertAlmostEqual(volume_at(3.40, 20, 90, 870), 3.585, places=3)
        self.assertAlmostEqual(volume_at(3.40, 90, 20, 870), 3.225, places=3)
        self.assertAlmostEqual(density_at(870, 90), 822.24, places=2)
        self.assertAlmostEqual(density15_from(862, 20), 865.14, places=2)

    @given(st.floats(820, 950), st.floats(-20, 120))
    def test_weighing_at_any_temperature_gives_the_same_oil(self, rho15: float, t: float) -> None:
        self.assertAlmostEqual(density15_from(density_at(rho15, t), t), rho15, places=3)

    def test_what_is_no_oil_is_refused(self) -> None:
        with self.assertRaises(CoreError):
            volume_correction(1300, 20)
