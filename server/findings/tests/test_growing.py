"""Something that grows is noticed with the finding that is kept, and only with what was known then."""

from datetime import date, timedelta
from decimal import Decimal
from uuid import uuid4

from demo.as_in_use import MigrationTestCase
from demo.testing import WorkshopTestCase
from garage.mapping import BikeSpec
from garage.models import Bike, OdometerReading
from garage.selectors import specs_of
from oilward_core.debris import Form, Matter, Observation, Part
from oilward_core.spec import ReservoirKind
from visits.models import Task
from visits.tests.bench import Technician
from workshop.models import Person

from findings.models import Debris, Finding
from findings.selectors import cohort_at, dipstick_excused, fine_last_time, history_of
from findings.services import keep_finding

START = date(2031, 1, 1)
BEFORE = [
    ("workshop", "0009_currency"),
    ("findings", "0003_reading_kept"),
    ("garage", "0010_bike_card"),
]
PASTE, FUZZ, SLIVERS = (Form.PASTE, "0.2"), (Form.FUZZ, "0.15"), (Form.SLIVERS, "0.05")


class GrowingTests(WorkshopTestCase):
    def found(
        self, number: int, *forms: tuple[Form, str], reservoir: str = "spare gearbox"
    ) -> Finding:
        """A finding in the gearbox of a bike without one before, one a year."""
        parts = tuple(
            Part(form=form, matter=Matter.STEEL, share=Decimal(share)) for form, share in forms
        )
        seen = Observation(
            reservoir=ReservoirKind.GEARBOX,
            parts=parts,
            oil=frozenset(),
            km_since_wiped=Decimal(8000),
            first_service=False,
        )
        return keep_finding(
            self.heron,
            reservoir,
            seen,
            "",
            finding_id=uuid4(),
            found_on=START + timedelta(days=365 * number),
            reading=OdometerReading.objects.filter(bike=self.heron).latest("km"),
            actor=Person.objects.get(username="mira"),
        )

    def test_fuzz_and_slivers_after_fuzz_are_raised_one_level_with_odds(self) -> None:
        kept = [self.found(n, PASTE) for n in range(3)]
        kept += [self.found(3, PASTE, FUZZ), self.found(4, PASTE, FUZZ)]
        last = self.found(5, PASTE, FUZZ, SLIVERS)
        self.assertEqual([one.level for one in kept[:3]], ["routine"] * 3)
        said = [one.said or 0 for one in (*kept, last)]
        self.assertEqual(said[3:], sorted(said[3:]))
        self.assertGreater(said[-1], 1 / 3)
        self.assertEqual(last.level, "investigate")  # slivers alone: watch
        self.assertEqual(last.rules[-1]["rule"], "D15")
        self.assertIn("Odds", last.rules[-1]["text"])

    def test_what_was_kept_is_not_worked_out_anew_by_what_comes_later(self) -> None:
        first = self.found(0, PASTE)
        before = Finding.objects.filter(pk=first.pk).values().get()
        self.found(1, FUZZ, SLIVERS)
        self.assertEqual(Finding.objects.filter(pk=first.pk).values().get(), before)

    def test_a_single_scare_raises_nothing_and_running_in_has_no_chance(self) -> None:
        quiet = [self.found(n, PASTE) for n in range(3)]
        scare = self.found(3, PASTE, SLIVERS)
        self.assertEqual((quiet[0].level, scare.level), ("routine", "watch"))
        self.assertNotIn("D15", [one["rule"] for one in scare.rules])
        run_in = Finding.objects.filter(run_in=True)
        self.assertTrue(run_in.exists())
        self.assertFalse(run_in.filter(said__isnull=False).exists())

    def test_what_is_known_of_a_kind_is_what_was_found_before_the_quarter(self) -> None:
        day = START + timedelta(days=380)
        none_yet = cohort_at(ReservoirKind.GEARBOX, date(2001, 1, 1))
        self.assertEqual(none_yet.eyes, {})
        before = cohort_at(ReservoirKind.GEARBOX, day)
        self.found(1, PASTE, FUZZ)  # on the first day of that quarter
        self.assertEqual(cohort_at(ReservoirKind.GEARBOX, day), before)
        later = cohort_at(ReservoirKind.GEARBOX, START + timedelta(days=900))
        self.assertNotEqual(later, before)

    def test_the_demo_s_bearing_stands_out_and_its_healthy_bikes_stay_quiet(self) -> None:
        grows = Finding.objects.filter(said__gte=1 / 3)
        self.assertEqual({(f.bike.name, f.reservoir) for f in grows}, {("Ferry Bell", "gearbox")})
        others = Finding.objects.exclude(bike__name="Ferry Bell")
        self.assertFalse(any("D15" in rule for row in others for rule in row.rules))

    def test_fine_steel_twice_in_a_gearbox_is_watched(self) -> None:
        (gearbox,) = (r for r in self.spec().reservoirs if r.key == "gearbox")
        self.assertFalse(fine_last_time(self.heron.pk, gearbox))
        self.found(0, PASTE, FUZZ, reservoir="gearbox")
        self.assertTrue(fine_last_time(self.heron.pk, gearbox))
        mira = Technician(self.api, self.heron.pk)
        mira.open_for([{"reservoir": "gearbox", "variant": "drain only"}], "61 300")
        self.assertTrue(Task.objects.get(visit=mira.visit).fine_last_time)

    def test_a_flaking_dipstick_explains_bright_scales_once(self) -> None:
        slivers = Part(form=Form.SLIVERS, matter=Matter.STEEL, share=Decimal("0.05"))
        seen = Observation(
            reservoir=ReservoirKind.GEARBOX,
            parts=(slivers,),
            oil=frozenset(),
            km_since_wiped=Decimal(8000),
            first_service=False,
            dipstick_flakes=True,
        )
        self.assertFalse(dipstick_excused(self.heron.pk, "gearbox"))
        row = keep_finding(
            self.heron,
            "gearbox",
            seen,
            "",
            finding_id=uuid4(),
            found_on=START,
            reading=OdometerReading.objects.filter(bike=self.heron).latest("km"),
            actor=Person.objects.get(username="mira"),
        )
        self.assertEqual(row.level, "note")
        self.assertTrue(dipstick_excused(self.heron.pk, "gearbox"))
        mira = Technician(self.api, self.heron.pk)
        mira.open_for([{"reservoir": "gearbox", "variant": "drain only"}], "61 300")
        self.assertTrue(Task.objects.get(visit=mira.visit).dipstick_excused)

    def spec(self) -> BikeSpec:
        return specs_of([self.heron])[self.heron.pk]


