"""Everything a job opens is closed: further drain plugs, screens, second filters, covers on a ring."""

from dataclasses import replace
from decimal import Decimal
from itertools import permutations
from unittest import TestCase

from oilward_core.bench import (
    Bench,
    Speaker,
    Status,
    TaskClosing,
    check_also,
    gradings,
    result,
    used,
)
from oilward_core.codes.debris import Level
from oilward_core.codes.options import Lost, Tick
from oilward_core.errors import CoreError
from oilward_core.kit.things import things
from oilward_core.runsheet import TaskPlan, openings, ran_out_id
from oilward_core.schools import Choice, Schools
from oilward_core.spec import Fastener, FillRule, ReservoirKind, Variant
from oilward_core.torque import (
    adapter_setting,
    clamp_lever,
    preload,
    read_torque,
    ring_order,
    setting,
)

from .clerk import DRIVE, ENGINE, TASK, WRENCH, Clerk, fastener, pulled, spec, task, usual

PLUG, FILLER = fastener("drain plug", "20-26 N·m", "crush washer 12 mm"), ENGINE.fasteners[1]
SECOND_PLUG = replace(fastener("drain plug", "18 N·m", "crush washer 10 mm"), key="tank plug")
SCREEN = replace(fastener("screen", "24 N·m", "O-ring 30 mm"), key="screen")
SECOND_FILTER = replace(
    fastener("second filter", "10 N·m"), key="small filter", direction="spring first"
)
SCREWS = replace(fastener("cover screw", "9 N·m"), key="cover screws", count=3, thread="M6")


def with_these(*fasteners: Fastener, variant: Variant = Variant.WITH_FILTER) -> TaskPlan:
    """An engine with just these."""
    return replace(TASK, reservoir=replace(ENGINE, fasteners=fasteners), variant=variant)


FULL_SHEET = with_these(PLUG, SECOND_PLUG, FILLER, ENGINE.fasteners[2], SCREEN, SECOND_FILTER)


class ListedAnyhowTests(TestCase):
    def test_each_opening_has_a_card_of_its_own_however_the_sheet_lists_them(self) -> None:
        listed = (PLUG, SECOND_FILTER, SCREEN, ENGINE.fasteners[2])
        for order in permutations(listed):
            found = openings(with_these(*order).reservoir, Variant.WITH_FILTER)
            cards = [str(one.card) for one in found]
            self.assertEqual(len(set(cards)), len(listed), order)
            unit = next(one for one in found if one.role == "filter")
            self.assertEqual(unit.part, "filter")


def primary(**of_the_cover: object) -> TaskPlan:
    """A primary that is filled through a round cover."""
    plain = replace(fastener("cover screw", "85-110 in-lb"), key="cover screw", thread="M6")
    cover = replace(plain, **{"count": 5, "pattern": "star", **of_the_cover})  # type: ignore[arg-type]
    kind = spec("primary", ReservoirKind.PRIMARY, FillRule.EXACT)
    return task(replace(kind, fasteners=(*kind.fasteners, cover)))


def through(clerk: Clerk, until: str) -> None:
    """The usual at every step, until one is in focus."""
    for _ in range(60):
        focus = clerk.sheet.focus
        if focus is None or focus == until:
            return
        usual(clerk, clerk.state(focus))
    raise AssertionError(clerk.sheet.focus)


