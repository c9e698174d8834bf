"""An oil that is none of the shelf's, named before the visit begins."""

from shelf.models import StockLine

from visits.models import Service, Task
from visits.tests.bench import Technician
from visits.tests.test_visit import VisitTestCase

TIN = {"fluid": "Owner's tin", "label": "10W-40 MA2"}


class OtherOilTests(VisitTestCase):
    def opened(self, **oil: str) -> Technician:
        mira = Technician(self.api, self.heron.pk)
        task = {"reservoir": "engine", "variant": "with filter", **oil}
        mira.open_for([task], "61 300")
        return mira

    def test_it_is_chosen_poured_and_on_the_record_and_nothing_leaves_the_shelf(self) -> None:
        mira = self.opened(**TIN)
        self.assertEqual(mira.last.status_code, 201, mira.last.content)
        task = mira.task
        self.assertEqual(
            (task["fluid"], task["oil_label"]), ("Owner's tin, 10W-40 MA2", "10W-40 MA2")
        )
        lines = StockLine.objects.count()
        mira.until_fill()
        mira.round("0.4")
        mira.round("0.72")
        mira.dry()
        mira.tick()
        self.assertEqual(mira.sign().status_code, 200, mira.last.content)
        signed = Service.objects.get(visit_id=mira.visit)
        self.assertEqual(signed.fluid, "Owner's tin, 10W-40 MA2")
        self.assertEqual(StockLine.objects.count(), lines)

    def test_what_stands_on_it_has_to_tell_what_it_is(self) -> None:
        for oil, code, pointer in (
            ({"fluid": "Owner's tin", "label": "the green one"}, "fluid.no_label", "/label"),
            ({"fluid": "", "label": "10W-40"}, "fluid.no_name", "/fluid"),
        ):
            with self.subTest(oil=oil):
                mira = self.opened(**oil)
                self.assertEqual(mira.last.status_code, 422, mira.last.content)
                self.assertEqual(mira.last.json()["code"], code)
                self.assertEqual(mira.last.json()["errors"][0]["pointer"], pointer)
                self.assertFalse(Task.objects.filter(visit_id=mira.visit).exists())

    def test_one_that_may_not_go_in_is_drained_again(self) -> None:
        mira = self.opened(fluid="Owner's tin", label="75W-90 GL-5")
        mira.until_fill()
        mira.pour()
        self.assertIn("may not go into", mira.sheet["stops"][0]["text"])
