"""What the role the server runs as cannot do, whatever a program of ours should try."""

from demo.testing import WorkshopTestCase
from django.apps import apps
from django.db import DatabaseError, connection, transaction
from garage.models import SpecSheet

from workshop.models import Fact

FACTS = [model._meta.db_table for model in apps.get_models() if issubclass(model, Fact)]


class RuntimeRoleTests(WorkshopTestCase):
    def refused(self, words: str, said: str, *values: object) -> None:
        with self.subTest(words), self.assertRaisesMessage(DatabaseError, said):  # noqa: SIM117
            with transaction.atomic(), connection.cursor() as cursor:
                cursor.execute(words, values)

    def test_what_happened_cannot_be_changed_taken_away_or_emptied(self) -> None:
        self.assertGreaterEqual(len(FACTS), 5)
        for table in FACTS:
            with connection.cursor() as cursor:
                columns = connection.introspection.get_table_description(cursor, table)
            self.refused(f"UPDATE {table} SET {columns[0].name} = NULL", "permission denied")
            self.refused(f"DELETE FROM {table}", "permission denied")
            self.refused(f"TRUNCATE {table} CASCADE", "permission denied")

    def test_nothing_can_be_emptied_or_made_anew(self) -> None:
        self.refused("TRUNCATE garage_bike CASCADE", "permission denied")
        self.refused("CREATE TABLE public.mine (id int)", "permission denied")
        self.refused("ALTER TABLE visits_entryrow DISABLE TRIGGER ALL", "must be owner")
        self.refused("DELETE FROM django_migrations", "permission denied")

    def test_an_approved_sheet_cannot_be_changed(self) -> None:
        sheet = SpecSheet.objects.filter(state="approved").earliest("id")
        for words in (
            "UPDATE garage_specsheet SET state = 'draft' WHERE id = %s",
            "UPDATE garage_specsheet SET approved_at = now() WHERE id = %s",
            "DELETE FROM garage_specsheet WHERE id = %s",
            "UPDATE garage_sheetcell SET written = '9 l' WHERE sheet_id = %s",
            "DELETE FROM garage_sheetcell WHERE sheet_id = %s",
            "UPDATE garage_sheetcell SET sheet_id = %s WHERE id = (SELECT max(id) FROM garage_sheetcell)",
        ):
            self.refused(words, "approved spec sheet never changes", sheet.pk)
        with self.assertRaises(DatabaseError), transaction.atomic():
            sheet.cells.create(
                reservoir="x", field="kind", written="x", entered_by="x", entered_on="2026-01-01"
            )