class AllOfThemTests(TestCase):
    """A sheet with two drain plugs, a screen and a second filter of the engine."""

    def test_they_are_steps_that_are_closed_before_the_fill(self) -> None:
        clerk = Clerk(FULL_SHEET)
        through(clerk, "engine/fill.1")
        done = {entry.step for entry in clerk.entries}
        for step in (
            "engine/drain.tank plug",
            "engine/washer.tank plug",
            "engine/refit.tank plug",
            "engine/torque.tank plug",
            "engine/element.screen",
            "engine/torque filter.screen",
            "engine/element.second filter",
            "engine/torque filter.second filter",
        ):
            self.assertIn(step, done)

    def test_each_of_them_open_keeps_oil_out(self) -> None:
        for step in ("engine/torque.tank plug", "engine/torque filter.screen"):
            with self.subTest(step=step):
                clerk = Clerk(FULL_SHEET)
                through(clerk, step)
                self.assertEqual(clerk.state("engine/fill.1").status, Status.BLOCKED)
                stands = {one.role: one.open for one in clerk.stands.fasteners}
                self.assertTrue(stands[step.partition(".")[2]])

    def test_what_came_out_is_measured_and_read_once_all_are_out(self) -> None:
        clerk = Clerk(FULL_SHEET)
        through(clerk, "engine/drain")
        clerk.record("start")
        self.assertEqual(clerk.sheet.focus, "engine/drain.tank plug")
        clerk.record("stop", step="engine/drain")
        self.assertEqual(clerk.state("engine/measure").status, Status.BLOCKED)

    def test_they_are_in_the_kit_and_where_a_leak_is_looked_for(self) -> None:
        kit = things([FULL_SHEET.task], Schools())
        self.assertEqual(
            dict(kit.parts),
            {
                "crush washer 12 mm": 1,
                "crush washer 10 mm": 1,
                "O-ring 30 mm": 1,
                "filter for the engine": 1,
                "second filter for the engine": 1,
            },
        )
        torqued = {one.key or one.role for _, one in kit.torqued}
        self.assertLessEqual({"tank plug", "screen", "small filter", "drain plug"}, torqued)
        places = [one.part for one in Clerk(FULL_SHEET).state("leaks").step.places]
        self.assertEqual(
            places,
            ["drain plug", "tank plug", "filter", "second filter", "screen", "fill plug", "cover"],
        )

    def test_a_leak_at_one_of_them_opens_that_one(self) -> None:
        clerk = Clerk(FULL_SHEET)
        through(clerk, "leaks")
        leak = clerk.record("leaks", {"result": "engine/tank plug"})
        asked = str(ran_out_id("engine", leak.id))
        self.assertEqual(clerk.sheet.focus, asked)
        clerk.record("ran out", {"how": Lost.TIGHTENED}, asked)
        self.assertEqual(clerk.sheet.focus, "engine/torque.tank plug")
        self.assertEqual(clerk.state("engine/torque").status, Status.DONE)

    def test_what_went_on_new_leaves_the_drawer(self) -> None:
        clerk = Clerk(FULL_SHEET)
        through(clerk, "leaks")
        closing = TaskClosing(plan=FULL_SHEET, fluid="", bottle_ml=Decimal(1000))
        parts = dict(used([closing], clerk.entries).parts)
        self.assertEqual(
            parts,
            {
                "crush washer 12 mm": 1,
                "crush washer 10 mm": 1,
                "filter for the engine": 1,
                "second filter for the engine": 1,
            },
        )

    def test_keys_that_are_numbers_are_no_rounds(self) -> None:
        plan = with_these(PLUG, replace(SECOND_PLUG, key="2"), FILLER)
        clerk = Clerk(plan)
        through(clerk, "engine/fill.1")
        self.assertIn("engine/drain.drain plug 2", {entry.step for entry in clerk.entries})

    def test_a_screen_comes_out_with_the_filter_or_where_there_is_none(self) -> None:
        names = {"drain plug", "fill plug", "screen"}
        alone = with_these(PLUG, FILLER, SCREEN, variant=Variant.DRAIN_ONLY)
        self.assertEqual({one.part for one in openings(alone.reservoir, alone.variant)}, names)
        both = with_these(PLUG, FILLER, SCREEN, ENGINE.fasteners[2], variant=Variant.DRAIN_ONLY)
        self.assertNotIn("screen", {one.part for one in openings(both.reservoir, both.variant)})

    def test_a_screen_and_a_cover_that_stayed_on_are_left_out_for_a_reason(self) -> None:
        clerk = Clerk(FULL_SHEET)
        through(clerk, "engine/element.screen")
        for step in ("engine/element.screen", "engine/torque filter.screen"):
            clerk.record("skip", {"reason": "not opened"}, step)
        through(clerk, "finish")
        self.assertEqual([one.role for one in clerk.stands.fasteners if one.open], [])
        clerk = Clerk(primary())
        through(clerk, RingTests.CARD)
        clerk.record("skip", {"reason": "filled at its plug"}, RingTests.CARD)
        self.assertEqual([one.role for one in clerk.stands.fasteners if one.open], [])

    def test_a_torque_the_sheet_does_not_say_is_looked_up_before_anything_is_drained(self) -> None:
        silent = replace(SECOND_PLUG, torque=None)
        plan = with_these(PLUG, silent, FILLER, ENGINE.fasteners[2]).asking()
        self.assertEqual([str(path) for path in plan.asks], ["engine/tank plug/torque"])


