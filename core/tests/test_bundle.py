"""Bundling: what is pulled forward, and what two years come to."""

from datetime import date, timedelta
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st
from oilward_core.bundle import Costs, Upkeep, compare, next_visit, propose
from oilward_core.spec import ReservoirKind as R

TODAY = date(2026, 6, 1)
COSTS = Costs()


def upkeep(kind: R, days: int, lasts: int = 365, litres: float = 1.0) -> Upkeep:
    """A reservoir due in so many days."""
    return Upkeep(
        key=kind.value,
        label=kind.value,
        kind=kind,
        due=TODAY + timedelta(days=days),
        lasts_days=lasts,
        litres=litres,
    )


class ProposeTests(TestCase):
    def chosen(self, *upkeeps: Upkeep) -> dict[str, bool]:
        return {p.upkeep.key: p.do for p in propose(upkeeps, TODAY, COSTS)}

    def test_a_neighbour_soon_due_comes_along_and_a_fresh_one_does_not(self) -> None:
        found = self.chosen(
            upkeep(R.ENGINE, -3), upkeep(R.GEARBOX, 60, 730), upkeep(R.PRIMARY, 700, 730)
        )
        self.assertEqual(found, {"engine": True, "gearbox": True, "primary": False})

    def test_every_proposal_says_why(self) -> None:
        for proposal in propose([upkeep(R.ENGINE, 0), upkeep(R.FORK, 500, 1000)], TODAY, COSTS):
            self.assertTrue(proposal.reason.text)
        forks = propose([upkeep(R.FORK, 500, 1000)], TODAY, COSTS)[0]
        self.assertIn("50%", forks.reason.text)

    def test_a_cheap_visit_pulls_nothing_far(self) -> None:
        both = [upkeep(R.ENGINE, 0), upkeep(R.FORK, 200, 400)]
        cheap = {p.upkeep.key: p.do for p in propose(both, TODAY, Costs(visit=0.01))}
        self.assertEqual(cheap, {"engine": True, "fork leg": False})


class NextVisitTests(TestCase):
    def test_today_if_anything_is_due_else_the_first_day_something_is(self) -> None:
        late, soon = upkeep(R.ENGINE, -20), upkeep(R.FORK, 40)
        self.assertEqual(next_visit([late, soon], TODAY), TODAY)
        self.assertEqual(next_visit([soon, upkeep(R.GEARBOX, 90)], TODAY), soon.due)
        self.assertEqual(next_visit([], TODAY), TODAY)

    def test_the_visit_of_that_day_does_what_is_due_then(self) -> None:
        soon = upkeep(R.FORK, 40)
        (found,) = propose([soon], next_visit([soon], TODAY), COSTS)
        self.assertTrue(found.do)
        self.assertEqual(found.reason.text, f"Due on {soon.due.day} {soon.due:%b %Y}.")


class CompareTests(TestCase):
    def test_three_drains_by_hand(self) -> None:
        # one every 300 days, a month apart: together at days 0, 300, 600; alone 3 times as often
        upkeeps = [
            upkeep(kind, 30 * n, 300) for n, kind in enumerate((R.ENGINE, R.PRIMARY, R.GEARBOX))
        ]
        together, alone = compare(upkeeps, TODAY, COSTS)
        self.assertEqual((together.visits, alone.visits), (3, 9))
        self.assertLess(together.hours, alone.hours)

    @given(
        st.lists(
            st.tuples(st.sampled_from(list(R)), st.integers(-200, 800), st.integers(60, 1500)),
            min_size=1,
            max_size=7,
            unique_by=lambda row: row[0],
        )
    )
    def test_bundling_never_means_more_visits(self, rows: list[tuple[R, int, int]]) -> None:
        upkeeps = [upkeep(kind, days, lasts) for kind, days, lasts in rows]
        together, alone = compare(upkeeps, TODAY, COSTS)
        self.assertLessEqual(together.visits, alone.visits)
        costs = [load.hours + load.litres * COSTS.litre for load in (together, alone)]
        self.assertLessEqual(costs[0], costs[1] + 1e-9)

    def test_no_upkeep_is_no_visit(self) -> None:
        together, alone = compare([], TODAY, COSTS)
        self.assertEqual((together.visits, alone.visits), (0, 0))
