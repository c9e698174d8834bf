"""Who may what stands in one table: nobody may anything by not being somebody else."""

from unittest import TestCase, mock
from uuid import uuid4

from demo.testing import WorkshopTestCase
from oilward_core.errors import CoreError
from oilward_core.guard import whole_table

from workshop import access
from workshop.models import Person
from workshop.rights import DOES, RIGHTS, Right, Role, rights_of, with_right


class TableTests(TestCase):
    def test_a_role_without_its_row_is_seen_at_import(self) -> None:
        for table in (RIGHTS, DOES):
            for role in Role:
                with self.subTest(role=role):
                    short = {one: row for one, row in table.items() if one != role}
                    with self.assertRaisesRegex(CoreError, role.value):
                        whole_table(Role, short)

    def test_a_role_nobody_knows_may_nothing(self) -> None:
        self.assertEqual(rights_of("visitor"), frozenset())
        somebody = Person(username="vi", name="Vi", role="visitor")
        self.assertFalse(access.may_work(somebody))
        self.assertFalse(access.stands_alone(somebody))
        self.assertFalse(access.leads(somebody))

    def test_each_right_is_somebodys(self) -> None:
        for right in Right:
            with self.subTest(right=right):
                self.assertTrue(with_right(right))


class DoorTests(WorkshopTestCase):
    def test_every_door_asks_the_table(self) -> None:
        """A lead who by the table may only work is no lead at any door."""
        lead = self.signed_in("oda")
        only = {**RIGHTS, Role.LEAD: frozenset({Right.WORK})}
        with mock.patch.dict(RIGHTS, only):
            for path, method, body in (
                ("/api/owners/erasure/", "post", {"id": str(uuid4()), "name": "Nobody"}),
                ("/api/tablets/", "post", {"id": str(uuid4()), "name": "Bench 9"}),
                ("/api/audit/", "get", {}),
            ):
                with self.subTest(path):
                    answer = getattr(lead, method)(path, body, format="json")
                    self.assertEqual(answer.status_code, 403, answer.content[:200])
            session = lead.get("/api/session/").json()
            self.assertEqual(session["rights"], ["work"])
