"""Cells: reading what a manual says, folding them into a sheet, and what changed."""

from decimal import Decimal
from unittest import TestCase

from oilward_core.errors import CoreError
from oilward_core.spec import (
    Cell,
    FillRule,
    Form,
    Path,
    ReservoirKind,
    Spot,
    Variant,
    changes,
    field_of,
    fields_for,
    missing,
    needed,
    overlay,
    part_fields_for,
    read_value,
    reservoir_of,
    sheet_of,
    unused_key,
    written_in,
)

ENGINE = {
    "//kind": "engine",
    "//fill rule": "level",
    "//capacity.drain only": "2.45 l",
    "//capacity.with filter": "2.7 l (2.85 qt)",
    "//level.gauge": "dipstick",
    "//level.dipstick": "screwed in",
    "//level.attitude": "upright",
    "//level.between": "0.5 l",
    "//level.second attitude": "side stand",
    "//level.second between": "400 ml",
    "//level.run": "2",
    "//level.target": "75%",
    "//fluid.grade": "10W-40",
    "//fluid.friction": "ma2",
    "//fluid.kv100": "13-16 cSt",
    "//repeat.km": "6000 mi",
    "//repeat.months": "1 year",
    "//filter every": "2",
    "/drain plug/torque": "18-25 ft-lb",
    "/drain plug/place": "under the crankcase, left",
    "/drain plug/spot": "0.41 0.83",
    "/drain plug/magnet": "Yes",
    "/drain plug/material": "aluminium",
    "/filter/torque": "3/4 turn",
}


def cells(said: dict[str, str], key: str = "engine", checked: str = "Oda") -> dict[Path, Cell]:
    """Cells of one reservoir; a path starts with ``/part/field`` or ``//field``."""
    return {
        Path.of(key + path): Cell(
            written=text,
            document="manual",
            page="27",
            entered_by="Mira",
            entered_on=None,
            checked_by=checked,
        )
        for path, text in said.items()
    }


def field(path: str):
    """The field at ``engine`` + path."""
    return field_of(Path.of("engine" + path))


class ReadingTests(TestCase):
    def test_each_form_is_read(self) -> None:
        for path, said, meant in (
            ("//repeat.months", "2 years", 24),
            ("//repeat.months", "18", 18),
            ("//repeat.hours", "20 h", 20),
            ("//level.target", "0.75 of the way up", Decimal("0.75")),
            ("//level.target", "80 %", Decimal("0.8")),
            ("//level.run", "90 s", (Decimal("1.5"), Decimal("1.5"))),
            ("//level.air gap", "112", (Decimal(112), Decimal(112))),
            ("//first.km", "600 mi", (Decimal("965.6064"), Decimal("965.6064"))),
            ("/cover/one use", "no", False),
            ("/cover/spot", "0.25 1", Spot(Decimal("0.25"), Decimal(1))),
        ):
            with self.subTest(path=path, said=said):
                self.assertEqual(read_value(field(path), said), meant)

    def test_what_cannot_be_read_gets_a_code(self) -> None:
        for path, said, code in (
            ("//capacity.dry", "", "quantity.empty"),
            ("//capacity.dry", "20 N·m", "quantity.wrong_kind"),
            ("//capacity.dry", "2.7", "quantity.unit_missing"),
            ("//capacity.dry", "3.2-2.9 l", "quantity.range_reversed"),
            ("//capacity.dry", "2,750 l", "quantity.doubtful_comma"),
            ("//capacity.dry", "2.7 l (2.7 qt)", "quantity.disagree"),
            ("/plug/torque", "20 N·m (20 lbf·ft)", "quantity.disagree"),
            ("/plug/torque", "240 lbf·in (240 lbf·ft)", "quantity.disagree"),
            ("/plug/torque", "20", "quantity.unit_missing"),
            ("//repeat.months", "soon", "spec.count"),
            ("//filter every", "0", "spec.count"),
            ("//level.target", "120 %", "spec.share"),
            ("//level.gauge", "window", "sheet.choose"),
            ("/plug/spot", "2 0.5", "spec.spot"),
            ("//caution", "x" * 401, "spec.too_long"),
        ):
            with self.subTest(path=path, said=said), self.assertRaises(CoreError) as caught:
                read_value(field(path), said)
            self.assertEqual(caught.exception.code, code)

    def test_a_value_given_in_two_units_has_to_agree_within_its_rounding(self) -> None:
        for said in ("2.7 l (2.9 US qt)", "8 N·m (6 lbf·ft)", "12 N·m (106 lbf·in)"):
            path = "//capacity.dry" if "l (" in said else "/plug/torque"
            read_value(field(path), said)

    def test_paths_name_a_field_of_the_sheet(self) -> None:
        self.assertEqual(str(Path.of("engine/drain plug/torque")), "engine/drain plug/torque")
        for text in ("engine", "engine//", "/drain plug/torque"):
            with self.subTest(text), self.assertRaises(CoreError):
                Path.of(text)
        with self.assertRaises(CoreError):
            field_of(Path.of("engine//torque"))

    def test_only_fields_that_belong_are_offered(self) -> None:
        def names(kind: ReservoirKind, rule: FillRule | None = None) -> set[str]:
            return {f.name for f in fields_for(kind, rule)}

        self.assertIn("level.air gap", names(ReservoirKind.FORK))
        self.assertNotIn("fluid.friction", names(ReservoirKind.FORK))
        self.assertNotIn("level.gauge", names(ReservoirKind.FINAL_DRIVE, FillRule.EXACT))
        self.assertNotIn("capacity.dry", names(ReservoirKind.COOLANT))
        self.assertIn("level.gauge", names(ReservoirKind.COOLANT))
        self.assertNotIn("direction", {f.name for f in part_fields_for("drain plug")})
        self.assertIn("direction", {f.name for f in part_fields_for("second filter")})


