"""Torque wrenches come to the wall, and are changed there."""

from typing import Any

from demo.testing import WorkshopTestCase
from workshop import days

from shelf.models import WrenchRow

NEW = {
    **{"id": 0, "version": 0, "name": "Stubby", "unit": "N·m", "low": "2", "high": "25"},
    **{"resolution": "0.5", "accuracy": "4", "length": "190"},
}


class WrenchTests(WorkshopTestCase):
    def save(self, **more: Any) -> Any:
        return self.api.put("/api/wrenches/", NEW | more, format="json")

    def test_a_new_wrench_is_there_once_and_says_what_it_measures_well(self) -> None:
        self.save()
        said = self.save().json()["wrenches"]
        found = [one for one in said if one["form"]["name"] == "Stubby"]
        self.assertEqual([one["usable"] for one in found], ["5–25 N·m"])
        row = WrenchRow.objects.get(name="Stubby")
        self.assertEqual((str(row.accuracy), str(row.length_mm)), ("0.040", "190.0"))

    def test_a_change_names_the_version_it_saw(self) -> None:
        self.save()
        form = WrenchRow.objects.get(name="Stubby")
        seen = {"id": form.pk, "version": form.version}
        self.assertEqual(self.save(**seen, high="30").status_code, 200)
        self.assertEqual(self.save(**seen, high="35").status_code, 409)
        self.assertEqual(self.save(**seen, high="30").status_code, 200)
        self.assertEqual(self.save(id=0, high="99").status_code, 409)
        self.assertEqual(self.save(id=999999, name="Other").status_code, 404)

    def test_a_new_calibration_begins_to_count_anew(self) -> None:
        self.save(calibrated="2025-01-10")
        row = WrenchRow.objects.get(name="Stubby")
        WrenchRow.objects.filter(pk=row.pk).update(pulls=5001)
        found = self.api.get("/api/wrenches/").json()["wrenches"]
        old = next(one for one in found if one["form"]["name"] == "Stubby")
        self.assertTrue(old["past"])
        self.assertIn("5001 pulls since", old["calibration"])
        today = str(days.today())
        self.save(id=row.pk, version=row.version, calibrated=today)
        row.refresh_from_db()
        self.assertEqual((str(row.calibrated_on), row.pulls), (today, 0))
        self.assertEqual(self.save(id=row.pk, calibrated="2999-01-01").status_code, 422)

    def test_what_no_wrench_is(self) -> None:
        for wrong, pointer in (
            ({"name": " "}, "/name"),
            ({"unit": "stone"}, "/unit"),
            ({"low": "30"}, "/high"),
            ({"high": "many"}, "/high"),
            ({"resolution": "0"}, "/resolution"),
            ({"accuracy": "400"}, "/accuracy"),
            ({"length": "3"}, "/length"),
        ):
            answer = self.save(**wrong)
            self.assertEqual(answer.status_code, 422, answer.content)
            self.assertTrue(self.sentence(answer, pointer))
