"""Every fastener of every sheet of the demo that a job opens is closed by a card, or by a tick where no
wrench closes it. Fork and wheel are the fork's recipe."""

import json
from pathlib import Path
from unittest import TestCase

from oilward_core.exchange import from_document
from oilward_core.runsheet import Ask, Name, PlannedTask, build, openings
from oilward_core.spec import Variant, sheet_of

SHEETS = sorted((Path(__file__).parents[1] / "sheets").glob("*.json"))
# where a hand alone closes it
BY_HAND = {
    Name.TORQUE_FILLER: (Name.CLOSE,),
    Name.TORQUE_FILTER: (Name.FILTER, Name.ELEMENT, Name.CIRCUIT),
}


class ClosedTests(TestCase):
    def test_everything_that_is_opened_is_closed(self) -> None:
        carded = 0
        for sheet in SHEETS:
            _, cells, faults = from_document(json.loads(sheet.read_text()))
            self.assertEqual(faults, ())
            for spec in sheet_of(cells):
                for variant in Variant:
                    carded += self._closed(PlannedTask(spec=spec, variant=variant))
        self.assertGreater(carded, 40)

    def _closed(self, task: PlannedTask) -> int:
        steps = {step.id: step for step in build([task]).steps}
        carded = 0
        for one in openings(task.spec, task.variant):
            if one.by_wrench:
                self.assertEqual(steps[one.card].ask, Ask.TORQUE, one)
                self.assertEqual(steps[one.card].fastener, one.closes)
                carded += 1
            elif one.card not in steps:
                names = BY_HAND[Name(one.card.name)]
                self.assertTrue(any(one.step(name) in steps for name in names), one)
        return carded
