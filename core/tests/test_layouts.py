"""What bikes of each layout usually have. Common practice, no source."""

from unittest import TestCase

from oilward_core.errors import CoreError
from oilward_core.spec import LAYOUTS, proposed


class LayoutTests(TestCase):
    def test_every_layout_proposes_an_engine_two_legs_and_keys_of_their_own(self) -> None:
        for layout in LAYOUTS:
            with self.subTest(layout):
                found = proposed(layout)
                keys = [one.key for one in found]
                self.assertEqual(found[0].kind, "engine")
                self.assertEqual(sum(one.kind == "fork leg" for one in found), 2)
                self.assertEqual(len(set(keys)), len(keys))
                self.assertTrue(all("/" not in key for key in keys))

    def test_what_tells_them_apart(self) -> None:
        for layout, has, has_not in (
            ("V-twin, belt", "primary", "final drive"),
            ("boxer, shaft", "final drive", "primary"),
            ("in-line three, chain", "coolant", "gearbox"),
            ("V-four, chain", "coolant", "final drive"),
            ("scooter, gear case", "gear case", "gearbox"),
            ("single, chain", "shock", "coolant"),
        ):
            with self.subTest(layout):
                keys = [one.key for one in proposed(layout)]
                self.assertIn(has, keys)
                self.assertNotIn(has_not, keys)

    def test_no_layout_is_refused(self) -> None:
        with self.assertRaises(CoreError):
            proposed("tricycle, rope")
