"""Two people for every number that matters."""

from dataclasses import replace
from datetime import date
from unittest import TestCase

from oilward_core.errors import CoreError
from oilward_core.spec import (
    Cell,
    Path,
    check_approval,
    matters,
    taken_in,
    unchecked_that_matter,
)

DAY = date(2026, 5, 4)
TORQUE, GRADE = Path("engine", "drain plug", "torque"), Path("engine", "", "fluid.grade")
CAPACITY = Path("engine", "", "capacity.dry")
CELLS = {
    TORQUE: Cell(
        written="20 N·m",
        document="manual",
        page="7",
        entered_by="Mira",
        entered_on=DAY,
        entered_by_who="1",
    ),
    GRADE: Cell(
        written="10W-40",
        document="manual",
        page="7",
        entered_by="Mira",
        entered_on=DAY,
        entered_by_who="1",
    ),
    CAPACITY: Cell(
        written="3 l",
        document="manual",
        page="8",
        entered_by="Mira",
        entered_on=DAY,
        entered_by_who="1",
        checked_by="Oda",
        checked_on=DAY,
    ),
}


class ApprovalTests(TestCase):
    def refused(self, named: list[str], approver: str) -> CoreError:
        with self.assertRaises(CoreError) as caught:
            check_approval(CELLS, named, approver)
        return caught.exception

    def test_capacities_torques_and_levels_matter(self) -> None:
        for field in ("capacity.dry", "initial", "level.between", "level.air gap"):
            self.assertTrue(matters(Path("engine", "", field)), field)
        for field in ("fluid.grade", "level.gauge", "repeat.km", "label"):
            self.assertFalse(matters(Path("engine", "", field)), field)
        self.assertEqual(unchecked_that_matter(CELLS), (TORQUE,))

    def test_each_unchecked_number_has_to_be_named(self) -> None:
        error = self.refused([], "2")
        self.assertEqual((error.code, error.fields["paths"]), ("spec.unchecked_left", (TORQUE,)))
        self.assertEqual(check_approval(CELLS, [str(TORQUE)], "2"), (TORQUE,))

    def test_nobody_answers_for_a_number_of_their_own(self) -> None:
        self.assertEqual(self.refused([str(TORQUE)], "1").code, "spec.own_numbers")

    def test_another_name_makes_nobody_another_person(self) -> None:
        renamed = {path: replace(cell, entered_by="Mirabel") for path, cell in CELLS.items()}
        with self.assertRaises(CoreError) as caught:
            check_approval(renamed, [str(TORQUE)], "1")
        self.assertEqual(caught.exception.code, "spec.own_numbers")


class TakenInTests(TestCase):
    def test_a_document_brings_no_checks_along(self) -> None:
        theirs = {path: replace(cell, checked_by="Somebody") for path, cell in CELLS.items()}
        taken = taken_in(theirs, {}, "Nils", "3", DAY)
        self.assertEqual({cell.checked_by for cell in taken.values()}, {""})
        self.assertEqual(
            {(cell.entered_by, cell.entered_by_who) for cell in taken.values()}, {("Nils", "3")}
        )

    def test_what_stands_here_already_keeps_its_names(self) -> None:
        changed = {**CELLS, TORQUE: replace(CELLS[TORQUE], written="25 N·m", checked_by="Nils")}
        taken = taken_in(changed, CELLS, "Nils", "3", DAY)
        self.assertEqual(taken[CAPACITY], CELLS[CAPACITY])
        self.assertEqual((taken[TORQUE].entered_by, taken[TORQUE].checked_by), ("Nils", ""))

    def test_a_trusted_document_keeps_its_own(self) -> None:
        self.assertEqual(taken_in(CELLS, {}, "Nils", "3", DAY, trusted=True), CELLS)
