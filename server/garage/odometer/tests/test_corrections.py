"""A slip that went in is corrected by a lead, and followed; what was written stays."""

from typing import Any
from uuid import uuid4

from demo.testing import WorkshopTestCase
from findings.models import Finding
from visits.models import Service
from visits.tests.bench import Technician
from visits.tests.test_visit import PASTE

from garage.models import Bike, OdometerReading

FORM: dict[str, Any] = {
    "model": 0, "name": "Gannet", "owner": "", "use_class": "touring", "odometer_unit": "km",
    "records": "none", "new_on": "", "severity": "1", "counts_hours": False, "notes": "",
    "archived": False, "version": 0,
}  # fmt: skip


class CorrectionTests(WorkshopTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.oda = self.signed_in("oda")

    def readings(self, bike: Bike) -> dict[str, Any]:
        return dict(self.api.get(f"/api/bikes/{bike.pk}/odometer/").json())

    def correct(self, bike: Bike, line: dict[str, Any], odometer: str, **more: Any) -> Any:
        body = {"id": str(uuid4()), "seen": line["id"], "odometer": odometer, "reason": "slipped",
                **more}  # fmt: skip
        url = f"/api/bikes/{bike.pk}/odometer/{line['id']}/correction/"
        return self.oda.post(url, body, format="json")

    def bought(self, odometer: str) -> Bike:
        form = {**FORM, "id": str(uuid4()), "model": self.heron.model_id, "odometer": odometer}
        self.assertEqual(self.api.post("/api/bikes/", form, format="json").status_code, 201)
        return Bike.objects.get(pk=form["id"])

    def test_a_first_reading_ten_times_too_large_is_mended(self) -> None:
        bike = self.bought("123 456")
        (line,) = self.readings(bike)["lines"]
        answer = self.correct(bike, line, "12 345")
        self.assertEqual(answer.status_code, 200)
        (now,) = answer.json()["lines"]
        self.assertEqual((now["odometer"], now["by"]), ("12\u00a0345 km", "Oda"))
        self.assertEqual(now["before"], ["123\u00a0456 km, Mira"])
        self.assertEqual(
            self.api.get(f"/api/bikes/{bike.pk}/").json()["odometer"], "12\u00a0345 km"
        )
        new = {"id": str(uuid4()), "odometer": "12 400", "hours": "", "new_shows": ""}
        url = f"/api/bikes/{bike.pk}/odometer/"
        self.assertEqual(self.api.post(url, new, format="json").status_code, 204)
        self.assertEqual(OdometerReading.objects.get(pk=line["id"]).km, 123456)

    def test_only_a_lead_corrects_with_a_reason_between_its_neighbours(self) -> None:
        bike = self.bought("12 345")
        first = self.readings(bike)["lines"][0]
        second = {"id": str(uuid4()), "odometer": "12 400"}
        self.api.post(f"/api/bikes/{bike.pk}/odometer/", second, format="json")
        body = {"id": str(uuid4()), "seen": first["id"], "odometer": "12 300", "reason": "x"}
        url = f"/api/bikes/{bike.pk}/odometer/{first['id']}/correction/"
        self.assertEqual(self.api.post(url, body, format="json").status_code, 403)
        no_reason = self.correct(bike, first, "12 300", reason=" ")
        self.assertEqual(no_reason.json()["errors"][0]["pointer"], "/reason")
        above = self.correct(bike, first, "12 450")
        self.assertIn("The next reading is 12\u00a0400 km", self.sentence(above, "/odometer"))
        self.assertEqual(self.correct(bike, first, "soon").status_code, 422)
        self.assertEqual(self.correct(bike, first, "12 300").status_code, 200)

    def test_of_two_corrections_the_second_is_told_and_a_repeat_changes_nothing(self) -> None:
        bike = self.bought("123 456")
        (line,) = self.readings(bike)["lines"]
        mine = str(uuid4())
        for _ in range(2):
            self.assertEqual(self.correct(bike, line, "12 345", id=mine).status_code, 200)
        self.assertEqual(self.correct(bike, line, "12 346", id=mine).status_code, 409)
        late = self.correct(bike, line, "12 346")
        self.assertEqual((late.status_code, late.json()["code"]), (409, "odometer.corrected"))
        self.assertIn("Oda corrected this reading to 12\u00a0345 km", self.sentence(late))
        self.assertEqual(OdometerReading.objects.filter(bike=bike).count(), 2)
        (now,) = self.readings(bike)["lines"]
        again = self.correct(bike, now, "12 346").json()["lines"]
        self.assertEqual(again[0]["before"], ["12\u00a0345 km, Oda", "123\u00a0456 km, Mira"])

    def test_services_follow_and_a_verdict_stays_with_the_new_one_beside_it(self) -> None:
        mira = Technician(self.api, self.heron.pk)
        mira.whole(parts=[{**PASTE, "form": "slivers", "largest": "0.5"}])
        mira.sign()
        kept = Finding.objects.get(found_by__name="Mira", pk__in=self.new_findings())
        line = self.readings(self.heron)["lines"][0]
        self.assertEqual(self.correct(self.heron, line, "61 250").status_code, 200)
        service = self.api.get(f"/api/bikes/{self.heron.pk}/").json()["reservoirs"][0]["services"][
            0
        ]
        self.assertEqual(service["odometer"], "61\u00a0250 mi")
        finding = self.api.get(f"/api/bikes/{self.heron.pk}/").json()["reservoirs"][0]["findings"][
            0
        ]
        self.assertEqual(finding["level"], kept.level)
        self.assertIn("On the corrected reading", finding["again"])
        self.assertEqual(Finding.objects.get(pk=kept.pk).km_since_wiped, kept.km_since_wiped)
        visit = self.api.get(f"/api/visits/{mira.visit}/").json()
        self.assertEqual(visit["odometer"], "61\u00a0300 mi")
        self.assertEqual(visit["corrected"], "61\u00a0250 mi")

    def test_a_closed_visit_shows_its_own_odometer_after_another_was_fitted(self) -> None:
        mira = Technician(self.api, self.heron.pk)
        mira.open()
        mira.leave("Owner came early")
        url = f"/api/bikes/{self.heron.pk}/odometer/"
        new = {"id": str(uuid4()), "odometer": "61 400", "new_shows": "4"}
        self.assertEqual(self.api.post(url, new, format="json").status_code, 204)
        visit = self.api.get(f"/api/visits/{mira.visit}/").json()
        self.assertEqual((visit["odometer"], visit["corrected"]), ("61\u00a0300 mi", ""))

    def new_findings(self) -> list[Any]:
        return [f.pk for f in Finding.objects.filter(bike=self.heron).order_by("-found_on")[:1]]

    def test_a_reading_corrected_in_an_open_visit_is_followed_by_it(self) -> None:
        bike = self.bought("123 456")
        mira = Technician(self.api, bike.pk)
        mira.open("123 460")
        line = self.readings(bike)["lines"][0]
        first = self.readings(bike)["lines"][1]
        self.correct(bike, first, "12 345")
        self.correct(bike, line, "12 350")
        sheet = self.api.get(f"/api/visits/{mira.visit}/").json()
        self.assertEqual((sheet["odometer"], sheet["corrected"]), ("12\u00a0350 km", ""))
        mira.until_fill()
        self.assertFalse(Service.objects.filter(bike=bike).exists())

    def test_the_last_word_of_an_old_odometer_moves_what_came_after(self) -> None:
        bike = self.bought("12 345")
        url = f"/api/bikes/{bike.pk}/odometer/"
        old = {"id": str(uuid4()), "odometer": "12 900", "new_shows": "0"}
        self.assertEqual(self.api.post(url, old, format="json").status_code, 204)
        self.api.post(url, {"id": str(uuid4()), "odometer": "100"}, format="json")
        lines = self.readings(bike)["lines"]
        replaced = next(line for line in lines if line["replaced"])
        self.assertEqual(self.correct(bike, replaced, "12 400").status_code, 200)
        bike.refresh_from_db()
        self.assertEqual(bike.offset_km, 12_400)
        now = self.readings(bike)["lines"]
        shown = {line["odometer"] for line in now}
        self.assertEqual(shown, {"12\u00a0345 km", "12\u00a0400 km", "100 km"})
        self.assertEqual(self.api.get(f"/api/bikes/{bike.pk}/").json()["odometer"], "100 km")
        standing = [row.km for row in OdometerReading.objects.filter(bike=bike, reason="slipped")]
        self.assertEqual(sorted(standing), [12_400, 12_500])