class ElementTests(TestCase):
    """A filter behind a cover of two or three screws."""

    def behind_screws(self) -> TaskPlan:
        unit = replace(fastener("filter", "10 N·m", "cover O-ring"), count=2, thread="M6")
        return with_these(PLUG, FILLER, unit)

    def test_it_is_put_in_its_way_round_and_its_cover_closed_by_a_card(self) -> None:
        clerk = Clerk(self.behind_screws())
        step = clerk.state("engine/filter").step
        self.assertNotIn("Spin", step.instruction)
        self.assertEqual([one.code for one in step.items], [Tick.WAY_ROUND])
        card = clerk.state("engine/torque filter").step
        self.assertEqual(card.title, "Torque the filter cover")
        self.assertIn("Screws 1 2: once round to half", card.instruction)

    def test_a_cover_has_one_ring_however_many_screws(self) -> None:
        parts = dict(things([self.behind_screws().task], Schools()).parts)
        self.assertEqual(parts["cover O-ring"], 1)

    def test_the_screws_may_stand_in_the_sheet_by_themselves(self) -> None:
        unit = replace(fastener("filter", "10 N·m", "cover O-ring"), thread="M6")
        plan = with_these(PLUG, FILLER, unit, SCREWS)
        found = next(o for o in openings(plan.reservoir, plan.variant) if o.part == "filter")
        self.assertEqual((found.closes.count, found.covered), (3, True))

    def test_what_the_sheet_calls_it_counts(self) -> None:
        for sort, title in ((True, "Torque the filter cover"), (False, "Torque the filter")):
            unit = replace(fastener("filter", "16 N·m"), element=sort)
            clerk = Clerk(with_these(PLUG, FILLER, unit))
            self.assertEqual(clerk.state("engine/torque filter").step.title, title)


