"""Which fluid goes where, what a school may vouch for, and starting in the cold.

JASO T903, API 1509 and API 1560 are recalled, not opened; so are the SAE tables behind the grades.
"""

from dataclasses import replace
from decimal import Decimal
from unittest import TestCase

from oilward_core.codes.schools import Practice
from oilward_core.errors import CoreError
from oilward_core.fluid import (
    Fit,
    Offer,
    TwoPoint,
    check_family,
    climate,
    hot_band,
    labelled,
    match,
    read_dot,
    read_friction,
    read_gear_services,
    read_grades,
)
from oilward_core.schools import FLUID, Choice, Schools
from oilward_core.spec import NO_CLUTCH, Requirement
from oilward_core.spec import ReservoirKind as R

ENGINE = Offer(
    name="Amber",
    family="engine",
    grade="20W-50",
    kv40=158.0,
    kv100=18.4,
    friction="MA2",
    service="API SL",
    base="mineral",
)
GEAR = Offer(
    name="Cogwork",
    family="gear",
    grade="75W-90",
    kv40=98.0,
    kv100=15.1,
    friction="",
    service="API GL-4",
    base="synthetic",
)
ATF = Offer(name="Slip", family="transmission", service="ATF")
HYPOID = Offer(
    name="Crownwheel",
    family="gear",
    grade="75W-90",
    kv40=104.0,
    kv100=15.6,
    friction="",
    service="API GL-5",
    base="synthetic",
)


def window(low: str, high: str) -> tuple[Decimal, Decimal]:
    """A viscosity window in cSt."""
    return Decimal(low), Decimal(high)


