"""What came out, brought to 20 °C and held against what this bike usually gives back."""

from decimal import Decimal
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st
from oilward_core.bench import Amount
from oilward_core.codes.options import Stood
from oilward_core.debris import OilLook
from oilward_core.drained import (
    Out,
    at_20,
    drained_words,
    expected_out,
    lost_per_1000,
    weighed,
)
from oilward_core.errors import CoreError
from oilward_core.fluid import density_at

from .clerk import TASK, Clerk

D = Decimal


class VolumeTests(TestCase):
    def test_hot_oil_shrinks_as_the_table_says(self) -> None:
        # API MPMS 11.1, generalized lubricating oils: VCF at 870 kg/m³, 90 °C 0.94510, 20 °C 0.99639
        self.assertAlmostEqual(float(at_20(D(3585), D(90), D(870))), 3400.46, delta=0.15)
        self.assertEqual(at_20(D(3000), D(20), D(870)), D(3000))

    @given(st.integers(100, 6000), st.floats(820, 950), st.integers(0, 110))
    def test_a_scale_and_a_jug_agree_at_any_temperature(self, ml: int, rho: float, t: int) -> None:
        density = D(str(round(rho, 1)))
        grams = ml / 1000 * density_at(float(density), t)
        by_jug, by_scale = at_20(D(ml), D(t), density), weighed(D(str(grams)), density)
        self.assertAlmostEqual(float(by_jug), float(by_scale), delta=0.11)

    def test_what_is_no_oil_is_refused(self) -> None:
        with self.assertRaises(CoreError):
            weighed(D(1000), D(400))


class ExpectedTests(TestCase):
    """Against the normal posterior written out: prior 1 ± 0.07, 0.03 a service."""

    def test_seven_percent_until_it_is_learned(self) -> None:
        first = expected_out(D(3000))
        self.assertEqual((first.value, first.spread), (D(3000), D(210)))

    def test_worked_shrinkage(self) -> None:
        outs = [Out(D(1000), D(950), D(8000))] * 3
        # (1/0.0049 + 3·0.95/0.0009) / (1/0.0049 + 3/0.0009) = 0.952885; sd √(1/3537.4 + 0.0009)
        learned = expected_out(D(2000), outs)
        self.assertAlmostEqual(float(learned.value), 1905.77, places=1)
        self.assertAlmostEqual(float(learned.spread), 68.77, places=1)

    def test_a_bike_s_own_bias_is_no_shortage(self) -> None:
        outs = [Out(D(3000), D(2760), D(8000))] * 4
        self.assertIn("less", drained_words(D(3000), D(2760), D(8000)))
        said = drained_words(D(3000), D(2760), D(8000), outs)
        self.assertIn("As expected: 3000 ml went in, and this bike gives back", said)

    def test_what_is_gone_per_distance_with_what_it_was(self) -> None:
        self.assertEqual(lost_per_1000(D(3000), D(2600), D(8000)), D(50))
        self.assertIsNone(lost_per_1000(D(3000), D(2600), D(100)))
        outs = [Out(D(3000), D(2920), D(8000)), Out(D(3000), D(2840), D(8000))]
        said = drained_words(D(3000), D(2440), D(8000), outs)
        self.assertIn("70 ml per 1000 km are gone; 20 and 10 before.", said)

    def test_how_it_stood_and_what_it_looks_like_explain_it(self) -> None:
        for drained, stood, looks, words in (
            (2500, Stood.LOW, (), "stood low as it came: burnt or leaked"),
            (2500, Stood.HIGH, (), "stood high as it came: not all out yet?"),
            (2500, "", (), "Burnt, leaked or underfilled"),
            (3500, "", (OilLook.MILKY,), "water or coolant"),
            (3500, Stood.HIGH, (OilLook.FUEL,), "smells of fuel"),
            (3500, "", (), "Overfilled, water or fuel"),
        ):
            with self.subTest(drained=drained, stood=stood):
                self.assertIn(words, drained_words(D(3000), D(drained), D(5000), (), stood, looks))

    def test_nothing_to_compare_with_is_said(self) -> None:
        self.assertIn("Nothing on record", drained_words(None, D(3000), D(5000)))
        self.assertIn("As expected", drained_words(TASK.put_in, D(2600), TASK.km_since_wiped))


class MeasureTests(TestCase):
    """At the bench: the jug with its warmth, the scale with its pan."""

    def measured(self, **data: str) -> tuple[str, str]:
        clerk = Clerk()
        clerk.until_open()
        clerk.wait(10)
        clerk.record("amount", dict(data))
        state = clerk.sheet.step("engine/measure")
        assert state and state.entry
        assert isinstance(state.entry.data, Amount)
        return str(state.entry.data.ml), state.remark

    def test_a_hot_jug_is_brought_to_20(self) -> None:
        ml, remark = self.measured(amount="2.75 l", celsius="90")
        self.assertEqual(ml, str(at_20(D(2750), D(90))))
        self.assertIn("As expected", remark)
        self.assertEqual(
            self.measured(amount="2.75 l", warmth="hot")[0], str(at_20(D(2750), D(80)))
        )
        self.assertEqual(self.measured(amount="2.6 l")[0], "2600")

    def test_a_scale_less_its_pan(self) -> None:
        ml, _ = self.measured(amount="2.9 kg", by="scale", tare="640", celsius="140 °F")
        self.assertEqual(ml, str(weighed(D(2260))))

    def test_wrong_input_says_what_to_do_and_where(self) -> None:
        for data, code, field in (
            ({"amount": "2600", "by": "scale", "tare": "2600"}, "drained.tare", "tare"),
            ({"amount": "2.6 l", "celsius": "900"}, "drained.celsius", "celsius"),
            ({"amount": "2.6 l", "warmth": "tepid"}, "sheet.choose", "warmth"),
            ({"amount": "2600 g"}, None, "amount"),
        ):
            with self.subTest(data), self.assertRaises(CoreError) as refused:
                self.measured(**data)
            if code:
                self.assertEqual(refused.exception.code, code)
            self.assertEqual(refused.exception.fields["field"], field)

    def test_how_it_stood_as_it_came_explains_a_shortage(self) -> None:
        clerk = Clerk()
        clerk.tick()
        clerk.record("answer", {"value": Stood.BELOW_HALF})
        clerk.wait(10)
        clerk.tick()
        clerk.record("answer", {"value": "open"})
        clerk.wait(10)
        clerk.record("amount", {"amount": "2.2 l"})
        state = clerk.sheet.step("engine/measure")
        assert state
        self.assertIn("had gone down as it came", state.remark)