class RingTests(TestCase):
    """Five screws in a star, two passes."""

    CARD = "primary/torque cover.cover screw"

    def at_the_cover(self, **of_the_cover: object) -> Clerk:
        clerk = Clerk(primary(**of_the_cover))
        through(clerk, self.CARD)
        self.assertEqual(clerk.sheet.focus, self.CARD)
        return clerk

    def pull(self, clerk: Clerk, reading: str, **more: str) -> None:
        ticked = {"items": [Tick.JOINT], "wrench": "m", "sure": reading}
        clerk.record("torque", {"reading": reading, **ticked, **more}, self.CARD)

    def test_star_order(self) -> None:
        # the workshop's own check values (common practice, no source)
        for count, order in (
            (4, "1324"),
            (5, "13524"),
            (6, "142536"),
            (7, "1473625"),
            (8, "15372648"),
        ):
            self.assertEqual("".join(map(str, ring_order(count, "star"))), order)
            self.assertEqual("".join(map(str, ring_order(count))), order)
        self.assertEqual(ring_order(4, "as numbered"), (1, 2, 3, 4))

    def test_every_ring_is_gone_round_once(self) -> None:
        for count in range(2, 25):
            self.assertEqual(sorted(ring_order(count)), list(range(1, count + 1)))
        for count in (-1, 0, 1, 25, 10**9):
            with self.assertRaises(CoreError) as caught:
                ring_order(count)
            self.assertEqual(caught.exception.code, "torque.ring")

    def test_half_then_full_and_the_cover_is_closed(self) -> None:
        clerk = self.at_the_cover()
        self.assertIn("Screws 1 3 5 2 4", clerk.state(self.CARD).step.instruction)
        self.assertEqual(clerk.state("finish").status, Status.BLOCKED)
        self.pull(clerk, "5.5 N·m", stage="half")
        self.assertEqual(
            clerk.state(self.CARD).remark, "Second pass: all of them to the full torque."
        )
        self.pull(clerk, "11 N·m", stage="full")
        self.assertEqual(clerk.state(self.CARD).status, Status.DONE)

    def test_the_full_pass_alone_is_not_enough(self) -> None:
        clerk = self.at_the_cover()
        self.pull(clerk, "11 N·m", stage="full")
        self.assertEqual(clerk.state(self.CARD).remark, "First pass: all of them to half.")

    def test_a_single_screw_is_put_right_by_itself(self) -> None:
        clerk = self.at_the_cover()
        self.pull(clerk, "5.5 N·m", stage="half")
        self.pull(clerk, "11 N·m", stage="full")
        other = self.at_the_cover()
        self.pull(other, "5.5 N·m", stage="half")
        self.pull(other, "7 N·m", screw="4")
        self.pull(other, "11 N·m", stage="full")
        self.assertEqual(other.state(self.CARD).remark, "Too loose. Pull again to the setting.")
        self.pull(other, "11 N·m", screw="4")
        self.assertEqual(other.state(self.CARD).status, Status.DONE)

    def test_a_screw_pulled_too_far_is_looked_at_and_pulled_again_alone(self) -> None:
        clerk = self.at_the_cover()
        self.pull(clerk, "5.5 N·m", stage="half")
        self.pull(clerk, "18 N·m", screw="2")
        look = f"primary/thread.{clerk.entries[-1].id[:8]}"
        self.assertEqual(clerk.state(self.CARD).status, Status.BLOCKED)
        clerk.record("answer", {"value": "good"}, look)
        self.pull(clerk, "11 N·m", screw="2")
        self.pull(clerk, "11 N·m", stage="full")
        self.assertEqual(clerk.state(self.CARD).status, Status.DONE)

    def test_a_leak_there_opens_that_cover(self) -> None:
        clerk = self.at_the_cover()
        self.pull(clerk, "5.5 N·m", stage="half")
        self.pull(clerk, "11 N·m", stage="full")
        through(clerk, "leaks")
        leak = clerk.record("leaks", {"result": "primary/cover screw"})
        clerk.record("ran out", {"how": Lost.TIGHTENED}, str(ran_out_id("primary", leak.id)))
        self.assertEqual(clerk.state(self.CARD).status, Status.READY)
        self.pull(clerk, "11 N·m", stage="full")
        self.assertEqual(clerk.state(self.CARD).remark, "First pass: all of them to half.")

    def test_no_engine_runs_with_it_open(self) -> None:
        clerk = Clerk(TASK, primary())
        through(clerk, self.CARD)
        self.assertEqual(clerk.state("run.1").status, Status.BLOCKED)

    def test_a_screw_that_is_not_there(self) -> None:
        clerk = self.at_the_cover()
        for screw in ("0", "6", "-1", "x", "²", "999999999"):
            with self.assertRaises(CoreError) as caught:
                self.pull(clerk, "11 N·m", screw=screw)
            self.assertEqual(caught.exception.code, "torque.screw")


