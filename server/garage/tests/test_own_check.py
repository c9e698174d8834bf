"""Nobody checks what they entered themselves, whatever they are called by then."""

from typing import Any

from demo.testing import WorkshopTestCase
from rest_framework.test import APIClient
from workshop.models import Person
from workshop.people.names import bearers

from garage.models import SheetCell, SpecSheet
from garage.selectors import specs_of

PATH = "engine//capacity.dry"


class OwnCheckTests(WorkshopTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.lead = self.signed_in("oda")
        draft = self.lead.post(f"/api/models/{self.heron.model_id}/draft/", {}, format="json")
        self.sheet = SpecSheet.objects.get(pk=draft.json()["id"])

    def write(self, api: APIClient, written: str) -> Any:
        url = f"/api/sheets/{self.sheet.pk}/cells/"
        cell = self.sheet.cells.get(reservoir="engine", field="capacity.dry")
        body = {"cells": [{"path": PATH, "revision": cell.revision, "written": written}]}
        return api.put(url, body, format="json")

    def check(self, api: APIClient) -> tuple[int, str]:
        answer = api.post(f"/api/sheets/{self.sheet.pk}/checks/", {"paths": [PATH]}, format="json")
        return answer.status_code, answer.json().get("code", "")

    def rename(self, username: str, name: str, **more: Any) -> None:
        people = self.lead.get("/api/people/").json()["people"]
        line = next(one for one in people if one["username"] == username)
        answer = self.lead.put(
            f"/api/people/{line['id']}/", {**line, "name": name, **more}, format="json"
        )
        self.assertEqual(answer.status_code, 200, answer.content)

    def test_a_new_name_is_no_second_person(self) -> None:
        self.assertEqual(self.write(self.api, "4.2 qt").status_code, 200)
        self.assertEqual(self.check(self.api), (422, "spec.second_person"))
        self.rename("mira", "Mira of the harbour")
        self.assertEqual(self.check(self.api), (422, "spec.second_person"))
        self.assertEqual(self.check(self.lead)[0], 200)
        cell = SheetCell.objects.get(sheet=self.sheet, reservoir="engine", field="capacity.dry")
        self.assertEqual((cell.entered_by, cell.checked_by), ("Mira", "Oda"))

    def test_somebody_who_takes_on_an_old_name_is_not_who_bore_it(self) -> None:
        self.write(self.api, "4.2 qt")
        self.rename("mira", "Mira of the harbour")
        self.rename("runa", "Mira")
        # runa is an apprentice: what keeps her from checking is that, and not the name she bears now
        runa = self.signed_in("runa")
        self.assertEqual(self.check(runa)[1], "spec.apprentice")
        self.assertEqual(self.check(self.lead)[0], 200)

    def test_an_old_name_counts_where_exactly_one_ever_bore_it(self) -> None:
        mira = Person.objects.get(username="mira")
        self.assertEqual(bearers(["Mira", "", "Somebody"]), {"Mira": mira.pk})
        self.rename("mira", "Mira of the harbour")
        self.assertEqual(bearers(["Mira"]), {"Mira": mira.pk})
        self.rename("runa", "Mira")
        self.assertEqual(bearers(["Mira"]), {})

    def test_a_name_lost_together_with_the_access_is_not_forgotten(self) -> None:
        runa = Person.objects.get(username="runa")
        self.rename("runa", "Runa of the pier", active=False)
        self.assertEqual(bearers(["Runa"]), {"Runa": runa.pk})

    def test_approved_alone_it_stands_with_one_pair_of_eyes_until_a_second_person_checks(
        self,
    ) -> None:
        others = Person.objects.exclude(username="oda")
        others.update(is_active=False)
        named = {"document": "Colossine workshop manual", "page": "20"}
        cell = self.sheet.cells.get(reservoir="engine", field="capacity.dry")
        body = [{"path": PATH, "revision": cell.revision, "written": "4.2 qt", **named}]
        url = f"/api/sheets/{self.sheet.pk}"
        self.assertEqual(
            self.lead.put(f"{url}/cells/", {"cells": body}, format="json").status_code, 200
        )
        answer = self.lead.post(f"{url}/approval/", {"unchecked": [PATH]}, format="json")
        self.assertEqual(answer.status_code, 200, answer.content)
        cell.refresh_from_db()
        self.assertEqual(cell.checked_by, "Oda, one pair of eyes")
        spec = specs_of([self.heron])[self.heron.pk].reservoir("engine")
        assert spec is not None
        self.assertIn("/capacity.dry", spec.one_pair)
        # a second person comes, and compares it in the next version
        others.update(is_active=True)
        draft = self.lead.post(f"/api/models/{self.heron.model_id}/draft/", {}, format="json")
        self.sheet = SpecSheet.objects.get(pk=draft.json()["id"])
        row = next(
            row
            for block in draft.json()["reservoirs"]
            for plate in block["plates"]
            for row in plate["rows"]
            if row["path"] == PATH
        )
        self.assertTrue(row["one_pair"])
        self.assertEqual(self.check(self.api)[0], 200)
        cell = self.sheet.cells.get(reservoir="engine", field="capacity.dry")
        self.assertEqual(cell.checked_by, "Mira")

    def test_who_checked_it_of_old_stays_though_no_id_was_kept(self) -> None:
        cell = self.sheet.cells.filter(reservoir="engine", field="capacity.dry")
        cell.update(entered_by="Somebody", entered_who=None, checked_by="Else", checked_who=None)
        self.assertEqual(self.check(self.lead)[0], 200)
        self.assertEqual(cell.get().checked_by, "Else")
