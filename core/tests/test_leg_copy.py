"""What one fork leg's sheet lends the other."""

from unittest import TestCase

from oilward_core.errors import CoreError
from oilward_core.spec import Cell, Path, lent

FORK = {"kind": "fork leg", "label": "fork, left", "leg.bore": "38 mm", "spring.rate": "8 N/mm"}
PARTS = {
    ("upper pinch bolt", "torque"): "23 N·m",
    ("upper pinch bolt", "place"): "Left bridge, front",
    ("upper pinch bolt", "spot"): "0.4 0.5",
    ("axle", "torque"): "66 N·m",
}


def sheet(**right: str) -> dict[Path, Cell]:
    told = {Path("fork left", "", name): text for name, text in FORK.items()}
    told |= {Path("fork left", part, name): text for (part, name), text in PARTS.items()}
    told |= {Path("fork right", "", "kind"): "fork leg", Path("fork right", "", "label"): "right"}
    told |= {Path("engine", "", "kind"): "engine"}
    told |= {Path("fork right", "", n.replace("_", ".")): text for n, text in right.items()}
    return {path: Cell(written=text, checked_by="Oda") for path, text in told.items()}


def names(cells: dict[Path, Cell]) -> set[str]:
    return {str(path).removeprefix("fork right/") for path in cells}


class LentTests(TestCase):
    def test_what_it_lacks_and_nothing_of_the_wheel(self) -> None:
        found = lent(sheet(), "fork left", "fork right")
        self.assertEqual(names(found), {"/leg.bore", "/spring.rate", "upper pinch bolt/torque"})
        self.assertEqual({cell.checked_by for cell in found.values()}, {""})

    def test_what_is_there_stays(self) -> None:
        found = lent(sheet(leg_bore="37 mm"), "fork left", "fork right")
        self.assertNotIn("/leg.bore", names(found))

    def test_what_goes_by_its_function_is_its_own(self) -> None:
        for split in (sheet(leg_function="damping"), sheet(leg_function="spring")):
            found = lent(split, "fork left", "fork right")
            self.assertEqual(names(found), {"/leg.bore", "upper pinch bolt/torque"})

    def test_only_between_two_legs(self) -> None:
        for source, target in (
            ("fork left", "fork left"),
            ("engine", "fork right"),
            ("fork left", "engine"),
            ("nothing", "fork right"),
        ):
            with self.assertRaises(CoreError) as refused:
                lent(sheet(), source, target)
            self.assertEqual(refused.exception.code, "spec.no_leg")