class AskedAtTheCardTests(TestCase):
    def card(self, **of_the_cover: object) -> Clerk:
        clerk = Clerk(primary(**of_the_cover))
        through(clerk, RingTests.CARD)
        return clerk

    def test_new_screws_locker_and_wire(self) -> None:
        clerk = self.card(one_use=True, sealant="threadlocker, medium", safety_wire=True)
        asked = {one.code: one.words for one in clerk.state(RingTests.CARD).step.items}
        self.assertEqual(set(asked), {Tick.JOINT, Tick.NEW_SCREWS, Tick.LOCKER, Tick.WIRE})
        self.assertEqual(asked[Tick.LOCKER], "On the threads: threadlocker, medium")

    def test_until_all_is_ticked_it_is_not_closed(self) -> None:
        clerk = self.card(safety_wire=True)
        for stage, reading in (("half", "5.5 N·m"), ("full", "11 N·m")):
            raw = {"reading": reading, "stage": stage, "items": [Tick.JOINT], "wrench": "m"}
            clerk.record("torque", raw, RingTests.CARD)
        self.assertIn("safety wire on", clerk.state(RingTests.CARD).remark)
        self.assertEqual(clerk.state(RingTests.CARD).status, Status.READY)
        clerk.record("ticked", {"items": [Tick.WIRE]}, RingTests.CARD)
        self.assertEqual(clerk.state(RingTests.CARD).status, Status.DONE)

    def test_one_use_screws_are_in_the_kit_and_leave_the_drawer(self) -> None:
        plan = primary(one_use=True)
        self.assertIn(("cover screw, M6", 5), things([plan.task], Schools()).parts)
        clerk = Clerk(plan)
        through(clerk, "leaks")
        closing = TaskClosing(plan=plan, fluid="", bottle_ml=Decimal(1000))
        self.assertIn(("cover screw, M6", 10), used([closing], clerk.entries).parts)

    def test_a_wired_plug_and_one_with_locker(self) -> None:
        plug = replace(PLUG, safety_wire=True, sealant="threadlocker")
        clerk = Clerk(with_these(plug, FILLER))
        asked = [one.code for one in clerk.state("engine/torque").step.items]
        self.assertEqual(asked, [Tick.LOCKER, Tick.WIRE])
        kit = things([with_these(plug, FILLER).task], Schools())
        self.assertIn("safety wire", kit.consumables)


class LevelPlugTests(TestCase):
    def test_it_is_torqued_once_the_level_is_right(self) -> None:
        level = replace(fastener("level plug", "19 N·m"), safety_wire=True)
        gauge = replace(
            ENGINE.level,  # type: ignore[type-var]
            gauge="level plug",
            between_marks=Decimal(0),
            run_minutes=Decimal(0),
        )
        box = spec("gearbox", ReservoirKind.GEARBOX)
        box = replace(box, level=gauge, fasteners=(*box.fasteners, level))
        clerk = Clerk(task(box))
        through(clerk, "gearbox/level.1")
        clerk.now = max(clerk.now, clerk.state("gearbox/level.1").not_before or clerk.now)
        clerk.record("level", {"sight": "runs out", "attitude": "upright", "amount": "20 ml"})
        self.assertEqual(clerk.sheet.focus, "gearbox/torque level plug")
        self.assertIn("level plug", {one.role for one in clerk.stands.fasteners if one.open})
        clerk.record(*pulled(clerk, "gearbox/torque level plug"))
        self.assertEqual(clerk.sheet.focus, "leaks")

    def test_where_it_is_not_opened_it_has_no_card(self) -> None:
        plug = replace(fastener("level plug", "19 N·m"), safety_wire=True)
        drive = replace(DRIVE.reservoir, fasteners=(*DRIVE.reservoir.fasteners, plug))
        clerk = Clerk(replace(DRIVE, reservoir=drive))
        self.assertIsNone(clerk.sheet.step("final drive/torque level plug"))


