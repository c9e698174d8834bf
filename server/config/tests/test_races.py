"""Two at the same moment: one is told, nothing is lost, nobody waits for ever. Twenty tries each."""

from functools import partial
from typing import Any
from unittest import mock
from uuid import uuid4

from demo.races import TRIES, RaceTestCase
from django.db import connection
from garage.models import OdometerReading, SheetCell
from planning.models import PlannedVisit
from planning.plans import orders
from planning.selectors import stale
from planning.services import roll_forward
from shelf.models import Fluid, StockLine
from shelf.stock import selectors as stock
from visits.models import EntryRow
from visits.tests.bench import Technician
from workshop import days
from workshop.models import Person


class VisitRaces(RaceTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.mira, self.oda = self.signed_in("mira"), self.signed_in("oda")
        self.bench = Technician(self.mira, self.heron.pk)
        self.bench.open()
        self.bench.until_fill()
        amount = self.bench.task["coach"]["amount"]
        self.first = self.bench.entry("pour", {"amount": amount}).body_sent
        self.url = f"/api/visits/{self.bench.visit}/entries/"

    def correction(self, old: str, ml: int) -> dict[str, Any]:
        return {**self.first, "id": str(uuid4()), "supersedes": old,
                "data": {"amount": f"{ml} ml", "sure": f"{ml} ml"}}  # fmt: skip

    def test_of_two_corrections_of_one_entry_exactly_one_is_written(self) -> None:
        old = self.first["id"]
        for n in range(TRIES):
            mine, theirs = self.correction(old, 3000 + n), self.correction(old, 3100 + n)
            answers = self.at_once(
                partial(self.mira.post, self.url, mine, format="json"),
                partial(self.oda.post, self.url, theirs, format="json"),
            )
            self.assertEqual(sorted(a.status_code for a in answers), [200, 409])
            (row,) = EntryRow.objects.filter(supersedes=old)
            told = next(a.json()["detail"] for a in answers if a.status_code == 409)
            self.assertIn("corrected this to", told)
            old = str(row.pk)

    def test_one_id_with_two_meanings_stands_once_and_the_other_is_told(self) -> None:
        old = self.first["id"]
        for n in range(TRIES):
            one = self.correction(old, 3000 + n)
            other = {**one, "data": {"amount": "3100 ml", "sure": "3100 ml"}}
            codes = self.codes(
                partial(self.mira.post, self.url, one, format="json"),
                partial(self.mira.post, self.url, other, format="json"),
            )
            self.assertEqual(sorted(codes), [200, 409])
            self.assertEqual(EntryRow.objects.filter(supersedes=old).count(), 1)
            old = one["id"]


class BikeRaces(RaceTestCase):
    def test_two_people_on_planned_visits_of_one_bike_never_wait_in_a_ring(self) -> None:
        mira, oda = self.signed_in("mira"), self.signed_in("oda")
        asked = {"proposed": False, "tasks": [{"reservoir": "primary", "variant": "drain only"}]}
        new = {"bike": str(self.heron.pk), "on": f"{days.today()}", "version": 0, "asked": asked}
        one, two = str(uuid4()), str(uuid4())
        for visit in (one, two):
            mira.post("/api/calendar/", {**new, "id": visit}, format="json")
        for n in range(TRIES):
            changed = {**asked, "pans": 1 + n % 2, "technicians": 1}
            bodies = [{**new, "id": v, "version": n + 1, "asked": changed} for v in (one, two)]
            if n == 0:
                bodies = [{**body, "asked": {**changed, "pans": 3}} for body in bodies]
            codes = self.codes(
                partial(mira.post, "/api/calendar/", bodies[0], format="json"),
                partial(oda.post, "/api/calendar/", bodies[1], format="json"),
            )
            self.assertLess(max(codes), 300, (n, codes))
        versions = PlannedVisit.objects.filter(pk__in=(one, two)).values_list("version", flat=True)
        self.assertEqual(list(versions), [TRIES + 1, TRIES + 1])

    def test_an_order_is_never_solved_inside_a_transaction(self) -> None:
        inside = []

        def watched(*args: Any, **more: Any) -> Any:
            inside.append(connection.in_atomic_block)
            return solve(*args, **more)

        solve = orders.solve_as_wished
        asked = {"proposed": False, "tasks": [{"reservoir": "primary", "variant": "drain only"}]}
        new = {"id": str(uuid4()), "bike": str(self.heron.pk), "on": f"{days.today()}"}
        with mock.patch("planning.plans.orders.solve_as_wished", watched):
            body = {**new, "version": 0, "asked": asked}
            self.signed_in("mira").post("/api/calendar/", body, format="json")
        self.assertEqual(inside, [False])

    def test_of_two_corrections_of_one_reading_exactly_one_is_written(self) -> None:
        oda, url = self.signed_in("oda"), f"/api/bikes/{self.heron.pk}/odometer/"
        for n in range(TRIES):
            line = oda.get(url).json()["lines"][0]
            km = [f"{98700 + 2 * n} km", f"{98701 + 2 * n} km"]
            codes = self.codes(
                *(
                    partial(
                        oda.post, f"{url}{line['id']}/correction/",
                        {"id": str(uuid4()), "seen": line["id"], "odometer": one, "reason": "r"},
                        format="json",
                    )
                    for one in km
                )
            )  # fmt: skip
            self.assertEqual(sorted(codes), [200, 409])
        corrected = OdometerReading.objects.filter(bike=self.heron, corrects__isnull=False)
        self.assertEqual(corrected.count(), TRIES)

    def test_a_school_changed_while_the_fleet_is_worked_out_is_not_missed(self) -> None:
        oda, today = self.signed_in("oda"), days.today()
        stands = ""
        for n in range(TRIES):
            choice = ("half the book", "as the manual says")[n % 2]
            body = {"kind": "engine", "topic": "interval", "bike": "", "seen": stands}
            answers = self.at_once(
                partial(oda.put, "/api/schools/", {**body, "choice": choice}, format="json"),
                partial(roll_forward, today),
            )
            self.assertEqual(answers[0].status_code, 200, answers[0].content)
            stands = choice
            roll_forward(today)
            self.assertEqual(stale(today).count(), 0)
            said = str(oda.get("/api/ward/?search=heron").json()["bikes"][0]["glasses"])
            self.assertEqual("half the book" in said, choice == "half the book")


class ShelfRaces(RaceTestCase):
    def test_two_pours_two_deliveries_and_two_counts(self) -> None:
        mira, oda = self.signed_in("mira"), self.signed_in("oda")
        fluid = Fluid.objects.get(name="Slipway 15")
        pk = str(uuid4())
        put = {"act": str(uuid4()), "id": pk, "fluid": fluid.pk, "version": 0, "size": "5 l"}
        self.assertEqual(mira.put("/api/shelf/bottles/", put, format="json").status_code, 200)
        for n in range(TRIES):
            uses = [{"act": str(uuid4()), "id": pk, "used": "100 ml"} for _ in range(2)]
            codes = self.codes(
                partial(mira.post, "/api/shelf/bottles/", uses[0], format="json"),
                partial(oda.post, "/api/shelf/bottles/", uses[1], format="json"),
                partial(oda.post, "/api/shelf/bottles/", uses[1], format="json"),
            )
            self.assertEqual(codes, [200, 200, 200], n)
            came = [{"act": str(uuid4()), "what": "ring", "bottles": [], "count": 3} for _ in "ab"]
            self.codes(
                partial(mira.post, "/api/shelf/arrivals/", came[0], format="json"),
                partial(oda.post, "/api/shelf/arrivals/", came[1], format="json"),
            )
            there = stock.drawer()["ring"]
            self.assertEqual(there, 6 * (n + 1))
        bottle = next(one.bottle for one in stock.bottles() if one.bottle.id == pk)
        self.assertEqual(bottle.left, 5000 - TRIES * 200)
        self.assertEqual(StockLine.objects.filter(bottle=pk, kind="used").count(), 2 * TRIES)


class SheetRaces(RaceTestCase):
    def test_an_approved_sheet_is_the_one_that_was_approved(self) -> None:
        mira, oda = self.signed_in("mira"), self.signed_in("oda")
        url = f"/api/models/{self.heron.model_id}/draft/"
        for n in range(TRIES):
            draft = mira.post(url).json()["id"]
            path = "engine//fluid.grade"
            row = SheetCell.objects.get(sheet=draft, reservoir="engine", field="fluid.grade")
            cell = {"path": path, "written": f"{5 + 5 * (n % 3)}W-50", "revision": row.revision}
            named = [
                one["path"] for one in oda.get(f"/api/sheets/{draft}/").json()["unchecked_numbers"]
            ]
            wrote, approved = self.codes(
                partial(mira.put, f"/api/sheets/{draft}/cells/", {"cells": [cell]}, format="json"),
                partial(
                    oda.post, f"/api/sheets/{draft}/approval/", {"unchecked": named}, format="json"
                ),
            )
            row.refresh_from_db()
            self.assertIn((wrote, approved), [(200, 200), (409, 200), (200, 409)])
            if wrote == 409:
                self.assertNotEqual(row.revision, cell["revision"] + 1)


class PeopleRaces(RaceTestCase):
    def person(self, number: int) -> dict[str, Any]:
        return {"id": str(uuid4()), "username": f"bram{number}", "name": f"Bram {number}",
                "role": "technician", "qualifications": []}  # fmt: skip

    def test_somebody_added_twice_at_once_is_one(self) -> None:
        first, second = self.signed_in("oda"), self.signed_in("oda")
        for number in range(TRIES):
            body = self.person(number)
            same = self.codes(
                partial(first.post, "/api/people/", body, format="json"),
                partial(second.post, "/api/people/", body, format="json"),
            )
            self.assertEqual(same, [201, 201])
            one, other = self.person(100 + number), self.person(100 + number)
            codes = self.codes(
                partial(first.post, "/api/people/", one, format="json"),
                partial(second.post, "/api/people/", other, format="json"),
            )
            self.assertEqual(sorted(codes), [201, 422])

    def test_of_two_leads_who_end_each_others_lead_one_stays(self) -> None:
        leads = [self.signed_in(name) for name in ("oda", "mira")]
        for _ in range(TRIES):
            Person.objects.filter(username__in=("oda", "mira")).update(role="lead")
            lines = self.people()
            codes = self.codes(
                *(
                    partial(
                        leads[mine].put,
                        f"/api/people/{lines[name]['id']}/",
                        {**lines[name], "role": "technician"},
                        format="json",
                    )
                    for mine, name in ((0, "mira"), (1, "oda"))
                )
            )
            self.assertEqual(codes.count(200), 1, codes)
            self.assertLess(max(codes), 500, codes)
            self.assertEqual(Person.objects.filter(role="lead").count(), 1)

    def people(self) -> dict[str, dict[str, Any]]:
        told = self.signed_in("oda").get("/api/people/").json()["people"]
        return {line["username"]: line for line in told}
