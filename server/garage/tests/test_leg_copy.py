"""One fork leg's sheet lends the other what it lacks."""

from typing import Any

from demo.testing import WorkshopTestCase

from garage.models import SheetCell


class LegCopyTests(WorkshopTestCase):
    def copied(self, sheet: int, leg: str, to: str, status: int = 200) -> dict[str, Any]:
        oda, body = self.signed_in("oda"), {"leg": leg, "to": to}
        answer = oda.post(f"/api/sheets/{sheet}/leg/", body, format="json")
        self.assertEqual(answer.status_code, status, answer.content)
        found: dict[str, Any] = answer.json()
        return found

    def test_what_is_missing_comes_over_unchecked_and_once(self) -> None:
        oda = self.signed_in("oda")
        draft = oda.post(f"/api/models/{self.heron.model_id}/draft/", {}, format="json").json()[
            "id"
        ]
        right = SheetCell.objects.filter(sheet=draft, reservoir="fork right")
        left = SheetCell.objects.filter(sheet=draft, reservoir="fork left", part="")
        name = left.exclude(field__in=("kind", "label"))[0].field
        right.filter(part="", field=name).delete()
        self.copied(draft, "fork left", "fork right")
        row = right.get(part="", field=name)
        self.assertEqual((row.written, row.checked_by), (left.get(field=name).written, ""))
        self.assertEqual(row.entered_by, "Oda")
        before = right.count()
        self.copied(draft, "fork left", "fork right")
        self.assertEqual(right.count(), before)
        self.copied(draft, "engine", "fork right", 422)
