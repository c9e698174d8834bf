"""An owner's data are given out, and erased; the machine's history stays."""

from typing import Any
from uuid import uuid4

from demo.testing import WorkshopTestCase
from garage.models import Bike
from visits.models import Service
from workshop.models import Trace


class OwnersTests(WorkshopTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.lead = self.signed_in("oda")
        self.url = f"/api/bikes/{self.heron.pk}/form/"
        form = self.lead.get(self.url).json()["form"]
        self.lead.put(self.url, {**form, "notes": "Two-up, rings at noon"}, format="json")

    def give_out(self, name: str) -> Any:
        body = {"id": str(uuid4()), "name": name}
        return self.lead.post("/api/owners/data/", body, format="json")

    def erase(self, name: str, act: Any = None) -> Any:
        body = {"id": str(act or uuid4()), "name": name}
        return self.lead.post("/api/owners/erasure/", body, format="json")

    def test_given_out_in_one_document(self) -> None:
        names = [one["name"] for one in self.lead.get("/api/owners/").json()]
        self.assertIn("Pilot station", names)
        said = self.give_out("Pilot station").json()
        self.assertEqual((said["format"], said["owner"]), ("oil-ward/owner/1", "Pilot station"))
        (bike,) = said["bikes"]
        self.assertEqual((bike["name"], bike["notes"]), ("Grey Heron", "Two-up, rings at noon"))
        self.assertEqual(len(bike["services"]), Service.objects.filter(bike=self.heron).count())
        self.assertEqual(self.give_out("x").status_code, 404)
        # that it was given out is kept, and by whom; the name is not
        (row,) = Trace.objects.filter(act="owner's data given out")
        self.assertEqual((row.by.username, row.was), ("oda", {"bikes": 1}))
        self.assertNotIn("Pilot", row.about)

    def test_a_lead_who_has_not_typed_a_password_for_a_while_does_so_again(self) -> None:
        kept = self.lead.session
        kept["proved"] = 0
        kept.save()
        for _ in range(2):
            for answer in (self.give_out("Pilot station"), self.erase("Pilot station")):
                self.assertEqual((answer.status_code, answer.json()["code"]), (403, "access.prove"))
        for typed, code in (("wrong", 422), ("harbour-oda", 204)):
            answer = self.lead.put("/api/own/proof/", {"current": typed}, format="json")
            self.assertEqual(answer.status_code, code)
        self.assertEqual(self.give_out("Pilot station").status_code, 200)

    def test_erased_here_and_in_what_was_traced_and_the_machine_keeps_its_history(self) -> None:
        before, act = Service.objects.filter(bike=self.heron).count(), uuid4()
        self.assertIn("Pilot station", str(list(Trace.objects.values_list("was", flat=True))))
        for _ in range(2):
            self.assertEqual(self.erase("Pilot station", act).json(), {"bikes": 1})
        row = Bike.objects.get(pk=self.heron.pk)
        self.assertEqual((row.owner, row.plate, row.notes), ("", "", ""))
        self.assertEqual(row.frame_number, self.heron.frame_number)
        traced = str(list(Trace.objects.values_list("was", flat=True)))
        self.assertNotIn("Pilot station", traced)
        self.assertEqual(Service.objects.filter(bike=self.heron).count(), before)
        found = self.lead.get("/api/ward/", {"search": "Pilot station"}).json()
        self.assertEqual(found["bikes"], [])
        # a form that was open meanwhile does not bring it back
        form = {**self.lead.get(self.url).json()["form"], "version": 1, "owner": "Pilot station"}
        self.assertEqual(self.lead.put(self.url, form, format="json").status_code, 409)

    def test_nobody_and_not_by_anybody(self) -> None:
        for name in ("", " ", "Nobody at all"):
            self.assertEqual(self.erase(name).status_code, 422)
        self.assertEqual(self.api.get("/api/owners/").status_code, 403)
        body = {"id": str(uuid4()), "name": "Pilot station"}
        for path in ("/api/owners/erasure/", "/api/owners/data/"):
            answer = self.api.post(path, body, format="json")
            self.assertEqual((answer.status_code, answer.json()["code"]), (403, "access.lead"))
