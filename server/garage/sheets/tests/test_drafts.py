"""Drafts: writing, two people at once, second checks, doubts, approval."""

from typing import Any

from demo.as_in_use import tampered
from demo.testing import WorkshopTestCase
from oilward_core.spec import KINDS, ReservoirKind, fields_for
from workshop.models import Person

from garage.models import Bike, BikeModel, SheetCell, SpecSheet

NEW = {
    "make": "Brackwell",
    "name": "Pilot 900",
    "year": 2021,
    "layout": "V-twin, belt",
    "displacement_cc": 900,
}


class DraftCase(WorkshopTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.oda = self.signed_in("oda")
        self.model = SpecSheet.objects.get(model__name="Colossine 1640").model
        self.page = self.api.post(f"/api/models/{self.model.pk}/draft/").json()

    def approve(self, **body: Any) -> Any:
        """Approve as the lead, naming whatever nobody has checked."""
        named = [number["path"] for number in self.oda.get(self.url).json()["unchecked_numbers"]]
        body = {"unchecked": named, **body}
        return self.oda.post(f"{self.url}approval/", body, format="json")

    @property
    def url(self) -> str:
        return f"/api/sheets/{self.page['id']}/"

    def row(self, path: str) -> dict[str, Any]:
        self.page = self.api.get(self.url).json()
        for block in self.page["reservoirs"]:
            lines = [row for plate in block["plates"] for row in plate["rows"]]
            lines += [row for part in block["parts"] for row in part["rows"]]
            for row in lines:
                if row["path"] == path:
                    return row
        raise AssertionError(path)

    def write(self, path: str, written: str, revision: int, api: Any = None, **source: str) -> Any:
        cell = {"path": path, "written": written, "revision": revision, **source}
        return (api or self.api).put(f"{self.url}cells/", {"cells": [cell]}, format="json")


class WritingTests(DraftCase):
    PATH = "engine//capacity.with filter"

    def test_a_draft_begins_with_the_approved_values_and_stays_one(self) -> None:
        again = self.api.post(f"/api/models/{self.model.pk}/draft/").json()
        self.assertEqual((again["id"], again["version"]), (self.page["id"], 2))
        row = self.row(self.PATH)
        self.assertEqual((row["written"], row["reads"], row["page"]), ("3.65 qt", "3454 ml", "20"))
        self.assertEqual(self.page["changes"], [])

    def test_a_change_is_said_and_wants_a_new_check(self) -> None:
        answer = self.write(self.PATH, "3.7 qt", 1, document="Colossine workshop manual", page="21")
        self.assertEqual(answer.status_code, 200)
        row = self.row(self.PATH)
        self.assertEqual((row["entered_by"], row["checked_by"], row["revision"]), ("Mira", "", 2))
        self.assertEqual(
            self.page["changes"],
            [
                "Engine, capacity, with filter: was 3.65 qt, now 3.7 qt "
                "(Colossine workshop manual, p. 21)."
            ],
        )

    def test_the_same_write_twice_stands_once(self) -> None:
        self.write(self.PATH, "3.7 qt", 1)
        self.assertEqual(self.write(self.PATH, "3.7 qt", 1).status_code, 200)
        self.assertEqual(self.row(self.PATH)["revision"], 2)

    def test_two_people_at_one_value_both_see_both(self) -> None:
        self.write(self.PATH, "3.7 qt", 1)
        clash = self.write(self.PATH, "3.6 qt", 1, api=self.oda)
        self.assertEqual(clash.status_code, 409)
        (error,) = clash.json()["errors"]
        self.assertEqual(error["options"], ["3.7 qt", "3.6 qt"])
        self.assertIn("Mira changed engine, capacity, with filter to “3.7 qt”", error["detail"])
        self.assertEqual(self.row(self.PATH)["written"], "3.7 qt")
        self.assertEqual(self.write(self.PATH, "3.6 qt", 2, api=self.oda).status_code, 200)

    def test_two_people_at_two_values_do_not_meet(self) -> None:
        self.write(self.PATH, "3.7 qt", 1)
        self.assertEqual(self.write("engine//initial", "3 qt", 0, api=self.oda).status_code, 200)

    def test_taking_out_what_somebody_changed_is_a_clash_too(self) -> None:
        self.write(self.PATH, "3.7 qt", 1)
        self.assertEqual(self.write(self.PATH, "", 1, api=self.oda).status_code, 409)
        self.assertEqual(self.write(self.PATH, "", 2, api=self.oda).status_code, 200)
        self.assertEqual(self.write(self.PATH, "", 2, api=self.oda).status_code, 200)
        self.assertEqual(self.write(self.PATH, "3.8 qt", 2).status_code, 409)

    def test_all_or_none(self) -> None:
        cells = [
            {"path": "engine//initial", "written": "3 qt", "revision": 0},
            {"path": "primary//initial", "written": "some", "revision": 0},
        ]
        answer = self.api.put(f"{self.url}cells/", {"cells": cells}, format="json")
        self.assertEqual(answer.status_code, 422)
        self.assertIn("is no amount", self.sentence(answer, "/primary//initial"))
        self.assertEqual(self.row("engine//initial")["written"], "")

    def test_an_approved_version_does_not_change(self) -> None:
        first = SpecSheet.objects.get(model=self.model, version=1)
        cell = {"path": self.PATH, "written": "9 qt", "revision": 1}
        answer = self.api.put(f"/api/sheets/{first.pk}/cells/", {"cells": [cell]}, format="json")
        self.assertEqual((answer.status_code, answer.json()["code"]), (409, "spec.approved"))

    def test_places_that_are_none(self) -> None:
        for path, code in (("engine", "spec.path"), ("engine//horn", "spec.no_field")):
            self.assertEqual(self.write(path, "1", 0).json()["code"], code)

    def test_reservoirs_and_parts_come_and_go_whole(self) -> None:
        add = {"kind": "shock", "reservoir": ""}
        page = self.api.post(f"{self.url}parts/", add, format="json").json()
        self.assertIn("shock", [block["key"] for block in page["reservoirs"]])
        plug = {"kind": "drain plug", "reservoir": "engine"}
        page = self.api.post(f"{self.url}parts/", plug, format="json").json()
        engine = page["reservoirs"][0]
        self.assertIn("drain plug 2", [part["key"] for part in engine["parts"]])
        gone = "?reservoir=engine&part=drain plug 2"
        page = self.api.delete(f"{self.url}parts/{gone}").json()
        self.assertNotIn("drain plug 2", [p["key"] for p in page["reservoirs"][0]["parts"]])
        page = self.api.delete(f"{self.url}parts/?reservoir=primary").json()
        self.assertNotIn("primary", [block["key"] for block in page["reservoirs"]])
        self.assertIn("Primary: taken out, with", " ".join(page["changes"]))

    def test_while_typing_a_value_is_read_and_doubted(self) -> None:
        def typed(path: str, written: str) -> Any:
            return self.api.get(f"{self.url}reading/", {"path": path, "written": written})

        self.assertEqual(typed(self.PATH, "3.7 qt").json(), {"reads": "3502 ml", "doubts": []})
        (doubt,) = typed("engine/drain plug/torque", "220 ft-lb").json()["doubts"]
        self.assertIn("lbf·in?", doubt)
        said = typed("engine//capacity.drain only", "3.7 qt").json()["doubts"]
        self.assertIn("should take less than with filter", " ".join(said))
        self.assertEqual(typed(self.PATH, "3 N·m").status_code, 422)


class ApprovalTests(DraftCase):
    def test_only_another_person_checks(self) -> None:
        self.write("engine//initial", "3 qt", 0)
        body = {"paths": ["engine//initial"]}
        own = self.api.post(f"{self.url}checks/", body, format="json")
        self.assertIn("You wrote engine, first amount yourself", own.json()["detail"])
        self.oda.post(f"{self.url}checks/", body, format="json")
        self.assertEqual(self.row("engine//initial")["checked_by"], "Oda")

    def test_numbers_that_matter_are_approved_unchecked_only_by_name(self) -> None:
        self.write("engine//capacity.with filter", "3.7 qt", 1)
        self.write("engine//fluid.grade", "15W-50", 1)
        listed = self.api.get(self.url).json()["unchecked_numbers"]
        self.assertIn("engine//capacity.with filter", [number["path"] for number in listed])
        self.assertNotIn("engine//fluid.grade", [number["path"] for number in listed])
        silent = self.approve(unchecked=[])
        self.assertEqual((silent.status_code, silent.json()["code"]), (409, "spec.unchecked_left"))
        self.assertEqual(len(silent.json()["errors"]), len(listed))
        self.assertEqual(self.approve().status_code, 200)
        sheet = SpecSheet.objects.get(pk=self.page["id"])
        self.assertIn("engine//capacity.with filter", sheet.unchecked)

    def test_a_lead_does_not_approve_numbers_of_their_own(self) -> None:
        cell = {"path": "engine//capacity.with filter", "written": "3.7 qt", "revision": 1}
        self.oda.put(f"{self.url}cells/", {"cells": [cell]}, format="json")
        self.assertIn("You wrote", self.oda.get(self.url).json()["not_approvable"])
        own = self.approve()
        self.assertEqual((own.status_code, own.json()["code"]), (409, "spec.own_numbers"))
        self.api.post(f"{self.url}checks/", {"paths": [cell["path"]]}, format="json")
        self.assertEqual(self.approve().status_code, 200)

    def test_alone_a_lead_approves_what_names_its_document_and_page(self) -> None:
        cell = {"path": "engine//capacity.with filter", "written": "3.7 qt", "revision": 1}
        self.oda.put(f"{self.url}cells/", {"cells": [cell]}, format="json")
        Person.objects.exclude(username="oda").update(is_active=False)
        self.assertIn("document and page", self.oda.get(self.url).json()["not_approvable"])
        self.assertEqual(self.approve().json()["code"], "spec.own_unsourced")
        named = {**cell, "revision": 2, "written": "3.72 qt", "document": "manual", "page": "20"}
        self.oda.put(f"{self.url}cells/", {"cells": [named]}, format="json")
        self.assertEqual(self.oda.get(self.url).json()["not_approvable"], "")
        self.assertEqual(self.approve().status_code, 200)
        # until a second person checks it, nobody has
        sheet = SpecSheet.objects.get(pk=self.page["id"])
        self.assertIn(cell["path"], sheet.unchecked)

    def test_an_apprentice_checks_nothing(self) -> None:
        body = {"paths": ["engine//capacity.with filter"]}
        answer = self.signed_in("runa").post(f"{self.url}checks/", body, format="json")
        self.assertEqual((answer.status_code, answer.json()["code"]), (409, "spec.apprentice"))

    def test_a_doubt_has_to_be_answered_before_a_lead_approves(self) -> None:
        self.write("engine/drain plug/torque", "220 ft-lb", 1)
        answer = self.approve()
        self.assertEqual((answer.status_code, answer.json()["code"]), (409, "spec.doubts_left"))
        (doubt,) = self.api.get(self.url).json()["doubts"]
        reply = {k: doubt[k] for k in ("rule", "reservoir", "text")}
        empty = self.api.post(f"{self.url}answers/", {**reply, "reason": " "}, format="json")
        self.assertEqual(empty.status_code, 422)
        why = {**reply, "reason": "Printed so, and on the case."}
        self.api.post(f"{self.url}answers/", why, format="json")
        self.assertEqual(self.approve().status_code, 200)
        self.assertEqual(self.approve().json()["state"], "approved")

    def test_another_number_is_another_doubt(self) -> None:
        self.write("engine/drain plug/torque", "220 ft-lb", 1)
        (doubt,) = self.api.get(self.url).json()["doubts"]
        reply = {k: doubt[k] for k in ("rule", "reservoir", "text")}
        self.api.post(f"{self.url}answers/", {**reply, "reason": "so it is"}, format="json")
        self.write("engine/drain plug/torque", "250 ft-lb", 2)
        self.assertEqual(self.approve().status_code, 409)

    def test_who_may_what(self) -> None:
        piet = self.signed_in("piet")
        for api, path, method, code in (
            (self.api, "approval/", "post", 403),
            (self.api, "", "delete", 403),
            (piet, "approval/", "post", 403),
            (piet, "cells/", "put", 403),
            (piet, "", "get", 200),
            (self.oda, "", "delete", 204),
            (self.oda, "", "delete", 204),
        ):
            with self.subTest(path=path, method=method):
                answer = getattr(api, method)(f"{self.url}{path}", {}, format="json")
                self.assertEqual(answer.status_code, code)

    def test_visits_keep_the_version_they_were_opened_with(self) -> None:
        from visits.tests.bench import Technician

        mira = Technician(self.api, self.heron.pk)
        mira.open()
        self.write("engine//capacity.with filter", "3.9 qt", 1)
        self.approve()
        sheet = self.api.get(f"/api/visits/{mira.visit}/").json()
        self.assertEqual((sheet["sheet_version"], sheet["tasks"][0]["capacity"]), (1, "3454 ml"))

    def test_an_empty_sheet_is_not_approved(self) -> None:
        self.page = self.api.post("/api/models/", NEW, format="json").json()
        answer = self.approve()
        self.assertEqual((answer.status_code, answer.json()["code"]), (409, "spec.empty"))


class ModelTests(DraftCase):
    def test_a_model_is_made_once_and_named_properly(self) -> None:
        first = self.api.post("/api/models/", NEW, format="json")
        again = self.api.post("/api/models/", NEW, format="json")
        self.assertEqual((first.status_code, first.json()["id"]), (201, again.json()["id"]))
        for field, value in (
            ("make", " "),
            ("name", ""),
            ("year", 18),
            ("layout", "hovercraft"),
            ("displacement_cc", 0),
        ):
            with self.subTest(field):
                answer = self.api.post("/api/models/", {**NEW, field: value}, format="json")
                self.assertEqual(answer.status_code, 422)
                self.assertEqual(answer.json()["errors"][0]["pointer"], f"/{field}")

    def test_only_a_model_without_bikes_goes_and_only_by_a_lead(self) -> None:
        new = self.api.post("/api/models/", NEW, format="json").json()["model"]["id"]
        self.assertEqual(self.api.delete(f"/api/models/{new}/").status_code, 403)
        self.assertEqual(self.oda.delete(f"/api/models/{new}/").status_code, 204)
        self.assertEqual(self.oda.delete(f"/api/models/{new}/").status_code, 204)
        self.assertEqual(self.oda.delete(f"/api/models/{self.model.pk}/").status_code, 409)
        names = [m["name"] for m in self.api.get("/api/models/").json()["models"]]
        self.assertEqual(len(names), 6)

    def test_approved_sheets_of_a_model_taken_out_stay_and_come_back_with_it(self) -> None:
        approved = SpecSheet.objects.get(model=self.model, state="approved")
        values = approved.cells.count()
        with tampered():
            Bike.objects.filter(model=self.model).update(model_id=BikeModel.objects.latest("id").pk)
        url = f"/api/models/{self.model.pk}/"
        self.assertEqual([self.oda.delete(url).status_code for _ in range(2)], [204, 204])
        self.assertEqual(len(self.api.get("/api/models/").json()["models"]), 5)
        self.assertEqual(BikeModel.objects.get(pk=self.model.pk).gone_by, "Oda")
        self.assertEqual(approved.cells.count(), values)
        model = BikeModel.objects.get(pk=self.model.pk)
        body = {"make": model.make, "name": model.name, "year": str(model.year),
                "layout": model.layout, "displacement_cc": str(model.displacement_cc)}  # fmt: skip
        page = self.api.post("/api/models/", body, format="json").json()
        self.assertEqual(page["version"], 2)
        self.assertEqual(len(self.api.get("/api/models/").json()["models"]), 6)

    def test_what_a_sheet_lacks_is_copied_from_another(self) -> None:
        self.page = self.api.post("/api/models/", NEW, format="json").json()
        other = SpecSheet.objects.get(model__name="Colossine 1640", version=1)
        body = {"sheet": other.pk, "reservoirs": ["primary"]}
        page = self.api.post(f"{self.url}copy/", body, format="json").json()
        self.assertEqual([block["key"] for block in page["reservoirs"]], ["primary"])
        self.assertGreater(page["unchecked"], 3)
        count = SheetCell.objects.count()
        self.api.post(f"{self.url}copy/", body, format="json")
        self.assertEqual(SheetCell.objects.count(), count)


class FirstTimeTests(DraftCase):
    """A new sheet says what is usual, one tap each, and leads to what is missing."""

    def setUp(self) -> None:
        super().setUp()
        self.page = self.api.post("/api/models/", NEW, format="json").json()

    def add(self, **part: str) -> dict[str, Any]:
        return self.api.post(f"{self.url}parts/", part, format="json").json()

    def test_the_reservoirs_of_its_layout_are_offered_until_they_stand(self) -> None:
        self.assertEqual(self.page["doubts"], [])
        kinds = [one["kind"] for one in self.page["offered"]]
        self.assertEqual(kinds[:3], ["engine", "primary", "gearbox"])
        for _ in range(2):  # a tap that is sent twice adds one
            page = self.add(kind="fork leg", key="fork left", label="fork, left")
        self.assertEqual([block["label"] for block in page["reservoirs"]], ["fork, left"])
        self.assertNotIn("fork left", [one["key"] for one in page["offered"]])

    def test_every_field_a_kind_can_have_can_be_typed(self) -> None:
        for number, kind in enumerate(ReservoirKind):
            page = self.add(kind=kind.value, key=f"one {number}", label=f"one {number}")
            (block,) = (one for one in page["reservoirs"] if one["key"] == f"one {number}")
            shown = {
                row["path"].split("/")[2] for plate in block["plates"] for row in plate["rows"]
            }
            with self.subTest(kind):
                names = {field.name for field in fields_for(kind, KINDS[kind].fill_rule)}
                self.assertEqual(shown, names)

    def test_what_is_missing_leads_to_its_field_and_is_no_doubt(self) -> None:
        page = self.add(kind="engine", key="engine", label="engine")
        self.assertEqual(page["doubts"], [])
        missing = {line["path"]: line for line in page["missing"]}
        self.assertTrue(missing["engine//capacity.drain only"]["asked"])
        self.assertEqual(missing["engine/drain plug/place"]["add"], "drain plug")
        page = self.add(kind="drain plug", reservoir="engine", key="drain plug")
        self.assertNotIn("engine/drain plug/place", [line["path"] for line in page["missing"]])

    def test_one_sentence_says_what_to_type(self) -> None:
        self.add(kind="engine", key="engine", label="engine")
        answer = self.write("engine//capacity.drain only", ".", 0)
        said = self.sentence(answer, "/engine//capacity.drain only")
        self.assertEqual(said, "“.” is no amount. Type it like 2.7 l or 3 qt 4 oz.")
