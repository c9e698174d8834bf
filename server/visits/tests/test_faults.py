"""The matrix of faults: at every phase of a visit, everything that goes wrong, through the API."""

from collections.abc import Callable, Iterator
from datetime import timedelta
from typing import Any
from uuid import uuid4

from django.db import transaction

from visits.models import EntryRow, Service
from visits.tests.bench import Technician
from visits.tests.test_visit import VisitTestCase

# wrong input by what a step asks for, and the field its sentence stands at
WRONG: dict[str, tuple[str, dict[str, Any], str]] = {
    "check": ("confirm", {"items": []}, "/items"),
    "gate": ("answer", {"value": "perhaps"}, "/value"),
    "choice": ("answer", {"value": "glue"}, "/value"),
    "amount": ("amount", {"amount": "20 N·m"}, "/amount"),
    "finding": ("finding", {"parts": [{"form": "goo"}], "oil": []}, "/form"),
    "torque": ("torque", {"reading": "2 l"}, "/reading"),
    "filter": ("filter", {"amount": "5 oz", "items": []}, "/items"),
    "fill": ("pour", {"amount": "2,750 l"}, "/amount"),
    "level": ("level", {"position": "0.5", "attitude": "on its head"}, "/attitude"),
    "leaks": ("leaks", {"result": "somewhere"}, "/result"),
}


class FaultTests(VisitTestCase):
    """One walk; at each phase every fault, and after it the visit stands as it stood."""

    def phases(self) -> Iterator[str]:
        """The phases of an engine's visit, each reached before it is named."""
        mira = self.mira
        mira.open()
        yield "cold"
        mira.look_over()
        mira.wait(10)
        mira.tick()
        yield "before the filler"
        mira.entry("answer", {"value": "open"})
        mira.wait(10)
        yield "drained"
        mira.entry("amount", {"amount": mira.task["capacity"]})
        yield "measured"
        mira.entry("finding", {"parts": [], "oil": ["dark"]})
        yield "read"
        mira.entry("answer", {"value": "new"})
        mira.tick()
        yield "finger-tight"
        mira.entry("torque", {"reading": mira.task["torque"]["aim"], "wrench": mira.wrench_id})
        yield "torqued"
        items = mira.ticks()
        mira.entry("filter", {"amount": "5 oz", "items": items})
        yield "ready to fill"
        mira.pour()
        mira.wait(2)
        mira.now += timedelta(minutes=3)
        yield "ran and settled"
        mira.entry("level", {"position": "0.4", "attitude": "upright"})
        mira.pour()
        mira.wait(2)
        mira.now += timedelta(minutes=3)
        mira.entry("level", {"position": "0.72", "attitude": "upright"})
        yield "level right"
        mira.dry()
        yield "dry"
        mira.tick()
        yield "finished"

    def stands(self) -> dict[str, Any]:
        return {**self.api.get(f"/api/visits/{self.mira.visit}/").json(), "now": ""}

    def unchanged(self, fault: Callable[[], Any], codes: tuple[int, ...]) -> None:
        """The fault is answered with one of these codes and a sentence, and changes nothing."""
        before, count, now = self.stands(), EntryRow.objects.count(), self.mira.now
        sheet = self.mira.sheet
        answer = fault()
        self.assertIn(answer.status_code, codes, answer.content[:300])
        if answer.status_code >= 400:
            self.assertTrue(answer.json()["detail"])
        self.assertEqual(EntryRow.objects.count(), count)
        self.assertEqual(self.stands(), before)
        self.mira.sheet, self.mira.now = sheet, now

    def wrong_input(self) -> None:
        focus = self.mira.sheet["focus"]
        if focus is None:
            return
        kind, data, field = WRONG.get(self.mira.step(focus)["kind"], ("", {}, ""))
        if not kind:
            return
        self.unchanged(lambda: self.mira.entry(kind, data, step=focus), (422,))
        self.assertTrue(self.sentence(self.mira.last, field))

    def last_entry(self) -> EntryRow | None:
        return EntryRow.objects.filter(visit=self.mira.visit).order_by("-recorded_at").first()

    def repeated(self) -> None:
        """The last entry again, and its id for something else."""
        body = self.sent
        if not body:
            return
        path = f"/api/visits/{self.mira.visit}/entries/"
        self.unchanged(lambda: self.mira._post(path, body), (200,))
        other = {**body, "data": {**body["data"], "note": "something else"}}
        self.unchanged(lambda: self.mira._post(path, other), (409,))

    def not_there(self) -> None:
        """A step that is none, an entry of the wrong kind, a correction of nothing."""
        mira = self.mira
        self.unchanged(lambda: mira.entry("confirm", {}, step="gearbox/drain"), (422,))
        focus = mira.sheet["focus"] or "finish"
        self.unchanged(lambda: mira.entry("telegram", {}, step=focus), (422, 409))
        ghost = str(uuid4())
        self.unchanged(lambda: mira.entry("confirm", {}, step=focus, supersedes=ghost), (404,))

    def closing_early(self, phase: str) -> None:
        mira = self.mira
        if phase != "finished":
            self.unchanged(mira.sign, (409,))
        if phase not in ("cold", "before the filler"):
            self.unchanged(lambda: mira.leave("Lunch"), (409,))
        url = f"/api/visits/{mira.visit}/tasks/engine/"
        self.unchanged(lambda: self.api.delete(url), (409,))

    def others(self) -> None:
        """A reader may look and not write; a second visit of the bike is refused."""
        piet = Technician(self.signed_in("piet"), self.heron.pk)
        piet.visit, piet.sheet, piet.now = self.mira.visit, self.mira.sheet, self.mira.now
        focus = self.mira.sheet["focus"] or "finish"
        self.unchanged(lambda: piet.entry("confirm", {}, step=focus), (403,))
        again = Technician(self.api, self.heron.pk)
        self.unchanged(lambda: again.open("61 305"), (409,))

    def against_a_need(self, phase: str) -> None:
        """Work that is not its turn is asked about; unanswered it is not written down."""
        blocked = [step for step in self.mira.sheet["steps"] if step["status"] == "blocked"]
        timers = [step for step in blocked if step["kind"] in ("timer", "drain")]
        for step in timers[:1]:
            self.unchanged(lambda s=step: self.mira.entry("start", {}, step=s["id"]), (422,))
            self.assertTrue(self.mira.last.json()["question"])

    def test_every_fault_at_every_phase(self) -> None:
        phases = 0
        self.sent: dict[str, Any] = {}
        post = self.mira._post

        def remembered(path: str, body: dict[str, Any]) -> Any:
            answer = post(path, body)
            if path.endswith("/entries/") and answer.status_code == 200:
                self.sent = body
            return answer

        self.mira._post = remembered  # type: ignore[method-assign]
        for phase in self.phases():
            phases += 1
            sent = self.sent
            with self.subTest(phase=phase), transaction.atomic():
                self.wrong_input()
                self.sent = sent
                self.repeated()
                self.not_there()
                self.closing_early(phase)
                self.others()
                self.against_a_need(phase)
            self.sent = sent
        self.assertEqual(phases, 12)
        self.assertEqual(self.mira.sign().status_code, 200)
        self.assertEqual(Service.objects.filter(visit_id=self.mira.visit).count(), 1)
