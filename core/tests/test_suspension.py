"""Fork legs and shocks, against tables worked out by hand, the gas's own law and a reference library."""

from math import pi
from unittest import TestCase

from CoolProp.CoolProp import PropsSI
from hypothesis import given
from hypothesis import strategies as st
from oilward_core.codes.suspension import Ridden, SagSays
from oilward_core.errors import CoreError
from oilward_core.fluid.viscosity import TwoPoint, share_of_thicker, viscosity_at
from oilward_core.suspension import (
    AirSpring,
    Apart,
    Bore,
    Filled,
    FreeLength,
    Leg,
    Lengths,
    Sag,
    Turns,
    Window,
    advised,
    air_pressure,
    apart,
    at_the_wheel,
    force,
    gap_after,
    height_of,
    off_book,
    over_filled,
    pressure_at,
    rate_for,
    renew_both,
    rider_window,
    sag_of,
    static_window,
    stroke_for,
    to_draw,
    volume_of,
    worn,
)
from scipy.integrate import solve_ivp

BORES = st.builds(
    lambda inner, share: Bore(inner=inner, rod=inner * share),
    st.floats(20, 60),
    st.floats(0, 0.7),
)


def tube(gap: float) -> AirSpring:
    return AirSpring(seal=43, inner=39, gap=gap, travel=130)


class RefusedCase(TestCase):
    def refused(self, code: str, make: object) -> None:
        with self.assertRaises(CoreError) as raised:
            make()  # type: ignore[operator]
        self.assertEqual(raised.exception.code, code)


class OilTests(RefusedCase):
    def test_ten_millimetres_of_level(self) -> None:
        self.assertAlmostEqual(volume_of(10, Bore(inner=39)), 11.95, places=2)
        self.assertAlmostEqual(volume_of(10, Bore(inner=39, rod=12)), 10.81, places=2)
        self.assertAlmostEqual(over_filled(450, Bore(inner=39)), 461.95, places=2)

    def test_what_is_drawn(self) -> None:
        self.assertAlmostEqual(to_draw(97, 110, Bore(inner=39)), 15.5, places=1)
        self.assertAlmostEqual(to_draw(120, 110, Bore(inner=39)), -11.95, places=2)

    @given(BORES, st.floats(5, 250), st.floats(20, 250), st.sampled_from([0.5, 1.0, 2.0, 5.0]))
    def test_drawn_by_a_jug_it_is_right_within_half_of_what_the_jug_reads(
        self, bore: Bore, read: float, wanted: float, jug: float
    ) -> None:
        drawn = round(to_draw(read, wanted, bore) / jug) * jug
        off = abs(gap_after(read, drawn, bore) - wanted)
        self.assertLessEqual(off, max(0.5, height_of(jug / 2, bore) + 1e-9))

    @given(BORES, st.floats(0.1, 300))
    def test_volume_to_gap_to_volume_is_the_same(self, bore: Bore, volume: float) -> None:
        self.assertAlmostEqual(volume_of(height_of(volume, bore), bore), volume, places=9)

    def test_two_legs_side_by_side(self) -> None:
        def leg(gap: float, poured: float) -> Filled:
            return Filled(gap=gap, poured=poured)

        self.assertEqual(apart(leg(110, 450), leg(112, 455)).gap, 0)
        self.assertEqual(apart(leg(110, 450), leg(112.5, 450)).gap, 2.5)
        found = apart(leg(110, 450), leg(111, 443))
        self.assertEqual((found.gap, found.poured), (0, -7))

    def test_what_one_sheet_alone_gives_is_not_held_against_the_other_leg(self) -> None:
        known = Filled(gap=110, poured=450, book_gap=110, book_poured=450)
        self.assertEqual(apart(known, Filled(gap=140, poured=200)), Apart(gap=0.0, poured=0.0))
        by_gap = Filled(gap=110, poured=200, book_gap=110)
        self.assertEqual(apart(by_gap, known).poured, 0)

    @given(st.floats(50, 200), st.floats(50, 200), st.floats(100, 900), st.floats(100, 900))
    def test_equal_by_their_own_sheets_they_are_never_called_unequal(
        self, gap: float, other: float, book: float, more: float
    ) -> None:
        legs = (
            Filled(gap=g, poured=b, book_gap=g, book_poured=b)
            for g, b in ((gap, book), (other, more))
        )
        found = apart(*legs)
        self.assertAlmostEqual(found.gap, 0)
        self.assertAlmostEqual(found.poured, 0)

    def test_an_amount_off_the_book_at_the_right_gap_asks_why(self) -> None:
        def off(gap: float, poured: float) -> float:
            return off_book(Filled(gap=gap, poured=poured, book_gap=110, book_poured=450))

        self.assertEqual(off(110, 470), 0)
        self.assertAlmostEqual(off(111, 420), -0.0667, places=3)
        self.assertEqual(off(120, 420), 0)

    def test_what_no_leg_is(self) -> None:
        self.refused("suspension.rod", lambda: Bore(inner=39, rod=39))
        self.refused("suspension.bore", lambda: Bore(inner=0))
        self.refused("suspension.gap", lambda: to_draw(97, 0, Bore(inner=39)))
        self.refused("suspension.gap", lambda: tube(0))
        self.refused("suspension.gap", lambda: tube(131))
        self.refused("suspension.amount", lambda: over_filled(0, Bore(inner=39)))