class TornTests(TestCase):
    """Tight, loose, tight: its ring tore."""

    RING = with_these(replace(PLUG, seal="O-ring 12 mm"), FILLER)

    def at(self, step: str) -> Clerk:
        clerk = Clerk(self.RING)
        through(clerk, step)
        return clerk

    def test_out_again_clean_another_ring_and_both_are_used_up(self) -> None:
        for step in ("engine/refit", "engine/torque"):
            with self.subTest(step=step):
                clerk = self.at(step)
                clerk.record("tore", {}, step)
                self.assertEqual(clerk.sheet.focus, "engine/washer")
                offered = [one.code for one in clerk.state("engine/washer").step.options]
                self.assertEqual(offered, ["new"])
                through(clerk, "engine/fill.1")
                closing = TaskClosing(plan=self.RING, fluid="", bottle_ml=Decimal(1000))
                self.assertIn(("O-ring 12 mm", 2), used([closing], clerk.entries).parts)

    def test_a_washer_does_not_tear(self) -> None:
        clerk = Clerk(with_these(PLUG, FILLER))
        through(clerk, "engine/refit")
        with self.assertRaises(CoreError) as caught:
            clerk.record("tore", {}, "engine/refit")
        self.assertEqual(caught.exception.code, "sheet.wrong_kind")


class SecondPersonTests(TestCase):
    CRITICAL = with_these(replace(PLUG, critical=True), FILLER)

    def at_the_plug(self, plan: TaskPlan) -> Clerk:
        clerk = Clerk(plan)
        through(clerk, "engine/torque")
        return clerk

    def look(self, clerk: Clerk, person: str, *, alone: bool = False) -> None:
        raw = {"name": person.title(), "person": person, "alone": alone}
        clerk.record("second look", raw, "engine/torque")

    def test_what_is_marked_takes_a_second_person(self) -> None:
        clerk = self.at_the_plug(self.CRITICAL)
        clerk.record("torque", {"reading": "23 N·m", "wrench": "m"}, "engine/torque")
        self.assertEqual(
            clerk.state("engine/torque").remark, "A second person looks at it and says so."
        )
        self.look(clerk, "mira")  # never one's own
        self.assertEqual(clerk.state("engine/torque").status, Status.READY)
        self.look(clerk, "oda")
        self.assertEqual(clerk.state("engine/torque").status, Status.DONE)

    def test_a_look_before_the_last_pull_says_nothing_of_it(self) -> None:
        clerk = self.at_the_plug(self.CRITICAL)
        clerk.record(
            "torque", {"reading": "15 N·m", "sure": "15 N·m", "wrench": "m"}, "engine/torque"
        )
        self.look(clerk, "oda")
        clerk.record("torque", {"reading": "23 N·m", "wrench": "m"}, "engine/torque")
        self.assertEqual(clerk.state("engine/torque").status, Status.READY)

    def test_alone_one_looks_again_ten_minutes_later(self) -> None:
        for minutes, done in ((5, Status.READY), (10, Status.DONE)):
            clerk = self.at_the_plug(self.CRITICAL)
            pull = clerk.record("torque", {"reading": "23 N·m", "wrench": "m"}, "engine/torque")
            clerk.now = pull.at.replace(minute=(pull.at.minute + minutes) % 60)
            self.look(clerk, "mira", alone=True)
            self.assertEqual(clerk.state("engine/torque").status, done)

    def test_by_feel_it_stands_so_on_the_record(self) -> None:
        clerk = self.at_the_plug(with_these(PLUG, FILLER))
        clerk.record("torque", {"feel": True}, "engine/torque")
        self.assertEqual(clerk.state("engine/torque").status, Status.DONE)
        words = {one.role: one.words for one in clerk.stands.fasteners}
        self.assertEqual(words["drain plug"], "tight by feel")

    def test_by_feel_and_too_far_is_too_far(self) -> None:
        for said in ({"feel": True, "over": True}, {"over": True, "reading": ""}):
            clerk = self.at_the_plug(with_these(PLUG, FILLER))
            over = clerk.record("torque", said, "engine/torque")
            self.assertEqual(clerk.sheet.focus, f"engine/thread.{over.id[:8]}")
            self.assertEqual(result(over, Speaker()), "pulled too far")

    def test_where_the_workshop_asks_somebody_looks_at_that_too(self) -> None:
        asks = Choice(kind="engine", topic="by feel", choice="a second person looks")
        plan = replace(with_these(PLUG, FILLER), schools=Schools((asks,)))
        clerk = self.at_the_plug(plan)
        clerk.record("torque", {"feel": True}, "engine/torque")
        self.assertEqual(clerk.state("engine/torque").status, Status.READY)
        self.look(clerk, "oda")
        self.assertEqual(clerk.state("engine/torque").status, Status.DONE)


