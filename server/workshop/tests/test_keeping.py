"""How the backups stand, as a lead reads it."""

import json
from datetime import timedelta
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any

from demo.testing import WorkshopTestCase
from django.utils import timezone


class KeepingTests(WorkshopTestCase):
    def stands(self, **told: Any) -> dict[str, Any]:
        with TemporaryDirectory() as folder:
            file = Path(folder, "kept.json")
            file.write_text(json.dumps(told))
            with self.settings(KEPT=str(file)):
                return dict(self.signed_in("oda").get("/api/keeping/").json())

    def ago(self, **age: int) -> str:
        return (timezone.now() - timedelta(**age)).isoformat()

    def well(self) -> dict[str, Any]:
        drill = {"at": self.ago(days=3), "good": True}
        return {
            **{"made_at": self.ago(hours=5), "bytes": 2_500_000, "free": 80_000_000_000},
            **{"every_hours": 24, "folder": "/srv/kept", "encrypted": True, "drill": drill},
        }

    def test_all_is_well(self) -> None:
        said = self.stands(**self.well())
        self.assertEqual((said["kept"], said["alarm"]), (True, False))
        self.assertEqual(said["last"], "5 hours ago, 2.5 MB, encrypted.")
        self.assertEqual(said["drill"], "3 days ago: everything was there.")
        self.assertEqual((said["free"], said["where"]), ("80.0 GB free.", "/srv/kept"))

    def test_what_has_to_be_done_about_it(self) -> None:
        torn = {"at": self.ago(days=1), "good": False}
        for wrong in (
            {"made_at": self.ago(days=3)},
            {"made_at": self.ago(hours=28)},
            {"made_at": None},
            {"free": 1_000_000},
            {"failed": "the disk is full"},
            {"drill": torn},
            {"drill": {"at": self.ago(days=30), "good": True}},
        ):
            self.assertTrue(self.stands(**{**self.well(), **wrong})["alarm"], wrong)

    def test_nobody_keeps_any_in_a_demo_and_only_a_lead_asks(self) -> None:
        self.assertFalse(self.signed_in("oda").get("/api/keeping/").json()["kept"])
        self.assertEqual(self.api.get("/api/keeping/").status_code, 403)