class SheetTests(TestCase):
    def test_a_whole_reservoir(self) -> None:
        spec = reservoir_of("engine", cells(ENGINE))
        self.assertEqual(spec.capacities[Variant.WITH_FILTER], 2700)
        assert spec.level is not None and spec.level.second is not None
        self.assertEqual((spec.level.run_minutes, spec.level.target), (2, Decimal("0.75")))
        self.assertEqual(
            (spec.level.second.attitude, spec.level.second.between), ("side stand", 400)
        )
        self.assertEqual(spec.limits.repeat_months, 12)
        self.assertEqual((spec.fluid, spec.filter_every), ("10W-40, MA2", 2))
        plug = spec.fastener("drain plug")
        assert plug is not None and plug.torque is not None
        self.assertTrue(plug.magnet and plug.soft)
        self.assertEqual(plug.spot, Spot(Decimal("0.41"), Decimal("0.83")))

    def test_unchecked_numbers_are_named_and_words_are_not(self) -> None:
        spec = reservoir_of("engine", cells(ENGINE, checked=""))
        self.assertIn("drain plug/torque", spec.unchecked)
        self.assertNotIn("drain plug/place", spec.unchecked)
        self.assertEqual(reservoir_of("engine", cells(ENGINE)).unchecked, frozenset())

    def test_missing_values_stay_missing_and_are_asked_for(self) -> None:
        said = {k: v for k, v in ENGINE.items() if "torque" not in k and "between" not in k}
        spec = reservoir_of("engine", cells({**said, "/filter/drive": "by hand"}))
        asked = [str(path) for path in needed(spec, Variant.WITH_FILTER)]
        self.assertIn("engine/drain plug/torque", asked)
        self.assertIn("engine/filter/torque", asked)
        # how far apart its marks are is assumed, not made up
        assert spec.level is not None
        self.assertTrue(spec.level.assumed)
        self.assertNotIn("engine/filter/torque", map(str, needed(spec, Variant.DRAIN_ONLY)))
        self.assertEqual(missing(reservoir_of("engine", cells(ENGINE))), ())

    def test_reservoirs_stand_in_the_order_a_bike_is_drawn(self) -> None:
        sheet = {
            **cells({"//kind": "fork leg"}, "a fork"),
            **cells({"//kind": "gearbox"}, "box"),
            **cells(ENGINE),
            **cells({"//label": "not yet"}, "unfinished"),
        }
        self.assertEqual([spec.key for spec in sheet_of(sheet)], ["engine", "box", "a fork"])

    def test_a_bike_overrides_single_values(self) -> None:
        own = cells({"//capacity.with filter": "2.8 l"}) | cells({"//kind": "primary"}, "primary")
        laid = overlay(cells(ENGINE), own)
        spec = reservoir_of("engine", laid)
        self.assertEqual(spec.capacities[Variant.WITH_FILTER], 2800)
        self.assertEqual(len(laid), len(ENGINE))

    def test_writing_in_reads_first(self) -> None:
        path = Path.of("engine//initial")
        self.assertIn(path, written_in({}, path, " 2 l ", Cell(written="")))
        with self.assertRaises(CoreError):
            written_in({}, path, "much", Cell(written=""))

    def test_new_keys_do_not_clash(self) -> None:
        self.assertEqual(unused_key("cap", ["cap", "cap 2"]), "cap 3")
        self.assertEqual(unused_key("cap", []), "cap")


class ChangesTests(TestCase):
    def test_each_difference_is_a_sentence(self) -> None:
        old = cells(ENGINE)
        said = dict(ENGINE)
        said["//capacity.with filter"] = "2.9 l"
        said["/drain plug/spot"] = "0.5 0.5"
        said["//initial"] = "2.2 l"
        del said["//filter every"]
        texts = [
            c.text for c in changes(old, cells(said) | cells({"//kind": "primary"}, "primary"))
        ]
        self.assertEqual(
            texts,
            [
                "Engine, capacity, with filter: was 2.7 l (2.85 qt), now 2.9 l (manual, p. 27).",
                "Engine, filter every n-th change: 2 taken out.",
                "Engine, drain plug: moved on the map.",
                "Engine, first amount: now 2.2 l (manual, p. 27), was missing.",
                "Primary: added, with 1 values.",
            ],
        )

    def test_another_source_is_a_change_and_a_check_is_none(self) -> None:
        path = Path.of("engine//initial")
        one = {
            Path.of("engine//kind"): Cell(written="engine"),
            path: Cell(written="2 l", document="label"),
        }
        other = {**one, path: Cell(written="2 l", document="manual")}
        self.assertIn("still 2 l, now from manual", changes(one, other)[0].text)
        checked = {**one, path: Cell(written="2 l", document="label", checked_by="Oda")}
        self.assertEqual(changes(one, checked), ())

    def test_every_form_has_a_field(self) -> None:
        fields = [
            *fields_for(ReservoirKind.ENGINE, None),
            *fields_for(ReservoirKind.FORK, None),
            *part_fields_for(""),
        ]
        self.assertEqual({field.form for field in fields}, set(Form))
