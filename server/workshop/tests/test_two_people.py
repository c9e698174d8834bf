"""Apprentices, counter-signatures, and whose name stands beside a write."""

from typing import Any
from uuid import uuid4

from demo.testing import WorkshopTestCase
from visits.models import Visit
from visits.tests.bench import Technician

from workshop.models import CounterSignature, Trace


class ApprenticeTests(WorkshopTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.runa = Technician(self.signed_in("runa"), self.heron.pk)
        self.runa.whole()

    def sign(self, username: str = "", password: str = "") -> Any:
        url = f"/api/visits/{self.runa.visit}/signature/"
        body = {"username": username, "password": password}
        return self.runa.api.post(url, body, format="json")

    def test_an_apprentice_works_and_signs_with_a_lead_beside(self) -> None:
        self.assertEqual(self.runa.sheet["ready_to_sign"], True)
        alone = self.sign()
        self.assertEqual((alone.status_code, alone.json()["code"]), (409, "visit.countersign"))
        for _ in range(2):
            self.assertEqual(self.sign("oda", "harbour-oda").status_code, 200)
        row = CounterSignature.objects.get()
        self.assertEqual((row.lead.name, row.beside.name), ("Oda", "Runa"))
        self.assertEqual(row.about, f"visit/{self.runa.visit}")

    def test_only_a_leads_own_password_counts(self) -> None:
        for username, password, field in (
            ("oda", "wrong", "/password"),
            ("mira", "harbour-mira", "/username"),
            ("runa", "harbour-runa", "/username"),
        ):
            answer = self.sign(username, password)
            self.assertEqual(answer.status_code, 422)
            self.assertEqual(answer.json()["errors"][0]["pointer"], field)
        self.assertEqual(Visit.objects.get(pk=self.runa.visit).state, "open")

    def test_trying_passwords_over_the_shoulder_is_throttled(self) -> None:
        codes = [self.sign("oda", f"guess {n}").status_code for n in range(10)]
        self.assertEqual(codes[-1], 429)

    def test_sign_ins_and_rights_are_in_the_log_without_passwords(self) -> None:
        with self.assertLogs("oilward", "INFO") as logged:
            self.sign("oda", "wrong secret")
            self.runa.api.put("/api/workshop/settings/", {"hour_price": "1"}, format="json")
            self.signed_in("mira").put(
                "/api/workshop/settings/",
                {"coldest_start": "0", "hour_price": "1", "flat_price": "1"},
                format="json",
            )
        told = " ".join(logged.output)
        self.assertIn("countersignature beside runa by oda: False", told)
        self.assertIn("not mira's to do: PUT /api/workshop/settings/", told)
        self.assertNotIn("secret", told)


class TraceTests(WorkshopTestCase):
    def test_what_goes_leaves_a_trace_with_its_person_and_what_it_was(self) -> None:
        oda = self.signed_in("oda")
        url = f"/api/bikes/{self.heron.pk}/own-values/"
        own = {"path": "engine//repeat.km", "written": "2000 km", "document": "", "page": ""}
        self.api.put(url, {**own, "revision": 0}, format="json")
        oda.put(url, {**own, "written": "", "revision": 1}, format="json")
        draft = self.api.post(f"/api/models/{self.heron.model_id}/draft/").json()
        cell = {"path": "engine//initial", "revision": 0, "written": "3 qt"}
        self.api.put(f"/api/sheets/{draft['id']}/cells/", {"cells": [cell]}, format="json")
        gone = {**cell, "written": "", "revision": 1}
        self.api.put(f"/api/sheets/{draft['id']}/cells/", {"cells": [gone]}, format="json")
        oda.delete(f"/api/sheets/{draft['id']}/")
        told = {(row.act, row.by.name) for row in Trace.objects.select_related("by")}
        self.assertLessEqual(
            {("own value removed", "Oda"), ("values removed", "Mira"), ("values removed", "Oda")},
            told,
        )
        was = Trace.objects.get(act="own value removed").was
        self.assertEqual((was["written"], was["entered_by"]), ("2000 km", "Mira"))

    def test_a_new_bike_has_its_person(self) -> None:
        form = self.api.get(f"/api/bikes/{self.heron.pk}/form/").json()["form"]
        new = {**form, "id": str(uuid4()), "name": "Gull", "odometer": "1", "version": 0}
        self.assertEqual(self.api.post("/api/bikes/", new, format="json").status_code, 201)
        self.assertEqual(type(self.heron).objects.get(pk=new["id"]).changed_by, "Mira")