class AnswerTests(WorkshopTestCase):
    """A follow-up stays on bike and ward until it is answered."""

    def setUp(self) -> None:
        super().setUp()
        self.ferry = Bike.objects.get(name="Ferry Bell")

    def asks(self) -> list[tuple[str, str]]:
        page = self.api.get(f"/api/bikes/{self.ferry.pk}/").json()
        ward = self.api.get("/api/ward/?search=Ferry+Bell").json()["bikes"][0]
        self.assertEqual(page["asks"], ward["asks"])
        return [(ask["label"], ask["level"]) for ask in page["asks"]]

    def test_what_was_found_answers_it_and_what_came_before(self) -> None:
        self.assertIn(("gearbox", "investigate"), self.asks())
        newest = Finding.objects.filter(bike=self.ferry, reservoir="gearbox").latest("found_on")
        url = f"/api/findings/{newest.pk}/answers/"
        for body, code in (
            ({"outcome": "lifted", "words": "fine"}, "sheet.choose"),
            ({"outcome": "a fault was found, and put right", "words": " "}, "sheet.reason"),
        ):
            refused = self.api.post(url, {"id": str(uuid4()), **body}, format="json")
            self.assertEqual((refused.status_code, refused.json()["code"]), (422, code))
        body = {"id": str(uuid4()), "outcome": "a fault was found, and put right"}
        body |= {"words": "Layshaft bearing pitted, renewed"}
        self.assertEqual(self.api.post(url, body, format="json").status_code, 201)
        self.assertNotIn("gearbox", [label for label, _ in self.asks()])
        page = self.api.get(f"/api/bikes/{self.ferry.pk}/").json()
        plugs = next(r for r in page["reservoirs"] if r["glass"]["key"] == "gearbox")["findings"]
        self.assertFalse(any(plug["asks"] for plug in plugs))
        self.assertIn("Layshaft", plugs[0]["answers"][0]["words"])
        # with another bearing it starts anew
        history, repaired = history_of(self.ferry.pk, "gearbox")
        self.assertTrue(repaired)
        self.assertFalse(any(found.repaired for found in history))


class RowsTests(MigrationTestCase):
    """What the last release wrote down as a document becomes rows, and back."""

    PARTS = [
        {"form": "fuzz", "matter": "steel", "share": "0.35", "largest_mm": None},
        {"form": "slivers", "matter": "bronze", "share": "0.08", "largest_mm": "0.5", "count": 3,
         "magnetic": False},
    ]  # fmt: skip

    def test_it_is_carried_over_whole_and_back(self) -> None:
        old = self.as_of(BEFORE).get_model
        mira = old("workshop", "Person").objects.create(username="mira", name="Mira", role="lead")
        model = old("garage", "BikeModel").objects.create(
            make="Brackwell", name="Old 900", year=2001, layout="V-twin, belt", displacement_cc=900
        )
        bike = old("garage", "Bike").objects.create(
            model=model, name="Tern", use_class="touring", odometer_unit="km"
        )
        reading = old("garage", "OdometerReading").objects.create(
            bike=bike, km=6000, as_written="-", read_on=START, read_by=mira
        )
        made = old("findings", "Finding").objects.create(
            bike=bike, reservoir="gearbox", found_on=START, reading=reading, km_since_wiped=6000,
            parts=self.PARTS, oil=["dark"], level="routine", origin="-", action="-",
            rules=["D3: Running-in"], wear={}, found_by=mira,
        )  # fmt: skip
        self.migrate()
        row = Finding.objects.get(pk=made.pk)
        self.assertEqual((row.kind, row.run_in, row.said), ("gearbox", True, None))
        fields = ("place", "form", "matter", "largest_mm", "count", "magnetic")
        self.assertEqual(
            list(Debris.objects.filter(finding=row).values_list(*fields)),
            [
                ("plug", "fuzz", "steel", None, None, None),
                ("plug", "slivers", "bronze", Decimal("0.50"), 3, False),
            ],
        )
        back = self.migrate(BEFORE).get_model
        parts = back("findings", "Finding").objects.get(pk=made.pk).parts
        self.assertEqual([part["share"] for part in parts], ["0.35", "0.08"])
