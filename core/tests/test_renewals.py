"""What is renewed along with a service: filters every n-th change, seals after so many uses."""

from dataclasses import replace
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st
from oilward_core.codes.schools import Practice
from oilward_core.renewals import (
    filter_renewal,
    goes_on_new,
    renewals,
    seal_renewals,
    since_filter,
    variants,
)
from oilward_core.runsheet import openings
from oilward_core.schools import Choice, Schools
from oilward_core.spec import ReservoirKind, Variant

from .clerk import ENGINE
from .test_order import GEARBOX

WITH, WITHOUT = Variant.WITH_FILTER.value, Variant.DRAIN_ONLY.value
BOTH = {Variant.WITH_FILTER: ENGINE.capacities[Variant.WITH_FILTER]}
TWO_WAYS = replace(ENGINE, capacities={**BOTH, Variant.DRAIN_ONLY: BOTH[Variant.WITH_FILTER]})


def school(choice: str) -> Schools:
    return Schools((Choice(kind="engine", topic="filter", choice=choice),))


class FilterTests(TestCase):
    def test_each_time_every_third_or_as_the_sheet_says(self) -> None:
        sheet = replace(TWO_WAYS, filter_every=2)
        for choice, expected in (
            ("each change", [True, True, True]),
            (Practice.EVERY_THIRD, [False, False, True]),
            ("as the sheet says", [False, True, True]),
        ):
            found = [
                filter_renewal(sheet, school(choice), [WITH] + [WITHOUT] * n) for n in range(3)
            ]
            self.assertEqual([one.due for one in found if one], expected, choice)

    def test_counting_starts_at_the_last_filter(self) -> None:
        self.assertEqual(since_filter([WITHOUT, WITH, WITHOUT, WITHOUT]), 2)
        self.assertEqual(since_filter([]), 0)

    def test_no_filter_nothing_to_renew(self) -> None:
        self.assertIsNone(filter_renewal(GEARBOX, Schools(), []))

    def test_what_is_proposed_follows(self) -> None:
        third = school(Practice.EVERY_THIRD)
        self.assertEqual(variants(TWO_WAYS, third, [WITH])[0], Variant.DRAIN_ONLY)
        self.assertEqual(
            variants(TWO_WAYS, third, [WITH, WITHOUT, WITHOUT])[0], Variant.WITH_FILTER
        )
        self.assertEqual(variants(replace(ENGINE, capacities={}), third, []), (Variant.DRAIN_ONLY,))


class SealTests(TestCase):
    PLUGS = (ENGINE.fasteners[0], replace(ENGINE.fasteners[1], seal="O-ring 28 mm"))
    SPEC = replace(ENGINE, fasteners=PLUGS, seal_life=3)

    @given(st.integers(0, 40))
    def test_a_new_one_with_every_third_service(self, done: int) -> None:
        (found,) = seal_renewals(self.SPEC, done)
        self.assertEqual(found.due, (done + 1) % 3 == 0)
        self.assertEqual(found.had, done % 3)

    def test_uses_count_from_the_last_new_one_that_was_written_down(self) -> None:
        new, kept = {"fill plug": "new"}, {"fill plug": "reused good"}
        for seals, had in (
            ((new,), 0),
            ((new, kept), 1),
            ((new, kept, {}), 2),
            ((kept, new), 0),
            (({}, kept), 2 % 3),  # never written down: counted as before
        ):
            (found,) = seal_renewals(self.SPEC, len(seals), seals)
            self.assertEqual((found.had, found.due), (had, had >= 2), seals)

    def test_covers_and_level_plugs_last_as_well(self) -> None:
        cover = replace(
            ENGINE.fasteners[0], role="cover screw", key="cover screws", seal="cover seal"
        )
        spec = replace(ENGINE, fasteners=(cover,), seal_life=2)
        (found,) = seal_renewals(spec, 1, ({"cover screws": "reused good"},))
        self.assertEqual(str(found), "cover seal of the cover: new with the next service")

    def test_a_cover_is_found_by_what_its_card_calls_it(self) -> None:
        cover = replace(
            ENGINE.fasteners[0], role="cover screw", key="cover screws", seal="cover seal"
        )
        unit = replace(ENGINE.fasteners[2], element=True)
        for spec in (
            replace(ENGINE, kind=ReservoirKind.PRIMARY, fasteners=(cover,), seal_life=3),
            replace(ENGINE, fasteners=(unit, cover), seal_life=3),
        ):
            (opened,) = openings(spec, Variant.WITH_FILTER)
            seals = ({opened.card.fastener: "reused good"}, {opened.card.fastener: "new"})
            (found,) = seal_renewals(spec, 2, seals)
            self.assertEqual(found.had, 0, opened)

    def test_in_words(self) -> None:
        said = [str(one) for one in renewals(self.SPEC, Schools(), [WITH])]
        self.assertEqual(
            said,
            [
                "oil filter: new with the next service",
                "O-ring 28 mm of the filler: 1 of 3 services so far",
            ],
        )

    def test_what_goes_on_with_this_service(self) -> None:
        def parts(variant: Variant, services: int) -> tuple[str, ...]:
            return goes_on_new(self.SPEC, Schools(), [WITH] * services, variant)

        self.assertEqual(parts(Variant.WITH_FILTER, 0), ("oil filter",))
        self.assertEqual(
            parts(Variant.WITH_FILTER, 2), ("oil filter", "O-ring 28 mm of the filler")
        )
        self.assertEqual(parts(Variant.DRAIN_ONLY, 2), ("O-ring 28 mm of the filler",))
        self.assertEqual(parts(Variant.DRAIN_ONLY, 3), ())

    def test_no_life_given_no_renewal(self) -> None:
        self.assertEqual(seal_renewals(replace(self.SPEC, seal_life=None), 5), ())
        self.assertEqual(seal_renewals(replace(self.SPEC, fasteners=()), 5), ())