class AirTests(RefusedCase):
    def test_a_common_legs_air(self) -> None:
        for gap, volume, pressures in (
            (110, 320.2, (2.223, 2.602, 3.044)),
            (100, 308.3, (2.331, 2.754, 3.253)),
        ):
            self.assertAlmostEqual(tube(gap).volume, volume, delta=0.06)
            for n, bar in zip((1.0, 1.2, 1.4), pressures, strict=True):
                self.assertAlmostEqual(air_pressure(tube(gap), 120, n), bar, places=3)

    def test_force_and_what_another_gap_carries(self) -> None:
        legs = {gap: Leg(air=tube(gap), rate=8.5, preload=15) for gap in (110, 100)}
        self.assertAlmostEqual(force(legs[110], 120, 1.2), 1378, delta=0.5)
        self.assertAlmostEqual(force(legs[100], 120, 1.2), 1400, delta=0.5)
        carried = force(legs[110], 125, 1.2)
        self.assertAlmostEqual(stroke_for(legs[100], carried, 1.2), 123.2, places=1)
        self.assertEqual(stroke_for(legs[110], 1e6, 1.2), 130)

    def test_the_law_is_what_its_slope_adds_up_to(self) -> None:
        """dP/dx = nPA/(V₀ − Ax), integrated by scipy from the start of the stroke."""
        for gap, n in ((110, 1.0), (100, 1.4), (60, 1.2)):
            air = AirSpring(seal=43, inner=39, gap=gap, travel=130, pressure=0.5)
            area = pi / 4 * 43**2 / 1000

            def slope(
                x: float, p: list[float], air: AirSpring = air, n: float = n, a: float = area
            ):  # type: ignore[no-untyped-def]
                return [n * p[0] * a / (air.volume - a * x)]

            found = solve_ivp(slope, (0, 115), [1.51325], rtol=1e-9, atol=1e-9).y[0][-1]
            self.assertAlmostEqual(air_pressure(air, 115, n), found, places=6)

    def test_a_closed_gas_over_temperature(self) -> None:
        self.assertAlmostEqual(pressure_at(10.5, 20, 5), 9.91, places=2)
        self.assertAlmostEqual(pressure_at(10, 20, 60), 11.50, places=2)
        self.assertAlmostEqual(pressure_at(10, 20, 8), 9.55, places=2)

    def test_nitrogen_itself_is_within_half_a_percent(self) -> None:
        """CoolProp's equation of state of nitrogen, at the density it has at 10 bar gauge and 20 °C."""
        density = PropsSI("D", "P", 11.01325e5, "T", 293.15, "Nitrogen")
        for now, told in ((60, 11.54), (8, 9.54)):
            real = PropsSI("P", "D", density, "T", now + 273.15, "Nitrogen") / 1e5 - 1.01325
            self.assertAlmostEqual(real, told, places=2)
            self.assertLess(abs(pressure_at(10, 20, now) / real - 1), 0.005)

    def test_what_no_air_is(self) -> None:
        self.refused("suspension.stroke", lambda: air_pressure(tube(10), 139, 1.2))
        self.refused("suspension.exponent", lambda: air_pressure(tube(110), 50, 1.5))
        self.refused("suspension.pressure", lambda: pressure_at(-0.1, 20, 5))
        self.refused("suspension.temperature", lambda: pressure_at(10, 20, -274))
        self.refused(
            "suspension.pressure",
            lambda: AirSpring(seal=43, inner=39, gap=1, travel=9, pressure=-1),
        )
        self.refused(
            "suspension.no_room", lambda: AirSpring(seal=43, inner=39, gap=1, travel=9, spring=99)
        )
        self.refused(
            "suspension.force", lambda: stroke_for(Leg(air=tube(110), rate=8, preload=15), 1, 1.2)
        )