class NoMagnetTests(TestCase):
    def test_where_there_is_none_the_step_says_so(self) -> None:
        clerk = Clerk(with_these(replace(PLUG, no_magnet=True), FILLER))
        step = clerk.state("engine/inspect").step
        self.assertEqual((step.title, step.no_magnet), ("Look at plug and oil", True))

    def test_nothing_there_is_no_clean_magnet(self) -> None:
        clerk = Clerk(with_these(replace(PLUG, no_magnet=True), FILLER))
        through(clerk, "engine/inspect")
        seen = clerk.record("finding", {"parts": [], "oil": []}, "engine/inspect")
        self.assertEqual(result(seen, Speaker()), "nothing to see")
        self.assertTrue(seen.data.no_magnet)


class SeenLaterTests(TestCase):
    """Bits that turn up after the plug was read: in the filter, on the rag."""

    CHIP = {"form": "chips", "matter": "steel", "largest": "3 mm", "count": "1", "place": "filter"}

    def read(self) -> Clerk:
        clerk = Clerk()
        through(clerk, "engine/washer")
        return clerk

    def test_they_are_added_to_the_reading_and_judged_with_it(self) -> None:
        clerk = self.read()
        assert clerk.stands.finding is not None
        self.assertLess(clerk.stands.finding.level, Level.HOLD)
        clerk.record("also seen", {"parts": [self.CHIP], "note": "cut open"}, "engine/inspect")
        self.assertEqual(clerk.stands.finding.level, Level.HOLD)
        (stop,) = clerk.sheet.stops
        self.assertTrue(stop.hold)
        (kept,) = gradings(clerk.entries, "engine/inspect")
        self.assertEqual([part.place for part in kept.data.parts], ["plug", "filter"])
        self.assertIn("cut open", kept.data.note)

    def test_what_a_lead_said_before_is_said_of_it_anew(self) -> None:
        clerk = self.read()
        clerk.record("also seen", {"parts": [self.CHIP]}, "engine/inspect")
        lifted = {"entry": clerk.sheet.stops[0].entry, "reason": "old chip, known"}
        clerk.record("answered", lifted, "engine/inspect")
        self.assertEqual(clerk.sheet.stops, ())
        clerk.record("also seen", {"parts": [self.CHIP]}, "engine/inspect")
        self.assertEqual(len(clerk.sheet.stops), 1)

    def test_on_the_plug_or_nothing_at_all_is_no_more(self) -> None:
        clerk = self.read()
        for parts, code in (
            ([], "finding.nothing_more"),
            ([{**self.CHIP, "place": "plug"}], "finding.on_the_plug"),
        ):
            with self.assertRaises(CoreError) as caught:
                clerk.record("also seen", {"parts": parts}, "engine/inspect")
            self.assertEqual(caught.exception.code, code)

    def test_before_it_was_read_there_is_nothing_to_add_to(self) -> None:
        clerk = Clerk()
        through(clerk, "engine/inspect")
        with self.assertRaises(CoreError) as caught:
            check_also(clerk.sheet, "engine/inspect")
        self.assertEqual(caught.exception.code, "finding.not_graded")


class EarlyTests(TestCase):
    def test_a_leak_that_is_seen_early_goes_against_nothing(self) -> None:
        clerk = Clerk()
        through(clerk, "lamp")
        leak = clerk.record("leaks", {"result": "engine/drain plug"}, "leaks")
        self.assertEqual(leak.against, ())
        self.assertEqual(clerk.sheet.focus, str(ran_out_id("engine", leak.id)))
        self.assertEqual(clerk.sheet.stops, ())


