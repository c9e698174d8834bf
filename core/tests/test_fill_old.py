"""Old oil that stays in a case. The figures are worked by hand."""

from decimal import Decimal
from unittest import TestCase

from oilward_core.codes.debris import OilLook
from oilward_core.errors import CoreError
from oilward_core.fill import stays, wants_a_flush


class OldOilTests(TestCase):
    def test_of_3900_dry_3050_come_out(self) -> None:
        dry, out = Decimal(3900), Decimal(3050)
        self.assertEqual(f"{stays(dry, out):.3f}", "0.218")
        self.assertEqual(f"{stays(dry, out, 2):.3f}", "0.048")  # 0.2179 squared
        self.assertEqual(stays(dry, out, 0), 1)

    def test_never_less_than_nothing_nor_more_than_all(self) -> None:
        self.assertEqual(stays(Decimal(1000), Decimal(1200)), 0)
        self.assertEqual(stays(Decimal(1000), Decimal(-5)), 1)
        with self.assertRaises(CoreError):
            stays(Decimal(0), Decimal(1))

    def test_spoilt_oil_is_flushed_where_more_than_a_tenth_stays(self) -> None:
        for share, looks, wanted in (
            ("0.218", [OilLook.MILKY], True),
            ("0.218", [OilLook.DARK, OilLook.BURNT], True),
            ("0.218", [OilLook.DARK], False),
            ("0.10", [OilLook.MILKY], False),
        ):
            with self.subTest(share=share, looks=looks):
                self.assertEqual(wants_a_flush(Decimal(share), looks), wanted)
