"""A visit in several hands: interrupted, handed over, written down late."""

from datetime import timedelta
from typing import Any
from uuid import UUID

from demo.as_in_use import tampered
from workshop.models import Person

from visits.ahead.services import look_ahead
from visits.minutes import learned
from visits.models import EntryRow
from visits.tests.bench import Technician
from visits.tests.test_visit import VisitTestCase


class SharedTests(VisitTestCase):
    def oda(self) -> Technician:
        """A second person at the same visit, with a tablet of her own."""
        oda = Technician(self.signed_in("oda"), self.heron.pk)
        oda.visit, oda.now, oda.sheet = self.mira.visit, self.mira.now, self.mira.sheet
        return oda

    def test_what_is_remembered_stands_at_its_time_and_says_so(self) -> None:
        mira = self.mira
        mira.open()
        opened = mira.now
        mira.now += timedelta(minutes=40)
        earlier = (opened + timedelta(minutes=10)).isoformat()
        items = mira.ticks("cold")
        mira.entry(
            "confirm", {"items": items}, at=earlier, sent_at=mira.now.isoformat(), remembered=True
        )
        said = mira.step("cold")["entry"]
        self.assertEqual((said["at"], said["remembered"]), (earlier, True))
        corrected = mira.entry("confirm", {"items": items}, step="cold", supersedes=said["id"])
        self.assertEqual(corrected.status_code, 200)
        self.assertTrue(mira.step("cold")["entry"]["remembered"])

    def test_work_remembered_takes_away_the_need_it_was_missing_for(self) -> None:
        mira = self.mira
        mira.open()
        mira.look_over()
        mira.wait(10)
        mira.tick()
        before = mira.now - timedelta(seconds=2)
        drained = mira.entry("start", step="engine/drain")
        asked = drained.json()["errors"][0]["sure"]
        mira.entry("start", step="engine/drain", accepts=asked)
        self.assertEqual(len(mira.sheet["stops"]), 1)
        mira.entry(
            "answer",
            {"value": "open"},
            step="engine/filler",
            at=before.isoformat(),
            sent_at=mira.now.isoformat(),
            remembered=True,
        )
        self.assertEqual(mira.last.status_code, 200, mira.last.content)
        self.assertEqual(mira.sheet["stops"], [])

    def test_minutes_are_learned_by_person_but_not_of_what_was_remembered(self) -> None:
        for number in range(3):
            mira = Technician(self.api, self.heron.pk)
            mira.now = self.mira.now + timedelta(days=number)
            mira.whole()
            self.assertEqual(mira.sign().status_code, 200, mira.last.content)
        self.assertTrue(learned())
        mine, hers = (Person.objects.get(username=name).pk for name in ("mira", "oda"))
        self.assertEqual(learned([mine]), learned())
        self.assertEqual(learned([hers]), {})
        with tampered():
            # she was at one of them too: what they did together says nothing of one
            other = EntryRow.objects.filter(kind="leaks").exclude(visit=mira.visit).first()
            assert other is not None
            EntryRow.objects.filter(pk=other.pk).update(by=hers)
        self.assertEqual(learned([mine]), {})
        with tampered():
            rows = EntryRow.objects.filter(visit=mira.visit, kind="leaks")
            rows.update(data={"dry": True, "remembered": True})
        self.assertEqual(learned(), {})

    def test_a_visit_that_waits_says_for_what_and_since_when_in_the_ward_too(self) -> None:
        mira = self.mira
        mira.open()
        mira.until_drained()
        since = mira.now
        mira.entry("waits", {"what": "a part", "words": "crush washer 12 mm"})
        self.assertEqual(mira.sheet["waits"]["words"], "a part: crush washer 12 mm")
        open_points = [point["text"] for point in mira.sheet["open_points"]]
        self.assertIn("engine: no oil in; nobody starts the engine", open_points)
        row = next(b for b in self.api.get("/api/ward/").json()["bikes"] if b["visit"])
        self.assertEqual(row["visit"]["step"], "Waits for a part: crush washer 12 mm")
        self.assertEqual(row["visit"]["since"], since.isoformat())
        mira.now += timedelta(days=1)
        mira.entry("goes on")
        self.assertIsNone(mira.sheet["waits"])
        row = next(b for b in self.api.get("/api/ward/").json()["bikes"] if b["visit"])
        self.assertEqual(
            (row["visit"]["step"], row["visit"]["since"]), ("Measure what came out", None)
        )

    def test_whoever_takes_over_puts_a_hand_on_what_is_finger_tight(self) -> None:
        mira = self.mira
        mira.open()
        mira.until_drained()
        mira.entry("amount", {"amount": mira.task["capacity"]})
        mira.entry("finding", {"parts": [], "oil": ["dark"]})
        mira.entry("answer", {"value": "new"})
        mira.tick()
        self.assertEqual(mira.sheet["in_hands_of"], "Mira")
        oda = self.oda()
        refused = oda.entry("takes over", {"hands": []})
        plug = "engine: drain plug finger-tight only"
        self.assertEqual(refused.status_code, 422)
        self.assertIn(plug, self.sentence(refused, "/hands"))
        self.assertEqual(oda.entry("takes over", {"hands": ["engine/drain plug"]}).status_code, 200)
        self.assertEqual(oda.sheet["in_hands_of"], "Oda")

    def test_what_the_owner_wants_and_how_it_rode_come_back_at_the_end(self) -> None:
        mira = self.mira
        engine = {"reservoir": "engine", "variant": "with filter"}
        mira.open_for([engine], "61 300", wants=" shifts badly cold ", ride_in="first gear hard")
        mira.until_fill()
        mira.round("0.4")
        mira.round("0.72")
        mira.dry()
        mira.tick()
        self.assertEqual(mira.sheet["wants"], "shifts badly cold")
        url = f"/api/visits/{mira.visit}/"
        for _ in range(2):  # and signing again changes nothing
            mira._post(f"{url}signature/", {"ride_out": "shifts freely"})
            self.assertEqual(mira.last.status_code, 200, mira.last.content)
        said = self.api.get(url).json()
        rides = (said["ride_in"], said["ride_out"])
        self.assertEqual(rides, ("first gear hard", "shifts freely"))

    def test_a_call_for_hands_is_heard_in_the_whole_house_until_somebody_comes(self) -> None:
        mira = self.mira
        mira.open()
        oda = self.oda()

        def called() -> list[str]:
            found = oda.api.get("/api/visits/hands/").json()
            return [f"{one['by']} {one['bike']} {one['since']}" for one in found]

        self.assertEqual(called(), [])
        since = mira.now
        mira.entry("calls")
        self.assertEqual(called(), [f"Mira Grey Heron {since.isoformat()}"])
        row = next(b for b in self.api.get("/api/ward/").json()["bikes"] if b["visit"])
        self.assertEqual(row["visit"]["step"], "Mira needs a second pair of hands")
        oda.now = mira.now
        oda.entry("lends")
        self.assertEqual((called(), oda.sheet["hands"]["lent_by"]), ([], "Oda"))
        mira.entry("lets go")
        self.assertIsNone(mira.sheet["hands"])
        self.assertEqual(mira.sheet["focus"], "cold")  # none of it is work

    def test_who_goes_under_a_bike_that_is_tilted_is_asked_first(self) -> None:
        mira = self.mira
        mira.open()
        mira.until_drained()
        mira.entry("stands", {"pose": "tilted", "strapped": True})
        self.assertEqual(mira.sheet["stance"]["words"], "tilted, not strapped")
        self.assertIn("nobody under it", mira.sheet["stance"]["caution"])
        self.assertIn(
            "the bike is tilted, not strapped; nobody goes under it",
            [point["text"] for point in mira.sheet["open_points"]],
        )
        under = {step["id"]: step["unmet"] for step in mira.sheet["steps"]}
        self.assertIn("the bike is not strapped down", under["engine/refit"])
        items = mira.ticks("engine/refit")
        asked = mira.entry("confirm", {"items": items}, step="engine/refit")
        self.assertIn("the bike is not strapped down", asked.json()["detail"])
        mira.entry("stands", {"pose": "upright", "strapped": True})
        self.assertEqual(mira.sheet["stance"]["caution"], "")

    def test_a_step_taken_is_shown_to_the_other_and_given_up(self) -> None:
        mira = self.mira
        mira.open()
        mira.entry("takes", step="engine/torque")
        oda = self.oda()
        oda.entry("takes", step="cold")
        self.assertEqual(oda.step("engine/torque")["taken_by"], "Mira")
        self.assertEqual(oda.step("cold")["taken_by"], "Oda")
        mira.entry("gives up", step="engine/torque")
        self.assertEqual(mira.step("engine/torque")["taken_by"], "")
        self.assertEqual(mira.sheet["focus"], "cold")

    def test_when_it_will_be_done_comes_nearer_with_the_work_and_counts_who_is_at_it(self) -> None:
        mira = self.mira
        mira.open()

        def finish() -> dict[str, Any]:
            look_ahead(UUID(mira.visit), mira.now)
            answer = self.api.get(f"/api/visits/{mira.visit}/finish/")
            self.assertEqual(answer.status_code, 200, answer.content)
            return dict(answer.json())

        self.assertEqual(self.api.get(f"/api/visits/{mira.visit}/finish/").json()["at"], "")
        mira.entry("takes")
        first = finish()
        self.assertEqual((first["people"], first["less"]), (1, 0))
        self.assertEqual(first["then"][0], {"label": "Cold checks", "spare": 0})
        self.assertFalse(look_ahead(UUID(mira.visit), mira.now))  # nothing has changed
        mira.entry("takes", step="engine/torque")
        self.assertFalse(look_ahead(UUID(mira.visit), mira.now))  # nor has any work
        mira.until_drained()
        later = finish()
        self.assertLess(later["minutes"], first["minutes"])
        at = mira.now + timedelta(minutes=later["minutes"])
        self.assertEqual(later["at"], at.isoformat())
        self.oda().entry("takes", step="engine/torque")
        self.assertEqual(finish()["people"], 2)
        mira.leave("not drained")
        reader = self.signed_in("piet").get(f"/api/visits/{mira.visit}/finish/")
        self.assertEqual(reader.status_code, 200)
