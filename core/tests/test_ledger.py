"""The stock is the sum of what happened to it."""

from datetime import date, timedelta
from decimal import Decimal
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st
from oilward_core.errors import CoreError
from oilward_core.kit import (
    Bottle,
    LineKind,
    bottle_came,
    bottle_counted,
    bottle_of,
    bottle_thrown,
    bottle_used,
    pieces,
)

TODAY = date(2026, 5, 4)
LITRE = Decimal(1000)


class BottleTests(TestCase):
    def test_a_sealed_bottle_has_one_line_and_is_full(self) -> None:
        (line,) = bottle_came(LITRE, LITRE, None, TODAY)
        self.assertEqual((line.kind, line.change), (LineKind.CAME, 1000))
        self.assertEqual(bottle_of("a", LITRE, [line]), Bottle(id="a", size=LITRE, left=LITRE))

    def test_within_a_millilitre_of_all_of_it_is_all_of_it(self) -> None:
        quart = Bottle(id="a", size=Decimal("946.353"), left=Decimal("946.353"))
        for ml in ("946", "947"):
            self.assertEqual(bottle_used(quart, Decimal(ml), TODAY)[-1].change, -quart.left)
        self.assertEqual(bottle_used(quart, Decimal(945), TODAY)[-1].change, -945)

    def test_what_is_read_back_off_its_own_line_opens_nothing(self) -> None:
        quart = Bottle(id="a", size=Decimal("946.353"), left=Decimal("946.353"))
        self.assertEqual(bottle_counted(quart, Decimal(946), None, TODAY), ())

    def test_one_that_is_not_full_was_opened(self) -> None:
        lines = bottle_came(LITRE, Decimal(400), None, TODAY)
        self.assertEqual([line.kind for line in lines], ["came in", "opened", "counted"])
        self.assertEqual(
            bottle_of("a", LITRE, lines),
            Bottle(id="a", size=LITRE, left=Decimal(400), opened_on=TODAY),
        )

    def test_a_day_of_opening_that_was_wrong_is_written_again(self) -> None:
        bottle = Bottle(id="a", size=LITRE, left=Decimal(400), opened_on=TODAY)
        before = TODAY - timedelta(days=9)
        (line,) = bottle_counted(bottle, Decimal(400), before, TODAY)
        self.assertEqual((line.kind, line.change, line.on), (LineKind.OPENED, 0, before))

    def test_what_stands_already_needs_no_line(self) -> None:
        bottle = Bottle(id="a", size=LITRE, left=Decimal(400), opened_on=TODAY)
        self.assertEqual(bottle_counted(bottle, Decimal(400), TODAY, TODAY), ())

    def test_refusals_name_their_field(self) -> None:
        bottle = Bottle(id="a", size=LITRE, left=Decimal(400), opened_on=TODAY)
        tomorrow = TODAY + timedelta(days=1)
        for write, code, field in (
            (lambda: bottle_came(LITRE, Decimal(1001), None, TODAY), "shelf.bottle", "left"),
            (lambda: bottle_counted(bottle, Decimal(-1), None, TODAY), "shelf.bottle", "left"),
            (lambda: bottle_counted(bottle, LITRE, tomorrow, TODAY), "garage.date", "opened_on"),
            (lambda: bottle_used(bottle, Decimal(401), TODAY), "shelf.not_there", "used"),
            (lambda: bottle_used(bottle, Decimal(0), TODAY), "shelf.not_there", "used"),
            (lambda: pieces(LineKind.USED, 2, 3, TODAY), "shelf.not_there", "count"),
            (lambda: pieces(LineKind.OPENED, 2, 1, TODAY), "sheet.choose", "kind"),
        ):
            with self.subTest(code), self.assertRaises(CoreError) as caught:
                write()
            self.assertEqual(
                (caught.exception.code, caught.exception.fields["field"]), (code, field)
            )

    def test_thrown_away_is_gone(self) -> None:
        lines = bottle_came(LITRE, LITRE, None, TODAY)
        bottle = bottle_of("a", LITRE, lines)
        assert bottle is not None
        thrown = bottle_thrown(bottle, TODAY)
        self.assertEqual(thrown.change, -1000)
        self.assertIsNone(bottle_of("a", LITRE, [*lines, thrown]))

    @given(st.lists(st.tuples(st.booleans(), st.integers(0, 1000)), max_size=12))
    def test_whatever_is_counted_and_used_the_sum_is_what_is_left(
        self, acts: list[tuple[bool, int]]
    ) -> None:
        lines, left = list(bottle_came(LITRE, LITRE, None, TODAY)), LITRE
        for counts, ml in acts:
            bottle = bottle_of("a", LITRE, lines)
            assert bottle is not None
            self.assertEqual(bottle.left, left)
            if counts:
                lines += bottle_counted(bottle, Decimal(ml), None, TODAY)
                left = Decimal(ml)
            elif 0 < ml <= left:
                lines += bottle_used(bottle, Decimal(ml), TODAY)
                left -= ml
        self.assertEqual(sum(line.change for line in lines), left)


class PiecesTests(TestCase):
    def test_what_happens_to_seals(self) -> None:
        for kind, number, change in (
            (LineKind.CAME, 3, 3),
            (LineKind.USED, 2, -2),
            (LineKind.THROWN, 5, -5),
            (LineKind.COUNTED, 9, 4),
            (LineKind.COUNTED, 5, 0),
        ):
            self.assertEqual(pieces(kind, 5, number, TODAY).change, change)
