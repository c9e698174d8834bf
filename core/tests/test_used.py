"""What a visit has used up."""

from dataclasses import replace
from decimal import Decimal
from unittest import TestCase

from oilward_core.bench import TaskClosing, used
from oilward_core.codes.options import Tick

from .clerk import GEARBOX, TASK, Clerk, whole_visit


def closings(clerk: Clerk) -> list[TaskClosing]:
    return [
        TaskClosing(plan=plan, fluid=f"Oil {plan.reservoir.key}", bottle_ml=None)
        for plan in clerk.plan.tasks
    ]


class UsedTests(TestCase):
    def of(self, clerk: Clerk):
        return used(closings(clerk), clerk.entries, "Maker Model")

    def test_oil_seal_and_filter(self) -> None:
        clerk = whole_visit()
        found = self.of(clerk)
        self.assertEqual(found.fluids, (("Oil engine", clerk.stands.added),))
        self.assertEqual(
            found.parts, (("crush washer 12 mm", 1), ("filter for the engine, Maker Model", 1))
        )

    def test_another_oil_that_was_poured_is_what_was_used(self) -> None:
        clerk = Clerk()
        clerk.until_fill()
        clerk.record("pour", {"amount": "1 l", "fluid": "Oil B"})
        clerk.record("pour", {"amount": "1.37 l"})
        # what went into the filter came out of the bottle that was chosen
        self.assertEqual(dict(self.of(clerk).fluids), {"Oil B": 1000, "Oil engine": 1370 + 150})

    def test_what_was_poured_before_another_oil_came_out_of_the_bottle_that_was_chosen(
        self,
    ) -> None:
        clerk = Clerk()
        clerk.until_fill()
        clerk.record("pour", {"amount": "1 l"})
        clerk.record("pour", {"amount": "1.37 l", "fluid": "Oil B"})
        last = [replace(one, fluid="Oil B") for one in closings(clerk)]
        found = used(last, clerk.entries, "Maker Model", {"engine": "Oil A"})
        self.assertEqual(dict(found.fluids), {"Oil A": 1150, "Oil B": 1370})

    def test_what_was_taken_out_again_came_out_of_a_bottle_all_the_same(self) -> None:
        clerk = Clerk()
        clerk.until_fill()
        clerk.round("2.8 l", "1.1")
        clerk.record("draw", {"amount": "150 ml", "sure": "150 ml"})
        self.assertEqual(dict(self.of(clerk).fluids), {"Oil engine": 2800 + 150})

    def test_a_seal_renewed_twice_is_two_and_one_turned_over_none(self) -> None:
        clerk = whole_visit()
        old = next(one for one in clerk.entries if one.step == "engine/washer")
        clerk.entries.append(replace(old, id="again", at=clerk.now))
        self.assertEqual(dict(self.of(clerk).parts)["crush washer 12 mm"], 2)
        turned = replace(old, id="turned", data=replace(old.data, value="turned"))
        clerk.entries[clerk.entries.index(old)] = turned
        self.assertEqual(dict(self.of(clerk).parts)["crush washer 12 mm"], 1)

    def test_corrected_it_is_what_it_was_corrected_to(self) -> None:
        clerk = Clerk(TASK, GEARBOX)
        clerk.until_open()
        self.assertEqual(self.of(clerk).fluids, ())
        clerk = Clerk()
        clerk.until_fill()
        poured = clerk.record("pour", {"amount": "1 l"})
        clerk.correct(poured, {"amount": "1.2 l", "sure": "1.2 l"})
        filter_on = clerk.last("filter")
        clerk.correct(filter_on, {"amount": "100", "items": [Tick.GASKET]})
        self.assertEqual(dict(self.of(clerk).fluids), {"Oil engine": Decimal(1300)})
        self.assertEqual(dict(self.of(clerk).parts)["filter for the engine, Maker Model"], 1)