class FormulaTests(TestCase):
    def test_a_crow_foot_turns_harder_than_the_scale_shows(self) -> None:
        # moment balance: T·L/(L + E·cos θ)
        for angle, shows in ((0, "23.21"), (45, "23.97"), (90, "26.00"), (180, "29.55")):
            found = adapter_setting(Decimal(26), Decimal(300), Decimal(36), Decimal(angle))
            self.assertEqual(f"{found:.2f}", shows)

    def test_its_angle_stands_in_the_sheet_and_counts(self) -> None:
        long_one = replace(WRENCH, length=Decimal(300))
        for angle, factor in (("0", "0.893"), ("45", "0.922"), ("90", "1.000"), ("180", "1.136")):
            plug = replace(PLUG, adapter=Decimal(36), adapter_angle=Decimal(angle))
            clerk = Clerk(with_these(plug, FILLER), bench=Bench((long_one,)))
            card = clerk.stands.cards["engine/torque"]
            self.assertEqual(f"{card.wrenches[0].factor:.3f}", factor)
            way = "in line with" if angle == "0" else f"at {angle}° to"
            self.assertIn(way, clerk.state("engine/torque").step.instruction)

    def test_a_range_s_middle_and_its_first_pass(self) -> None:
        aim = setting(read_torque("85-110 in-lb")).value
        inch_pounds = aim / Decimal("0.1129848290276167")
        self.assertEqual((f"{aim:.2f}", f"{inch_pounds:.1f}"), ("11.02", "97.5"))
        self.assertEqual(f"{inch_pounds / 2:.2f}", "48.75")

    def test_what_a_bolt_clamps_with(self) -> None:
        # T/(K·d), derived; VDI 2230's form, from memory
        self.assertEqual([f"{preload(30, k, 12):.2f}" for k in (0.20, 0.15)], ["12.50", "16.67"])
        lever = clamp_lever(1.25, 7.188, 0.12, 10.3)
        self.assertEqual((f"{lever:.3f}", f"{25 / lever:.2f}"), ("1.318", "18.96"))
        for wrong in ((0, 7, 0.1, 10), (1, -1, 0.1, 10), (1, 7, 0, 10), (1, 7, 0.1, float("nan"))):
            with self.assertRaises(CoreError):
                clamp_lever(*wrong)

    def test_it_stands_under_the_why_of_a_bolt_that_clamps(self) -> None:
        clerk = Clerk(primary())
        reasons = {one.rule for one in clerk.stands.cards[RingTests.CARD].aim.reasons}
        self.assertIn("T/(K·d)", reasons)
        self.assertNotIn(
            "T/(K·d)", {one.rule for one in clerk.stands.cards["primary/torque"].aim.reasons}
        )


class BadInputTests(TestCase):
    def test_an_angle_that_cannot_be(self) -> None:
        plug = replace(PLUG, torque=read_torque("15 N·m then 1/4 turn"))
        clerk = Clerk(with_these(plug, FILLER))
        through(clerk, "engine/torque")
        for turned, code in (("0", "far"), ("-90", "far"), ("1801", "far"), ("much", "")):
            with self.assertRaises(CoreError) as caught:
                clerk.record("torque", {"reading": "15 N·m", "turned": turned}, "engine/torque")
            self.assertEqual(
                caught.exception.code, "sheet.turned_far" if code else "sheet.turned", turned
            )

    def test_another_kind_of_quantity(self) -> None:
        clerk = Clerk(with_these(PLUG, FILLER))
        through(clerk, "engine/torque")
        with self.assertRaises(CoreError) as caught:
            clerk.record("torque", {"reading": "2 l", "wrench": "m"}, "engine/torque")
        self.assertEqual(caught.exception.code, "quantity.wrong_kind")
