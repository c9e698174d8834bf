"""A visit from due to signed, through the API, and everything that must not happen to it."""

from datetime import datetime, timedelta
from decimal import Decimal
from typing import Any
from uuid import uuid4

from demo.testing import WorkshopTestCase
from django.db import DatabaseError, transaction
from django.utils import timezone
from findings.models import Finding
from garage.models import Bike, OdometerReading, OwnCell
from workshop.models import Person

from visits.models import EntryRow, Service, TopUp, Visit
from visits.tests.bench import Technician

PASTE = {"form": "paste", "matter": "steel", "share_percent": 25, "largest": ""}


class VisitTestCase(WorkshopTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.mira = Technician(self.api, self.heron.pk)

    def lead_says(self, kind: str, data: dict[str, Any], step: str) -> Any:
        """What Oda writes down at it, on her own tablet; the visit goes on with Mira."""
        oda = Technician(self.signed_in("oda"), self.heron.pk)
        oda.visit, oda.now, oda.sheet = self.mira.visit, self.mira.now, self.mira.sheet
        answer = oda.entry(kind, data, step=step)
        self.mira.now, self.mira.sheet = oda.now, oda.sheet
        return answer


class JourneyTests(VisitTestCase):
    def test_from_due_to_signed(self) -> None:
        before = self.api.get(f"/api/bikes/{self.heron.pk}/").json()
        self.assertEqual(before["reservoirs"][0]["glass"]["state"], "due")
        self.mira.whole(parts=[PASTE])
        self.assertTrue(self.mira.sheet["ready_to_sign"])
        self.assertEqual(self.mira.sign().status_code, 200)
        self.assertEqual(
            (self.mira.sheet["state"], self.mira.sheet["closed_by"]), ("signed", "Mira")
        )
        engine = self.api.get(f"/api/bikes/{self.heron.pk}/").json()["reservoirs"][0]
        self.assertEqual(engine["glass"]["state"], "fine")
        self.assertIn("in 4500", engine["glass"]["when"].replace("\xa0", " "))
        latest = engine["services"][0]
        self.assertEqual((latest["took"], latest["drained"]), (self.mira.task["added"], "3454 ml"))
        self.assertEqual(engine["findings"][0]["level"], "routine")

    def test_what_it_took_is_learned(self) -> None:
        self.mira.whole()
        self.mira.sign()
        service = Service.objects.get(visit_id=self.mira.visit)
        self.assertEqual(service.took_ml, Decimal(self.mira.task["added"].split()[0]))
        # it stood a little below the arrow: what brings it there is a little more
        self.assertGreater(service.takes_ml, service.took_ml)
        self.assertLess(service.takes_ml, service.took_ml + 60)
        again = Technician(self.api, self.heron.pk)
        again.open("61 400")
        reasons = {why["rule"]: why["text"] for why in again.task["coach"]["reasons"]}
        self.assertIn(f"{service.takes_ml:.0f}", reasons["learned capacity"])

    def test_how_far_the_level_fell_at_the_first_start_is_learned(self) -> None:
        self.mira.open()
        self.mira.until_fill()
        self.mira.entry("pour", {"amount": self.mira.task["coach"]["amount"]})
        self.mira.now += timedelta(minutes=2)
        self.mira.entry(
            "level",
            {"sight": "seen", "position": "0.8", "attitude": "upright"},
            step="engine/fill.1",
        )
        self.assertEqual(self.mira.last.status_code, 200, self.mira.last.content)
        self.mira.tick()
        self.mira.wait(2)
        self.mira.now += timedelta(minutes=3)
        self.mira.entry("level", {"sight": "seen", "position": "0.65", "attitude": "upright"})
        self.mira.dry()
        self.mira.tick()
        self.assertEqual(self.mira.sign().status_code, 200, self.mira.last.content)
        signed = Service.objects.get(visit_id=self.mira.visit)
        # a fifth of what is between the marks, and what the filter was pre-filled with
        self.assertGreater(signed.fell_ml, 148)
        again = Technician(self.api, self.heron.pk)
        again.open("61 400")
        why = {why["rule"]: why["text"] for why in again.task["coach"]["reasons"]}
        self.assertIn("seen once before", why["first start"])

    def test_how_far_a_lift_tilts_its_gauge_is_learned(self) -> None:
        for visit, odometer in enumerate(("61 300", "61 400", "61 500")):
            if visit:
                self.mira = Technician(self.api, self.heron.pk)
            self.mira.open(odometer)
            if visit == 2:
                break
            self.mira.until_fill()
            self.mira.pour()
            self.mira.wait(2)
            self.mira.now += timedelta(minutes=3)
            for position, attitude in (("0.84", "lifted"), ("0.72", "upright")):
                self.mira.entry(
                    "level", {"sight": "seen", "position": position, "attitude": attitude}
                )
            self.mira.dry()
            self.mira.tick()
            self.assertEqual(self.mira.sign().status_code, 200, self.mira.last.content)
        kept = Service.objects.filter(bike=self.heron, tilt__isnull=False)
        self.assertEqual([row.tilt for row in kept], [Decimal("0.12")] * 2)
        self.mira.until_fill()
        self.mira.pour()
        self.mira.wait(2)
        self.mira.now += timedelta(minutes=3)
        self.mira.entry("level", {"sight": "seen", "position": "0.84", "attitude": "lifted"})
        self.assertIn("counted as 72%", self.mira.step("engine/level.1")["remark"])
        self.assertEqual(self.mira.sheet["focus"], "leaks")

    def test_a_bike_that_is_new_here_begins_with_what_its_model_took(self) -> None:
        others = [
            Bike.objects.create(
                model=self.heron.model, name=name, records="some", odometer_unit="km"
            )
            for name in ("Second", "Third", "Fourth")
        ]
        for bike in others:
            self._took(bike, "3300")
        wide = others[2]  # its sump is another one
        OwnCell.objects.create(
            bike=wide,
            reservoir="engine",
            field="capacity.with filter",
            written="4 l",
            low=4000,
            high=4000,
            entered_by="Oda",
            entered_on=timezone.now(),
        )
        self._took(others[0], "3310")
        new = Bike.objects.create(
            model=self.heron.model, name="Fifth", records="none", odometer_unit="km"
        )
        here = Technician(self.api, new.pk)
        here.open("20 000")
        why = {why["rule"]: why["text"] for why in here.task["coach"]["reasons"]}
        self.assertIn("(7 fillings of 3 bikes)", why["model's capacity"])
        # what is learned meanwhile does not change what the visit was opened with
        self._took(others[1], "3100")
        again = self.api.get(f"/api/visits/{here.visit}/").json()["tasks"][0]["coach"]["reasons"]
        self.assertIn("(7 fillings of 3 bikes)", str(again))

    def _took(self, bike: Bike, ml: str) -> None:
        reading = OdometerReading.objects.create(
            bike=bike,
            km=9000,
            as_written="9000",
            read_on=timezone.now(),
            read_by=Person.objects.get(username="oda"),
        )
        Service.objects.create(
            bike=bike,
            reservoir="engine",
            variant="with filter",
            done_on=timezone.now(),
            reading=reading,
            took_ml=ml,
            done_by="Oda",
        )

    def test_a_plug_closed_early_is_no_oil_change(self) -> None:
        before = Service.objects.filter(bike=self.heron, reservoir="engine").count()
        self.mira.open()
        self.mira.until_drained()
        self.mira.entry("amount", {"amount": "400 ml"})
        self.mira.entry("answer", {"value": "closed early"}, step="engine/all out")
        self.mira.entry("finding", {"parts": [], "oil": ["dark"]}, step="engine/inspect")
        self.mira.entry("answer", {"value": "new"})
        self.mira.tick()
        torque = self.mira.task["torque"]
        self.mira.entry("torque", {"reading": torque["aim"], "wrench": self.mira.wrench_id})
        self.mira.entry("skip", {"reason": "wrong plug"}, step="engine/filter")
        self.assertEqual(self.mira.task["coach"]["amount"], "400 ml")
        self.mira.round("0.6")
        self.mira.pour("60 ml", sure="60 ml")
        self.mira.wait(2)
        self.mira.now += timedelta(minutes=3)
        self.mira.entry("level", {"sight": "seen", "position": "0.75", "attitude": "upright"})
        self.mira.dry()
        self.mira.tick()
        self.assertEqual(self.mira.sign().status_code, 200, self.mira.last.content)
        self.assertEqual(
            Service.objects.filter(bike=self.heron, reservoir="engine").count(), before
        )
        added = TopUp.objects.get(bike=self.heron, reservoir="engine")
        self.assertEqual(added.ml, 60)
        bike = self.api.get(f"/api/bikes/{self.heron.pk}/").json()
        self.assertEqual(bike["reservoirs"][0]["glass"]["state"], "due")

    def test_an_old_sheet_reads_as_it_did_after_later_services(self) -> None:
        self.mira.whole(parts=[PASTE])
        self.mira.sign()
        then = {**self.mira.sheet, "now": ""}
        later = Technician(self.api, self.heron.pk)
        later.now += timedelta(days=5)
        later.open("62 900")
        later.until_fill()
        later.round("0.75")
        later.dry()
        later.tick()
        self.assertEqual(later.sign().status_code, 200)
        self.assertNotEqual(later.task["coach"]["reasons"], then["tasks"][0]["coach"]["reasons"])
        now = self.api.get(f"/api/visits/{self.mira.visit}/").json()
        self.assertEqual({**now, "now": ""}, then)

    def test_a_gauge_that_cannot_be_read_is_a_leads_to_say_and_filled_by_the_book(self) -> None:
        self.mira.open()
        self.mira.until_fill()
        self.mira.pour()
        self.mira.wait(2)
        blind = {"cause": "unreadable", "words": "the glass is blind"}
        alone = self.mira.entry("cause", blind)
        self.assertEqual((alone.status_code, alone.json()["code"]), (422, "visit.gauge_lead"))
        said = self.lead_says("cause", blind, "engine/level.1")
        self.assertEqual(said.status_code, 200, said.content)
        self.mira.pour()
        self.mira.dry()
        self.mira.tick()
        self.assertEqual(self.mira.sign().status_code, 200, self.mira.last.content)
        row = Service.objects.get(visit_id=self.mira.visit)
        self.assertEqual(
            row.not_learned, "The gauge cannot be read, by the book: the glass is blind"
        )

    def test_a_level_that_is_left_is_asked_for_at_the_next_look(self) -> None:
        self.mira.open()
        self.mira.until_fill()
        self.mira.round("0.45")
        left = self.mira.entry("left", {"reason": "owner"})
        self.assertEqual(left.status_code, 200, left.content)
        self.mira.dry()
        self.mira.tick()
        self.assertEqual(self.mira.sign().status_code, 200, self.mira.last.content)
        again = Technician(self.api, self.heron.pk)
        again.open("61 900")
        again.tick()
        self.assertIn("the owner tops up", again.step("engine/came")["instruction"])

    def test_a_take_against_the_book_is_kept_and_not_learned(self) -> None:
        self.mira.open()
        self.mira.until_fill()
        self.mira.pour("3.75 l", sure="3.75 l")
        self.mira.wait(2)
        self.mira.now += timedelta(minutes=3)
        self.mira.entry("level", {"sight": "seen", "position": "0.75", "attitude": "upright"})
        self.assertEqual(self.mira.task["coach"]["action"], "stop")
        alone = self.mira.entry("cause", {"cause": "gauge"})
        self.assertEqual((alone.status_code, alone.json()["code"]), (422, "visit.gauge_lead"))
        stood = self.lead_says("cause", {"cause": "gauge"}, "engine/level.1")
        self.assertEqual(stood.status_code, 200, stood.content)
        self.assertEqual(self.mira.task["coach"]["action"], "done")
        self.mira.dry()
        self.mira.tick()
        self.assertEqual(self.mira.sign().status_code, 200)
        self.assertEqual(
            Service.objects.get(visit_id=self.mira.visit).not_learned,
            "Gauge and book disagreed. Named as the cause: The gauge is right: a lead stands by it.",
        )
        engine = self.api.get(f"/api/bikes/{self.heron.pk}/").json()["reservoirs"][0]
        self.assertEqual(engine["expected_take"], "3390 ml ± 41 ml, against 3454 ml in the book")

    def test_the_first_amount_and_the_wrench_come_from_the_sheet(self) -> None:
        self.mira.open()
        torque = self.mira.task["torque"]
        self.assertEqual(torque["manual"], "18-25 ft-lb")
        best = torque["wrenches"][0]
        self.assertEqual(best["converted"], "24.4–33.9 N·m")
        # the middle: 21.5 lbf·ft = 29.15 N·m, on a scale in steps of 0.5
        self.assertEqual(best["setting"], "29 N·m")

    def test_drain_only_takes_another_capacity_and_no_filter(self) -> None:
        self.mira.open(variant="drain only")
        self.assertEqual(self.mira.task["capacity"], "3170 ml")
        self.assertNotIn("engine/filter", [step["id"] for step in self.mira.sheet["steps"]])

    def test_an_exact_reservoir_goes_through(self) -> None:
        self.mira.open(variant="drain only", key="primary")
        self.mira.until_drained()
        self.mira.entry("skip", {"reason": "jug in use"})
        self.mira.entry("finding", {"parts": [], "oil": []})
        self.mira.entry("answer", {"value": "new"})
        self.mira.tick()
        self.mira.entry("torque", {"reading": "170", "unit": "lbf·in"})
        self.mira.pour("34 oz")
        self.assertEqual(self.mira.sheet["focus"], "primary/torque cover.cover screw")
        self.mira.torqued()
        self.assertEqual(self.mira.sheet["focus"], "primary/torque filler")
        self.mira.torqued()
        self.assertEqual(self.mira.sheet["focus"], "leaks")

    def test_leaving_before_draining_needs_a_reason(self) -> None:
        self.mira.open()
        self.assertEqual(self.mira.leave(" ").status_code, 422)
        self.assertEqual(self.mira.leave("Owner came early").status_code, 200)
        self.assertEqual(self.mira.sheet["state"], "left")
        self.assertEqual(self.mira.leave("Owner came early").status_code, 200)
        self.assertFalse(Service.objects.filter(visit_id=self.mira.visit).exists())
        self.assertEqual(Technician(self.api, self.heron.pk).open("61 301").status_code, 201)

    def test_leaving_with_the_oil_out_is_refused(self) -> None:
        self.mira.open()
        self.mira.until_fill()
        answer = self.mira.leave("Lunch")
        self.assertEqual(answer.status_code, 409)
        self.assertIn("The oil is out", self.sentence(answer))


class RepeatTests(VisitTestCase):
    """Everything sent twice stands once."""

    def test_opening(self) -> None:
        self.assertEqual(self.mira.open().status_code, 201)
        self.assertEqual(self.mira.open().status_code, 201)
        self.assertEqual(Visit.objects.count(), 1)
        self.assertEqual(OdometerReading.objects.filter(pk=self.mira.visit).count(), 1)

    def test_entries(self) -> None:
        self.mira.open()
        first = self.mira.tick()
        state = self.mira.sheet
        again = self.mira._post(f"/api/visits/{self.mira.visit}/entries/", first.body_sent)
        self.assertEqual(again.status_code, 200)
        self.assertEqual(self.mira.sheet["steps"], state["steps"])
        self.assertEqual(EntryRow.objects.count(), 1)

    def test_an_id_used_for_something_else_clashes(self) -> None:
        self.mira.open()
        first = self.mira.tick()
        answer = self.mira.entry("start", id=first.body_sent["id"])
        self.assertEqual((answer.status_code, EntryRow.objects.count()), (409, 1))

    def test_the_same_id_with_other_data_is_refused_not_swallowed(self) -> None:
        self.mira.open()
        self.mira.until_fill()
        first = self.mira.entry("pour", {"amount": self.mira.task["coach"]["amount"]})
        other = {**first.body_sent, "data": {"amount": "3.3 l"}}
        answer = self.mira._post(f"/api/visits/{self.mira.visit}/entries/", other)
        self.assertEqual((answer.status_code, answer.json()["code"]), (409, "visit.id_taken"))
        again = self.mira._post(f"/api/visits/{self.mira.visit}/entries/", first.body_sent)
        self.assertEqual(again.status_code, 200)

    def test_of_two_corrections_of_one_entry_the_second_is_told(self) -> None:
        self.mira.open()
        self.mira.until_fill()
        first = self.mira.entry("pour", {"amount": self.mira.task["coach"]["amount"]})
        corrects = {"step": "engine/fill.1", "supersedes": first.body_sent["id"]}
        oda = Technician(self.signed_in("oda"), self.heron.pk)
        oda.visit, oda.sheet, oda.now = self.mira.visit, self.mira.sheet, self.mira.now
        mine = self.mira.entry("pour", {"amount": "3.0 l"}, **corrects)
        self.assertEqual(mine.status_code, 200)
        late = oda.entry("pour", {"amount": "3.1 l"}, **corrects)
        self.assertEqual((late.status_code, late.json()["code"]), (409, "visit.corrected"))
        self.assertIn("Mira corrected this to 3000 ml", self.sentence(late))
        retried = self.mira._post(f"/api/visits/{self.mira.visit}/entries/", mine.body_sent)
        self.assertEqual(retried.status_code, 200)
        self.assertEqual(self.mira.step("engine/fill.1")["entry"]["result"], "3000 ml")

    def test_an_id_of_another_visit_clashes(self) -> None:
        self.mira.open()
        first = self.mira.tick()
        other = Technician(self.api, Bike.objects.get(name="Red Buoy").pk)
        other.open("31 900")
        answer = other.entry("confirm", {"items": []}, id=first.body_sent["id"])
        self.assertEqual(answer.status_code, 409)

    def test_signing(self) -> None:
        self.mira.whole(parts=[PASTE])
        found = Finding.objects.count()
        self.mira.sign()
        self.assertEqual(self.mira.sign().status_code, 200)
        self.assertEqual(Service.objects.filter(visit_id=self.mira.visit).count(), 1)
        self.assertEqual(Finding.objects.count(), found + 1)

    def test_two_technicians_on_one_step(self) -> None:
        self.mira.open()
        oda = Technician(self.signed_in("oda"), self.heron.pk)
        oda.visit, oda.sheet = self.mira.visit, self.mira.sheet
        self.mira.tick()
        answer = oda.tick()
        self.assertEqual(answer.status_code, 409)
        self.assertRegex(self.sentence(answer), r"was written down by Mira at \d\d:\d\d")

    def test_one_open_visit_a_bike(self) -> None:
        self.mira.open()
        answer = Technician(self.api, self.heron.pk).open("61 301")
        self.assertEqual(answer.status_code, 409)
        self.assertIn("already has an open visit", self.sentence(answer))


class GuardTests(VisitTestCase):
    """What the server does not take."""

    def test_bad_input_gets_a_sentence_at_its_field_and_writes_nothing(self) -> None:
        self.mira.open()
        self.mira.until_fill()
        count = EntryRow.objects.count()
        for amount, words in (
            ("20 N·m", "That is a torque"),
            ("2,750 l", "Is that 2.75 l or 2750 l?"),
            ("", "Nothing typed yet"),
            ("-300 ml", "cannot be below zero"),
        ):
            with self.subTest(amount):
                answer = self.mira.entry("pour", {"amount": amount})
                self.assertEqual(answer.status_code, 422)
                self.assertIn(words, self.sentence(answer, "/amount"))
        self.assertEqual(EntryRow.objects.count(), count)

    def test_what_is_far_from_expected_is_asked_and_the_answer_is_kept(self) -> None:
        self.mira.open()
        self.mira.until_fill()
        asked = self.mira.entry("pour", {"amount": "3,3"})
        self.assertEqual(asked.status_code, 422)
        problem = asked.json()
        self.assertTrue(problem["question"])
        self.assertEqual((problem["title"], problem["code"]), ("One question", "expected.slip"))
        (error,) = problem["errors"]
        self.assertEqual((error["pointer"], error["sure"]), ("/amount", "3.3 ml"))
        self.assertEqual(error["options"], ["3.3 l", "3.3 ml"])
        self.assertIn("the coach says pour", error["detail"])
        far = self.mira.entry("pour", {"amount": "4 l"}).json()
        self.assertEqual((far["code"], far["errors"][0]["sure"]), ("expected.far", "4 l"))
        stands = self.mira.entry("pour", {"amount": "4 l", "sure": "4 l"})
        self.assertEqual(stands.status_code, 200)
        row = EntryRow.objects.get(pk=stands.body_sent["id"])
        self.assertEqual(row.data["asked"]["code"], "expected.far")
        self.assertIn("it stands, though", self.mira.step("engine/fill.1")["entry"]["result"])

    def test_more_than_it_holds_is_a_leads_and_far_more_nobodys(self) -> None:
        self.mira.open()
        self.mira.until_fill()
        poured = self.mira.entry("pour", {"amount": "33 l", "sure": "33 l"})
        self.assertEqual(poured.status_code, 200)
        (stop,) = self.mira.sheet["stops"]
        self.assertTrue(stop["lasts"])
        said = {"entry": stop["entry"], "reason": "It is right"}
        refused = self.lead_says("answered", said, stop["step"])
        self.assertEqual((refused.status_code, refused.json()["code"]), (422, "visit.lasts"))
        first = poured.body_sent["id"]
        self.mira.entry(
            "pour", {"amount": "4 l", "sure": "4 l"}, step="engine/fill.1", supersedes=first
        )
        (stop,) = self.mira.sheet["stops"]
        self.assertTrue(stop["hold"])
        said = {"entry": stop["entry"], "reason": "Tall filter housing"}
        alone = self.mira.entry("answered", said, step=stop["step"])
        self.assertEqual(alone.json()["code"], "visit.hold_lead")
        self.assertEqual(self.lead_says("answered", said, stop["step"]).status_code, 200)
        self.assertEqual(self.mira.sheet["stops"], [])

    def test_a_share_over_100_percent(self) -> None:
        self.mira.open()
        self.mira.until_drained()
        self.mira.entry("skip", {"reason": "no jug"})
        answer = self.mira.entry("finding", {"parts": [{**PASTE, "share_percent": 140}], "oil": []})
        self.assertEqual(answer.status_code, 422)
        self.assertIn("0 to 100 %", self.sentence(answer, "/share"))

    def test_an_odometer_below_the_last(self) -> None:
        answer = self.mira.open("61000")
        self.assertEqual(answer.status_code, 422)
        self.assertIn("stood at 61\u00a0240 mi last time", self.sentence(answer, "/odometer"))
        self.assertEqual(Visit.objects.count(), 0)
        self.assertEqual(self.mira.open("98 700 km").status_code, 201)

    def test_what_goes_against_a_need_is_asked_kept_and_stops_the_visit(self) -> None:
        self.mira.open()
        asked = self.mira.entry("start", step="engine/drain")
        self.assertEqual((asked.status_code, asked.json()["code"]), (422, "sheet.not_yet"))
        self.assertIn("the engine's filler is not proven", self.sentence(asked, "/accepts"))
        said = asked.json()["errors"][0]["sure"]
        done = self.mira.entry("start", step="engine/drain", accepts=said)
        self.assertEqual(done.status_code, 200)
        (stop,) = self.mira.sheet["stops"]
        self.assertIn("filler is not proven", stop["text"])
        self.assertFalse(self.mira.sheet["may_leave"])
        answer = {"entry": stop["entry"], "reason": "Tried afterwards: it opens"}
        self.mira.entry("answered", answer, step=stop["step"])
        self.assertEqual(self.mira.sheet["stops"], [])

    def test_signing_needs_everything_done(self) -> None:
        self.mira.open()
        answer = self.mira.sign()
        self.assertEqual(answer.status_code, 409)
        self.assertIn("Cold checks", self.sentence(answer))

    def test_a_signed_visit_is_closed(self) -> None:
        self.mira.whole()
        self.mira.sign()
        answer = self.mira.entry("confirm", {"items": []}, step="cold")
        self.assertEqual(answer.status_code, 409)
        self.assertIn("closed", self.sentence(answer))
        self.assertEqual(self.mira.leave("x").status_code, 409)

    def test_a_tablets_clock_that_is_off_is_measured_and_its_entries_placed_by_it(self) -> None:
        for ahead in (timedelta(hours=1), timedelta(hours=-5), timedelta(0)):
            with self.subTest(ahead=ahead):
                mira = Technician(self.api, self.heron.pk)
                mira.open("61 300")
                mira.now += timedelta(minutes=10)
                mira.look_over()
                happened = mira.now - timedelta(minutes=3)
                sent = {"at": f"{(happened + ahead).isoformat()}"}
                sent["sent_at"] = (mira.now + ahead).isoformat()
                self.assertEqual(mira.entry("start", **sent).status_code, 200)
                self.assertEqual(mira.step("warm")["started_at"], happened.isoformat())
                mira.leave("next clock")

    def test_a_time_ahead_is_now_and_an_old_one_is_kept(self) -> None:
        self.mira.open()
        self.mira.now += timedelta(minutes=10)
        self.mira.look_over()
        now = self.mira.now
        ahead = (now + timedelta(hours=1)).isoformat()
        self.assertEqual(self.mira.entry("start", at=ahead).status_code, 200)
        self.assertEqual(self.mira.step("warm")["started_at"], now.isoformat())

    def test_times_before_the_visit_count_from_its_opening(self) -> None:
        opened = self.mira.now
        self.mira.open()
        self.mira.now += timedelta(minutes=1)
        self.mira.look_over()
        self.mira.entry("start", at=(opened - timedelta(days=3)).isoformat())
        self.assertEqual(self.mira.step("warm")["started_at"], opened.isoformat())

    def test_correcting_needs_an_entry_of_the_same_step(self) -> None:
        self.mira.open()
        first = self.mira.tick()
        items = first.body_sent["data"]
        wrong = self.mira.entry("confirm", items, step="cold", supersedes=str(uuid4()))
        self.assertEqual(wrong.status_code, 404)
        right = self.mira.entry("confirm", items, step="cold", supersedes=first.body_sent["id"])
        self.assertEqual(right.status_code, 200)
        self.assertEqual(EntryRow.objects.count(), 2)

    def test_a_reader_cannot_write(self) -> None:
        self.mira.open()
        piet = Technician(self.signed_in("piet"), self.heron.pk)
        piet.visit, piet.sheet = self.mira.visit, self.mira.sheet
        self.assertEqual(piet.tick().status_code, 403)
        self.assertEqual(piet.sign().status_code, 403)
        self.assertEqual(piet.api.get(f"/api/visits/{self.mira.visit}/").status_code, 200)

    def test_unknown_reservoir_or_variant(self) -> None:
        self.assertEqual(self.mira.open(key="boiler").status_code, 422)
        answer = self.mira.open(variant="half")
        self.assertIn("with filter", self.sentence(answer, "/variant"))
        answer = self.mira.open(key="primary", variant="with filter")
        self.assertIn("no capacity for this job", self.sentence(answer, "/variant"))
        self.assertEqual(Visit.objects.count(), 0)

    def test_nonsense_bodies(self) -> None:
        self.mira.open()
        path = f"/api/visits/{self.mira.visit}/entries/"
        self.assertEqual(self.api.post(path, {"id": 1}, format="json").status_code, 400)
        answer = self.mira.entry("confirm", {}, id="not-a-uuid")
        self.assertEqual(answer.status_code, 404)

    def test_the_database_refuses_to_change_an_entry(self) -> None:
        self.mira.open()
        self.mira.tick()
        for write in (
            lambda: EntryRow.objects.update(kind="skip"),
            lambda: EntryRow.objects.all().delete(),
        ):
            with self.assertRaises(DatabaseError) as caught, transaction.atomic():
                write()
            self.assertIn("permission denied", str(caught.exception))


class PracticeClockTests(VisitTestCase):
    def test_minutes_follow_the_practice_clock(self) -> None:
        with self.settings(SECONDS_PER_MINUTE=2):
            self.mira.open()
            self.mira.look_over()
            self.mira.entry("start")
            step = self.mira.step("warm")
            self.assertEqual(self.mira.sheet["seconds_per_minute"], 2)
        start, end = (datetime.fromisoformat(step[name]) for name in ("started_at", "ends_at"))
        self.assertEqual((end - start).total_seconds(), 20)