class MatchTests(TestCase):
    def fit(self, need: Requirement, kind: R, offer: Offer, *choices: Choice) -> tuple[Fit, str]:
        found = match(need, kind, offer, Schools(choices))
        return found.fit, found.reasons[0].text

    def test_each_rule_says_its_reason(self) -> None:
        wet = Requirement(grade="20W-50", friction="MA")
        for need, kind, offer, fit, word in (
            (wet, R.ENGINE, ENGINE, Fit.FITS, "all there"),
            (Requirement(grade="20W-50", friction="MA2"), R.ENGINE, ENGINE, Fit.FITS, "all there"),
            (Requirement(friction="MA1"), R.ENGINE, ENGINE, Fit.CAUTION, "takes up differently"),
            (
                wet,
                R.ENGINE,
                Offer(name="x", family="engine", grade="20W-50", friction="MB"),
                Fit.REFUSED,
                "slip",
            ),
            (
                wet,
                R.ENGINE,
                Offer(name="x", family="engine", grade="20W-50"),
                Fit.CAUTION,
                "no friction class",
            ),
            (
                wet,
                R.ENGINE,
                Offer(name="x", family="engine", grade="20W-50", service="SN Resource Conserving"),
                Fit.CAUTION,
                "friction",
            ),
            (Requirement(friction="MB"), R.ENGINE, ENGINE, Fit.CAUTION, "more drag"),
            (
                Requirement(grade="20W-50", friction=NO_CLUTCH),
                R.ENGINE,
                ENGINE,
                Fit.FITS,
                "all there",
            ),
            (Requirement(grade="10W-40"), R.ENGINE, ENGINE, Fit.CAUTION, "thicker at 100"),
            (Requirement(grade="15W-50"), R.ENGINE, ENGINE, Fit.CAUTION, "as thick at 100"),
            (Requirement(grade="SAE 60"), R.ENGINE, ENGINE, Fit.CAUTION, "thinner at 100"),
            (Requirement(grade="house blend"), R.ENGINE, ENGINE, Fit.CAUTION, "on the label."),
            (Requirement(service="API SN"), R.ENGINE, ENGINE, Fit.CAUTION, "older"),
            (Requirement(service="API SJ"), R.ENGINE, ENGINE, Fit.FITS, "all there"),
            (
                Requirement(service="API SJ"),
                R.ENGINE,
                Offer(name="x", family="engine", grade="20W-50"),
                Fit.CAUTION,
                "no API category",
            ),
            (Requirement(service="GL-5"), R.FINAL_DRIVE, GEAR, Fit.REFUSED, "hypoid"),
            (Requirement(service="GL-5"), R.FINAL_DRIVE, HYPOID, Fit.FITS, "all there"),
            (Requirement(service="GL-5"), R.GEARBOX, GEAR, Fit.CAUTION, "hypoid"),
            (Requirement(service="GL-4"), R.GEARBOX, HYPOID, Fit.CAUTION, "brass and bronze"),
            (Requirement(service="GL-4"), R.GEARBOX, ENGINE, Fit.CAUTION, "does not name it"),
            (Requirement(base="mineral"), R.GEARBOX, HYPOID, Fit.CAUTION, "Base mineral"),
            (Requirement(approval="HW 7"), R.ENGINE, ENGINE, Fit.CAUTION, "Approval HW 7"),
            (Requirement(service="ester"), R.ENGINE, ENGINE, Fit.CAUTION, "not named"),
            (Requirement(), R.FORK, ENGINE, Fit.REFUSED, "does not go into"),
            (Requirement(), R.ENGINE, ENGINE, Fit.FITS, "nothing in particular"),
        ):
            with self.subTest(need=str(need), offer=offer.name, word=word):
                found, said = self.fit(need, kind, offer)
                self.assertEqual(found, fit)
                self.assertIn(word, said)

    def test_another_trade_is_refused_unless_the_sheet_names_it(self) -> None:
        for need, kind, offer, fit in (
            (Requirement(grade="75W-90"), R.FINAL_DRIVE, ENGINE, Fit.REFUSED),
            (Requirement(grade="20W-50"), R.FINAL_DRIVE, ENGINE, Fit.FITS),
            (Requirement(grade="75W-90", service="GL-5"), R.GEARBOX, ENGINE, Fit.REFUSED),
            (Requirement(grade="10W-40"), R.ENGINE, GEAR, Fit.REFUSED),
            (Requirement(grade="75W-90"), R.ENGINE, GEAR, Fit.FITS),
            (Requirement(grade="75W-90"), R.CLUTCH_CIRCUIT, HYPOID, Fit.FITS),
            (Requirement(grade="DOT 4"), R.REAR_BRAKE, ENGINE, Fit.REFUSED),
            (Requirement(grade="20W-50"), R.GEARBOX, ENGINE, Fit.FITS),
            (
                Requirement(grade="15W"),
                R.SHOCK,
                Offer(name="f", family="fork", grade="15W"),
                Fit.FITS,
            ),
            # a fork whose sheet names what was made for something else
            (Requirement(grade="20W-50"), R.FORK, ENGINE, Fit.FITS),
            (Requirement(grade="10W-30"), R.FORK, ENGINE, Fit.REFUSED),
            (Requirement(service="ATF"), R.FORK, ATF, Fit.FITS),
            (Requirement(base="automatic transmission fluid"), R.FORK, ATF, Fit.CAUTION),
            (Requirement(grade="10W"), R.FORK, ATF, Fit.REFUSED),
            (Requirement(service="ATF"), R.GEARBOX, ATF, Fit.FITS),
            (Requirement(), R.GEARBOX, ATF, Fit.REFUSED),
            (Requirement(service="DOT 4"), R.FORK, ATF, Fit.REFUSED),
        ):
            with self.subTest(need=str(need), kind=kind, offer=offer.name):
                self.assertEqual(self.fit(need, kind, offer)[0], fit)

    def test_more_than_one_grade_too_thin_is_refused(self) -> None:
        for asked, label, kv100, fit in (
            ("20W-50", "10W-40", 14.0, Fit.CAUTION),
            ("20W-50", "10W-30", 10.5, Fit.REFUSED),
            ("20W-50", "10W-30", None, Fit.REFUSED),
            ("10W-40", "5W-20", None, Fit.REFUSED),
            ("10W-40", "20W-60", None, Fit.CAUTION),
            ("10W-40 or 10W-30", "10W-30", None, Fit.FITS),
            ("10W-40", "10W", None, Fit.CAUTION),
        ):
            with self.subTest(asked=asked, label=label, kv100=kv100):
                offer = Offer(name="x", family="engine", grade=label, kv40=None, kv100=kv100)
                self.assertEqual(self.fit(Requirement(grade=asked), R.ENGINE, offer)[0], fit)
        thin = Offer(name="x", family="gear", grade="75W-80", kv40=None, kv100=9.5)
        self.assertEqual(self.fit(Requirement(grade="75W-90"), R.GEARBOX, thin)[0], Fit.REFUSED)

    def test_labels_as_they_are_printed(self) -> None:
        for text, grades in (
            ("10W40", ["10W-40"]),
            ("SAE 10W/40", ["10W-40"]),
            ("sae 10 w 40", ["10W-40"]),
            ("20W-50 or 15W-50", ["20W-50", "15W-50"]),
            ("75W90", ["75W-90"]),
            ("SAE 50", ["SAE 50"]),
            ("10W", ["10W"]),
            ("house blend", []),
        ):
            with self.subTest(text):
                self.assertEqual([str(grade) for grade in read_grades(text)], grades)
        for text in ("GL5", "GL 5", "GL-5", "API gl-5"):
            self.assertEqual(read_gear_services(text), {"GL-5"})
        self.assertEqual(read_gear_services("GL-4/5"), {"GL-4", "GL-5"})
        for text in ("DOT4", "DOT-4", "dot 4"):
            self.assertEqual(read_dot(text), ("4",))
        self.assertEqual(read_friction("API SL, JASO MA-2"), "MA2")
        written = Offer(name="x", family="engine", grade="SAE 20W/50", service="JASO MA2, API SL")
        self.assertEqual(
            self.fit(Requirement(grade="20W50", friction="MA2"), R.ENGINE, written)[0], Fit.FITS
        )
        need, offer = Requirement(grade="75W90", service="GL 4"), replace(GEAR, service="GL4")
        self.assertEqual(self.fit(need, R.GEARBOX, offer)[0], Fit.FITS)

    def test_viscosity_windows(self) -> None:
        fork = Requirement(kv40=window("20", "26"))
        for kv40, fit, word in (
            (23.0, Fit.FITS, "all there"),
            (27.0, Fit.CAUTION, "just outside"),
            (32.0, Fit.CAUTION, "outside"),
            (60.0, Fit.REFUSED, "this has 60"),
            (None, Fit.CAUTION, "not known"),
        ):
            with self.subTest(kv40):
                found, said = self.fit(
                    fork, R.FORK, Offer(name="s", family="fork", grade="", kv40=kv40)
                )
                self.assertEqual(found, fit)
                self.assertIn(word, said)

    def test_brake_fluids_do_not_mix(self) -> None:
        for wanted, has, fit in (
            ("DOT 4", "DOT 4", Fit.FITS),
            ("DOT 4", "DOT 5.1", Fit.FITS),
            ("DOT 4", "DOT 3", Fit.REFUSED),
            ("DOT 4", "DOT 5", Fit.REFUSED),
            ("DOT 5", "DOT 4", Fit.REFUSED),
            ("DOT 4", "", Fit.REFUSED),
            ("DOT4", "DOT 5.1", Fit.FITS),
            ("DOT 4", "mineral hydraulic oil", Fit.REFUSED),
            ("mineral", "DOT 4", Fit.REFUSED),
            ("mineral", "mineral hydraulic oil", Fit.FITS),
            ("", "DOT 4", Fit.CAUTION),
        ):
            with self.subTest(wanted=wanted, has=has):
                offer = Offer(name="b", family="brake", service=has)
                found, _ = self.fit(Requirement(service=wanted), R.FRONT_BRAKE, offer)
                self.assertEqual(found, fit)

    def test_a_school_vouches_for_labels_but_not_for_classes(self) -> None:
        one = (
            Choice(kind="gearbox", topic=FLUID, choice=Practice.ONE_OIL),
            Choice(kind="final drive", topic=FLUID, choice=Practice.ONE_OIL),
        )
        need = Requirement(grade="75W-90", service="GL-4")
        fit, _ = self.fit(need, R.GEARBOX, ENGINE, *one)
        self.assertEqual(fit, Fit.BY_SCHOOL)
        said = match(need, R.GEARBOX, ENGINE, Schools(one)).reasons
        self.assertIn("the workshop's school", " ".join(reason.text for reason in said))
        drive = Requirement(grade="75W-90", service="GL-5")
        self.assertEqual(self.fit(drive, R.FINAL_DRIVE, ENGINE, *one)[0], Fit.REFUSED)
        thick = Requirement(kv100=window("30", "40"))
        self.assertEqual(self.fit(thick, R.GEARBOX, ENGINE, *one)[0], Fit.REFUSED)

    def test_mineral_only_in_the_primary(self) -> None:
        mineral = Choice(kind="primary", topic=FLUID, choice=Practice.MINERAL)
        synthetic = Offer(name="s", family="primary", friction="MA2", base="synthetic")
        need = Requirement(friction="MA")
        self.assertEqual(self.fit(need, R.PRIMARY, synthetic, mineral)[0], Fit.CAUTION)
        own = Choice(kind="primary", topic=FLUID, choice="as the manual says", this_bike=True)
        self.assertEqual(self.fit(need, R.PRIMARY, synthetic, mineral, own)[0], Fit.FITS)

    def test_gear_and_engine_labels_name_their_own_bands(self) -> None:
        self.assertEqual(hot_band("75W-90"), (13.5, 18.5))
        self.assertEqual(hot_band("10W-40"), (12.5, 16.3))
        self.assertEqual(hot_band("SAE 50"), (16.3, 21.9))
        self.assertEqual(hot_band("80W"), None)
        self.assertIsNone(hot_band("fork oil"))

    def test_an_oil_is_judged_by_what_stands_on_its_bottle(self) -> None:
        hypoid = Requirement(grade="75W-90", service="GL-5")
        wet = Requirement(grade="10W-40", friction="MA2")
        for need, kind, label, fit in (
            (hypoid, R.FINAL_DRIVE, "SAE 75W90 API GL5", Fit.FITS),
            (hypoid, R.FINAL_DRIVE, "5W-40", Fit.REFUSED),
            (hypoid, R.FINAL_DRIVE, "75W-90 GL-4", Fit.REFUSED),
            (wet, R.ENGINE, "10W40 JASO MA-2", Fit.FITS),
            (wet, R.ENGINE, "10W-40 MB", Fit.REFUSED),
            (wet, R.ENGINE, "75W-90 GL-5", Fit.REFUSED),
            (wet, R.ENGINE, "ATF III", Fit.REFUSED),
            (Requirement(service="ATF"), R.FORK, "ATF III", Fit.FITS),
        ):
            with self.subTest(label=label, kind=kind):
                self.assertEqual(match(need, kind, labelled("Quern", label)).fit, fit)
        for nothing in ("", "oil", "the good one"):
            with self.assertRaises(CoreError):
                labelled("Quern", nothing)

    def test_a_family_has_to_be_one(self) -> None:
        check_family("coolant")
        with self.assertRaises(CoreError):
            check_family("soup")


class ClimateTests(TestCase):
    def test_the_w_grade_against_the_coldest_start(self) -> None:
        for grade, coldest, ok in (
            ("20W-50", -10, True),
            ("20W-50", -20, False),
            ("5W-40", -28, True),
            ("75W-90", -35, True),
            ("85W-140", -15, False),
        ):
            with self.subTest(grade=grade, coldest=coldest):
                self.assertEqual(climate(grade, None, coldest).ok, ok)

    def test_without_a_w_grade_the_viscosity_decides(self) -> None:
        oil = TwoPoint(t1=40, v1=205.0, t2=100, v2=19.2)
        self.assertTrue(climate("SAE 50", oil, 10).ok)
        self.assertFalse(climate("SAE 50", oil, -15).ok)
        self.assertIn("nothing to say", climate("SAE 50", None, -15).text)
