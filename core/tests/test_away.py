"""A part that is with a specialist: its tag, when it is late, what counts as a rebuild, its gas."""

from dataclasses import replace
from datetime import date, timedelta
from decimal import Decimal
from unittest import TestCase
from uuid import uuid4

from oilward_core.away import (
    check_back_by,
    check_came,
    is_overdue,
    is_rebuild,
    part_of,
    read_gas,
    tag_of,
    todays,
)
from oilward_core.bench import OffBike, Status
from oilward_core.codes.away import Came, Part
from oilward_core.codes.suspension import LegKind
from oilward_core.errors import CoreError, Question

from .clerk import BRAKE, SHOCK, Clerk
from .test_fork import act, leg

DAY = date(2026, 3, 2)


class TagTests(TestCase):
    def test_it_is_made_from_the_leaving_and_no_letter_is_taken_for_another(self) -> None:
        one = "2f0c3f6e-8d7b-4a52-9c51-0a1b2c3d4e5f"
        self.assertEqual(tag_of(one), tag_of(one))
        tags = {tag_of(str(uuid4())) for _ in range(400)}
        self.assertGreater(len(tags), 390)
        self.assertFalse(set("".join(tags)) & set("01ILOU"))

    def test_what_a_specialist_opens_of_a_reservoir(self) -> None:
        self.assertEqual(part_of(SHOCK.reservoir), Part.SHOCK)
        self.assertIsNone(part_of(BRAKE.reservoir))
        self.assertIsNone(part_of(leg(0, kind=LegKind.OPEN_CARTRIDGE).reservoir))
        sealed = leg(0, kind=LegKind.SEALED_CARTRIDGE)
        self.assertEqual(part_of(sealed.reservoir), Part.CARTRIDGE)


class TimeTests(TestCase):
    def test_it_is_overdue_from_the_day_after(self) -> None:
        self.assertFalse(is_overdue(DAY, DAY))
        self.assertTrue(is_overdue(DAY, DAY + timedelta(days=1)))

    def test_a_day_that_is_over_or_far_off_is_refused(self) -> None:
        check_back_by(DAY, DAY)
        for days, code in ((-1, "away.past"), (400, "away.far")):
            with self.assertRaises(CoreError) as refused:
                check_back_by(DAY + timedelta(days=days), DAY)
            self.assertEqual(
                (refused.exception.code, refused.exception.fields["field"]), (code, "back_by")
            )


class CameTests(TestCase):
    def test_only_what_was_opened_is_a_rebuild(self) -> None:
        rebuilt = {came for came in Came if is_rebuild(Part.SHOCK, came)}
        self.assertEqual(rebuilt, {Came.REBUILT, Came.EXCHANGED})
        self.assertFalse(any(is_rebuild(Part.CARTRIDGE, came) for came in Came))

    def test_what_was_done_has_its_paper_and_a_rebuild_its_oil(self) -> None:
        check_came(Part.SHOCK, Came.AS_IT_WENT, "", "")
        check_came(Part.SHOCK, Came.REBUILT, "light shock oil", "bill 12")
        for came, oil, paper, code in (
            (Came.REBUILT, "oil", " ", "away.paper"),
            (Came.CHARGED, "", "", "away.paper"),
            (Came.REBUILT, " ", "bill 12", "away.oil"),
        ):
            with self.assertRaises(CoreError) as refused:
                check_came(Part.SHOCK, came, oil, paper)
            self.assertEqual(refused.exception.code, code)


class GasTests(TestCase):
    def test_todays_figure_is_by_the_gas_law(self) -> None:
        """Absolute pressure goes as absolute temperature [std: ideal gas]; 10.5 bar at 20 °C and 10 bar,
        worked out by hand."""
        for charged, celsius, reads in (
            ("1050", "5", "991.1"),
            ("1000", "60", "1150.3"),
            ("1000", "8", "954.9"),
        ):
            found = todays(Decimal(charged), Decimal(celsius))
            self.assertAlmostEqual(found, Decimal(reads), delta=Decimal("0.6"))

    def asked(
        self, pressure: str, temperature: str, charged: Decimal | None = Decimal(1000)
    ) -> CoreError:
        with self.assertRaises(CoreError) as refused:
            read_gas(pressure, temperature, Decimal(1000))
        return refused.exception

    def test_within_half_a_bar_of_it_nothing_is_asked(self) -> None:
        found = read_gas("9.1 bar", "8", Decimal(1000))
        assert found is not None
        self.assertEqual((found.pressure, found.celsius), (Decimal(910), Decimal(8)))
        self.assertIsNone(read_gas(" ", "", Decimal(1000)))

    def test_further_off_it_goes_to_the_specialist(self) -> None:
        far = self.asked("8.9 bar", "8")
        self.assertEqual((far.code, far.fields["field"]), ("expected.far", "pressure"))
        self.assertIn("back to the specialist", far.fields["meaning"])
        self.assertIsNotNone(read_gas("8.9 bar", "8", Decimal(1000), [far.fields["sure"]]))

    def test_a_bare_number_that_fits_only_as_another_unit_is_asked(self) -> None:
        psi = self.asked("145", "20")
        self.assertEqual((psi.code, psi.fields["options"][0]), ("expected.slip", "145 psi"))
        kelvin = self.asked("10 bar", "293")
        self.assertEqual(kelvin.code, "measure.unlikely")
        self.assertEqual(kelvin.fields["options"][0], "293 K")
        self.assertIsNotNone(read_gas("10 bar", "293 K", Decimal(1000)))

    def test_what_is_no_pressure_is_said(self) -> None:
        for pressure, temperature, code, field in (
            ("10 bar", "", "away.temperature_missing", "temperature"),
            ("-1 bar", "20", None, "pressure"),
            ("ten", "20", None, "pressure"),
            ("10 bar", "warm", None, "temperature"),
        ):
            refused = self.asked(pressure, temperature)
            self.assertEqual(refused.fields["field"], field)
            if code:
                self.assertEqual(refused.code, code)
            self.assertNotIsInstance(refused, Question)


class WithoutItTests(TestCase):
    def test_nothing_is_signed_as_if_it_were_there(self) -> None:
        away = (OffBike(reservoir="shock", words="shock is away, at a specialist, tag K7QD"),)
        clerk = Clerk(BRAKE)
        clerk.plan = replace(clerk.plan, away=away)
        while clerk.sheet.focus:
            act(clerk, clerk.sheet.focus)
        state = clerk.state("finish")
        self.assertEqual(state.status, Status.BLOCKED)
        self.assertEqual(state.unmet[0].code, "away:shock")
        self.assertIn("ridden by nobody", state.unmet[0].words)

    def test_nothing_is_seen_of_what_is_not_there(self) -> None:
        away = (OffBike(reservoir="shock", words="shock is away, at a specialist, tag K7QD"),)
        clerk = Clerk(SHOCK)
        clerk.plan = replace(clerk.plan, away=away)
        while clerk.sheet.focus:
            act(clerk, clerk.sheet.focus)
        for step in ("shock/shock felt", "shock/look"):
            self.assertEqual(clerk.state(step).status, Status.BLOCKED)
        self.assertIn("tag K7QD", clerk.state("shock/shock felt").unmet[0].words)
