"""What an entry may carry: the fields of its kind and no others, in codes; a tablet that still holds some
of the last release sends them in that release's words."""

from typing import Any

from visits.models import EntryRow
from visits.tests.test_visit import PASTE, VisitTestCase

LAST = 2


class TypedTests(VisitTestCase):
    def written(self) -> int:
        return EntryRow.objects.filter(visit_id=self.mira.visit).count()

    def refused(self, kind: str, data: dict[str, Any], pointer: str, code: str) -> None:
        before = self.written()
        answer = self.mira.entry(kind, data)
        self.assertEqual(answer.status_code, 422, answer.content)
        said = answer.json()
        self.assertEqual((said["code"], said["errors"][0]["pointer"]), (code, pointer))
        self.assertEqual(self.written(), before)

    def test_a_misspelt_field_is_refused_by_its_name_and_nothing_is_written(self) -> None:
        self.mira.open()
        ticks = self.mira.ticks()
        self.refused("confirm", {"items": ticks, "itmes": ticks}, "/itmes", "entry.unknown")
        self.mira.until_drained()
        amount = {"amount": "3.4 qt"}
        self.refused("amount", {**amount, "warmt": "hot"}, "/warmt", "entry.unknown")
        self.assertEqual(self.mira.entry("amount", amount).status_code, 200)
        part = {**PASTE, "colour": "grey"}
        self.refused("finding", {"parts": [part], "oil": []}, "/colour", "entry.unknown")

    def test_one_kind_s_data_is_not_another_s(self) -> None:
        self.mira.open()
        self.refused("confirm", {"value": "open"}, "/value", "entry.unknown")
        self.refused("confirm", {"items": "all of them"}, "/items", "entry.unfit")

    def test_a_tablet_of_the_last_release_sends_what_it_still_holds(self) -> None:
        self.mira.open()
        words = [item["words"] for item in self.mira.step(self.mira.sheet["focus"])["items"]]
        answer = self.mira.entry("confirm", {"items": words}, description=LAST)
        self.assertEqual(answer.status_code, 200, answer.content)
        self.assertNotEqual(self.mira.sheet["focus"], "cold")
        kept = EntryRow.objects.get(visit_id=self.mira.visit, kind="confirm")
        self.assertNotIn(words[0], str(kept.data))
        self.mira.entry("answer", {"value": "upper half"})
        self.mira.wait(10)
        words = [item["words"] for item in self.mira.step(self.mira.sheet["focus"])["items"]]
        self.mira.entry("confirm", {"items": words}, description=LAST)
        self.assertEqual(self.mira.sheet["focus"], "engine/filler")
        self.mira.entry("answer", {"value": "open"}, description=LAST)
        self.assertEqual(self.mira.sheet["focus"], "engine/drain")
