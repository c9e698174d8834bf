"""A tip written at a step is there for the next one on such a bike, and its tools lie in the kit."""

from datetime import timedelta
from uuid import uuid4

from django.db import DatabaseError, transaction
from garage.models import Bike

from visits.models import Tip
from visits.tests.bench import Technician
from visits.tests.test_visit import VisitTestCase

TEXT = "Panel first, foil over the pipe"


class TipTests(VisitTestCase):
    def tip(self, **more: str) -> object:
        body = {"id": str(uuid4()), "step": "engine/torque", "text": TEXT, **more}
        self.mira.now += timedelta(seconds=1)
        return self.mira._post(f"/api/visits/{self.mira.visit}/tips/", body)

    def kit(self, reservoir: str) -> list[str]:
        task = {"reservoir": reservoir, "variant": "drain only"}
        asked = {"proposed": False, "tasks": [task], "cold": [], "wishes": []}
        asked |= {"technicians": 1, "pans": 2, "planned": None, "on": None}
        plan = self.api.post(f"/api/bikes/{self.heron.pk}/plan/", asked, format="json")
        return list(plan.json()["kit"]["tools"])

    def test_it_is_shown_at_that_fastener_on_the_next_bike_of_the_model_only(self) -> None:
        self.mira.open()
        self.tip(tools=" 8 mm swivel,foil ,")
        said = self.mira.step("engine/torque")["tip"]
        self.assertEqual(
            (said["text"], said["tools"], said["by"]), (TEXT, "8 mm swivel, foil", "Mira")
        )
        # at every step about that plug, and at no other
        self.assertEqual(self.mira.step("engine/drain")["tip"], said)
        self.assertIsNone(self.mira.step("engine/filter")["tip"])
        sister = Bike.objects.get(pk=self.heron.pk)
        sister.pk, sister.name = uuid4(), "Grey Heron's sister"
        sister.save(force_insert=True)
        next_one = Technician(self.signed_in("oda"), sister.pk)
        next_one.open("100")
        self.assertEqual(next_one.step("engine/torque")["tip"]["text"], TEXT)
        other = Technician(self.api, Bike.objects.get(name="Red Buoy").pk)
        other.open("31 900")
        self.assertIsNone(other.step("engine/torque")["tip"])

    def test_a_long_one_is_refused_not_cut(self) -> None:
        self.mira.open()
        self.assertEqual(self.tip(text="x" * 401).status_code, 400)  # type: ignore[attr-defined]
        self.assertEqual(Tip.objects.count(), 0)
        self.assertEqual(self.tip(text="x" * 400).status_code, 200)  # type: ignore[attr-defined]
        self.assertEqual(len(Tip.objects.get().text), 400)

    def test_its_tools_lie_in_the_kit_of_the_reservoir_it_is_about(self) -> None:
        self.mira.open()
        self.tip(tools="8 mm swivel")
        self.assertIn("8 mm swivel", self.kit("engine"))
        self.assertNotIn("8 mm swivel", self.kit("gearbox"))

    def test_the_newest_counts_an_empty_one_takes_it_away_and_all_stay_on_record(self) -> None:
        self.mira.open()
        for text in (TEXT, "Seat off too", ""):
            self.tip(text=text)
        self.assertIsNone(self.mira.step("engine/torque")["tip"])
        self.assertEqual(Tip.objects.count(), 3)
        with self.assertRaises(DatabaseError), transaction.atomic():
            Tip.objects.update(text="something else")

    def test_sent_twice_it_stands_once_and_its_id_says_nothing_else(self) -> None:
        self.mira.open()
        one = str(uuid4())
        for _ in range(2):
            self.tip(id=one)
            self.assertEqual(self.mira.last.status_code, 200)
        self.assertEqual(Tip.objects.count(), 1)
        self.tip(id=one, text="something else")
        self.assertEqual(self.mira.last.status_code, 409)
        self.tip(step="engine/no such step")
        self.assertEqual(self.mira.last.status_code, 422)
        reader = self.signed_in("piet").post(
            f"/api/visits/{self.mira.visit}/tips/", {}, format="json"
        )
        self.assertEqual(reader.status_code, 403)
