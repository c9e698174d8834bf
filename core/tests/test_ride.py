"""How far a bike sinks, as a tape says it: against tables worked out by hand."""

from dataclasses import replace
from decimal import Decimal
from unittest import TestCase

from oilward_core.codes.suspension import Ridden, SagSays
from oilward_core.errors import CoreError, Question
from oilward_core.ride import SagSaid, SagTyped, sag
from oilward_core.spec import RideSpec

from .clerk import BRAKE, SHOCK
from .test_fork import leg

FORK = replace(leg(0).reservoir, ride=RideSpec(travel=Decimal(130)))
REAR = replace(
    SHOCK.reservoir,
    ride=RideSpec(travel=Decimal(140), stroke=Decimal(62), pitch=Decimal("1.5")),
)
# free 620; bike 606 and 602; rider 588 and 583 [worked example]
READ = SagTyped(
    free="620", bike_down="606", bike_up="602", rider_down="588", rider_up="583", weight="80 kg"
)


class SagTests(TestCase):
    def said(self, spec: object = FORK, **other: str) -> SagSaid:
        return sag(spec, replace(READ, **other))  # type: ignore[arg-type]

    def test_the_worked_example(self) -> None:
        found = self.said()
        self.assertEqual((found.static.sag, found.rider.sag), (16.0, 34.5))
        self.assertEqual((found.static.stiction, found.rider.stiction), (4.0, 5.0))
        assert found.rate is not None
        self.assertAlmostEqual(found.rate, 9.54, delta=0.005)  # 80 kg, 45 %, 18.5 mm, two legs
        self.assertEqual(found.advice.says, SagSays.RIGHT)
        self.assertEqual(found.by_sheet, (False, False))

    def test_two_turns_of_a_rear_screw_at_the_wheel(self) -> None:
        found = self.said(REAR)
        assert found.turn is not None
        self.assertAlmostEqual(2 * found.turn, 6.8, delta=0.05)

    def test_what_follows_from_each(self) -> None:
        for other, says, word in (
            ({"rider_down": "560", "rider_up": "562"}, SagSays.PRELOAD, "in"),
            ({"rider_down": "598", "rider_up": "599"}, SagSays.PRELOAD, "out"),
            ({"rider_down": "578", "rider_up": "590"}, SagSays.STICTION, "12.0 mm apart"),
            ({"bike_down": "616", "bike_up": "617"}, SagSays.STIFFER, "stiffer one"),
            ({"bike_down": "596", "bike_up": "597"}, SagSays.SOFTER, "softer one"),
        ):
            with self.subTest(**other):
                found = self.said(**other)
                self.assertEqual(found.advice.says, says)
                self.assertIn(word, found.words)

    def test_turns_are_said_where_the_pitch_is_known(self) -> None:
        found = self.said(REAR, rider_down="560", rider_up="562")
        # 59 mm where 35 to 46.2 are usual: 18.4 mm too far, 3.39 a turn
        self.assertIn("5.4 turns in", found.words)

    def test_the_sheets_windows_go_before_common_practice(self) -> None:
        told = replace(FORK, ride=replace(FORK.ride, rider=(Decimal(36), Decimal(40))))
        self.assertEqual(self.said(told).advice.says, SagSays.PRELOAD)
        self.assertEqual(self.said(told).by_sheet, (False, True))
        off_road = sag(FORK, READ, Ridden.OFF_ROAD)
        self.assertEqual(off_road.windows[1].low, 39.0)

    def test_bad_input_has_its_sentence(self) -> None:
        for other, code, field in (
            ({"free": ""}, "ride.missing", "free"),
            ({"free": "a lot"}, None, "free"),
            ({"bike_down": "630", "bike_up": "630"}, "suspension.sag_below", "bike_up"),
            ({"rider_down": "480", "rider_up": "480"}, "suspension.sag_over", "rider_up"),
            ({"rider_down": "610", "rider_up": "610"}, "suspension.sag_order", "rider_up"),
            ({"weight": "8 t"}, None, "weight"),
        ):
            with self.subTest(**other), self.assertRaises(CoreError) as refused:
                self.said(**other)
            if code:
                self.assertEqual(refused.exception.code, code)
            if field:
                self.assertEqual(refused.exception.fields["field"], field)
        with self.assertRaises(CoreError) as refused:
            self.said(BRAKE.reservoir)
        self.assertEqual(refused.exception.code, "ride.no_travel")
        with self.assertRaises(Question) as asked:
            self.said(free="62")  # centimetres
        self.assertIn("620 mm", str(asked.exception.fields["options"]))