class SagTests(RefusedCase):
    def test_what_a_tape_says(self) -> None:
        static = sag_of(Lengths(free=620, down=606, up=602))
        rider = sag_of(Lengths(free=620, down=588, up=583))
        self.assertEqual((static.sag, static.stiction), (16, 4))
        self.assertEqual((rider.sag, rider.stiction), (34.5, 5))
        self.assertAlmostEqual(rate_for(80, 0.45, rider.sag - static.sag, 2), 9.54, places=2)

    def test_turns_at_the_wheel(self) -> None:
        self.assertAlmostEqual(at_the_wheel(2, Turns(pitch=1.5, lever=140 / 62)), 6.8, places=1)

    def test_windows_of_the_travel(self) -> None:
        self.assertEqual(rider_window(120, Ridden.ROAD), Window(low=30, high=39.6))
        self.assertEqual(rider_window(300, Ridden.OFF_ROAD), Window(low=90, high=108))
        self.assertEqual(static_window(120), Window(low=6, high=18))

    def says(self, static: float, rider: float, stiction: float = 4) -> SagSays:
        windows = (Window(low=6, high=18), Window(low=30, high=40))
        alone = Sag(sag=static, stiction=2)
        return advised(alone, Sag(sag=rider, stiction=stiction), windows, 120).says

    def test_what_follows(self) -> None:
        for static, rider, stiction, says in (
            (12, 35, 4, SagSays.RIGHT),
            (4, 35, 4, SagSays.STIFFER),
            (20, 35, 4, SagSays.SOFTER),
            (12, 45, 4, SagSays.PRELOAD),
            (4, 25, 4, SagSays.PRELOAD),
            (4, 35, 10.5, SagSays.STICTION),
        ):
            with self.subTest(static=static, rider=rider):
                self.assertEqual(self.says(static, rider, stiction), says)

    def test_by_how_many_turns(self) -> None:
        windows = (Window(low=6, high=18), Window(low=30, high=40))
        found = advised(
            Sag(sag=15, stiction=2),
            Sag(sag=44, stiction=3),
            windows,
            120,
            Turns(pitch=1.5, lever=2),
        )
        self.assertEqual((found.says, found.turns), (SagSays.PRELOAD, 3))

    def test_what_no_sag_is(self) -> None:
        self.refused("suspension.sag_below", lambda: sag_of(Lengths(free=600, down=610, up=606)))
        self.refused("suspension.sag_over", lambda: self.says(12, 121))
        self.refused("suspension.sag_order", lambda: self.says(40, 35))
        self.refused("suspension.weight", lambda: rate_for(80, 1.2, 18, 2))
        self.refused("suspension.turns", lambda: Turns(pitch=0))
        self.refused("suspension.travel", lambda: static_window(0))


class SpringTests(RefusedCase):
    book = FreeLength(new=350, limit=343)

    def test_its_way_from_new_to_its_limit(self) -> None:
        self.assertEqual(worn(350, self.book), 0)
        self.assertEqual(worn(343, self.book), 1)
        self.assertAlmostEqual(worn(348.25, self.book), 0.25)

    def test_a_pair_is_renewed_or_stays(self) -> None:
        for first, second, both in ((349, 348, False), (349, 342.9, True), (350, 347.5, True)):
            self.assertEqual(renew_both(first, second, self.book), both)

    def test_what_no_spring_is(self) -> None:
        self.refused("suspension.limit", lambda: FreeLength(new=343, limit=350))
        self.refused("suspension.length", lambda: worn(0, self.book))


class OilForItTests(RefusedCase):
    def test_blended_and_as_it_stands_in_the_cold(self) -> None:
        self.assertAlmostEqual(share_of_thicker(16, 36, 26.5), 0.648, places=3)
        oil = TwoPoint(t1=40, v1=26.5, t2=100, v2=5.9)
        self.assertAlmostEqual(viscosity_at(oil, 25), 46.95, places=1)
        self.refused("fluid.out_of_reach", lambda: share_of_thicker(16, 36, 40))
