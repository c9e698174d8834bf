"""How the backups stand, as a lead reads it."""

import json
from datetime import timedelta
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any

from demo.testing import WorkshopTestCase
from django.utils import timezone

from workshop.keeping import passphrase


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

    def test_the_passphrase_is_asked_back_before_the_alarm_goes(self) -> None:
        shown = passphrase.new()
        told = {**self.well(), "check": passphrase.key_for(passphrase.TYPED, shown)}
        said = self.stands(**told)
        self.assertEqual((said["alarm"], said["typed"]), (True, False))
        self.assertIn("Nobody has typed", said["passphrase"])
        with TemporaryDirectory() as folder:
            file = Path(folder, "kept.json")
            file.write_text(json.dumps(told))
            with self.settings(KEPT=str(file)):
                self.typed_back(shown)
        self.assertFalse(self.stands(**told)["alarm"])
        # another passphrase was made: it is asked for anew
        another = {**told, "check": passphrase.key_for(passphrase.TYPED, passphrase.new())}
        self.assertTrue(self.stands(**another)["alarm"])

    def typed_back(self, shown: str) -> None:
        lead, body = self.signed_in("oda"), {"passphrase": passphrase.new()}
        wrong = lead.put("/api/keeping/passphrase/", body, format="json")
        self.assertEqual((wrong.status_code, wrong.json()["code"]), (422, "keeping.passphrase"))
        for typed in (shown.lower().replace("-", " "), shown):  # twice, by a hand in a hurry
            body = {"passphrase": typed}
            answer = lead.put("/api/keeping/passphrase/", body, format="json")
            self.assertEqual((answer.status_code, answer.json()["typed"]), (200, True))
            self.assertIn("typed it back on", answer.json()["passphrase"])
        technician = self.signed_in("mira").put("/api/keeping/passphrase/", body, format="json")
        self.assertEqual(technician.status_code, 403)

    def test_where_nothing_is_sealed_with_ours_no_passphrase_is_right(self) -> None:
        lead = self.signed_in("oda")
        for body in ('{"passphrase": ""}', '{"passphrase": "x"}', '{"passphrase": "\\ud800"}'):
            answer = lead.put(
                "/api/keeping/passphrase/", data=body, content_type="application/json"
            )
            self.assertIn(answer.status_code, (400, 422), body)

    def test_the_minutes(self) -> None:
        drill = {"at": self.ago(days=1), "good": True, "reached": "2026-01-01 09:30:00+00"}
        well = {
            **{"reaches": self.ago(seconds=40), "copied_at": self.ago(hours=3), "failing": False},
            **{"same_disk": False, "drill": drill},
        }
        said = self.stands(**self.well(), minutes=well)
        self.assertEqual(
            (said["alarm"], said["minutes"]),
            (False, "Up to a minute ago. They were put back for a try."),
        )
        for wrong, words in (
            ({"failing": True}, "not kept at the moment"),
            ({"reaches": self.ago(minutes=40)}, "Up to 40 minutes ago"),
            ({"reaches": ""}, "None yet"),
            ({"copy_failed": "x"}, "no copy to begin from"),
            ({"copied_at": self.ago(days=5)}, "no copy to begin from"),
            ({"drill": {**drill, "good": False}}, "could not be put back"),
            ({"refused": "a@b: did not take it."}, "did not take it"),
        ):
            said = self.stands(**self.well(), minutes={**well, **wrong})
            self.assertTrue(said["alarm"], wrong)
            self.assertIn(words, said["minutes"])
        # one disk for both is no alarm, but is said
        said = self.stands(**self.well(), minutes={**well, "same_disk": True})
        self.assertFalse(said["alarm"])
        self.assertIn("On the same disk as the data", said["minutes"])

    def test_nobody_keeps_any_in_a_demo_and_only_a_lead_asks(self) -> None:
        self.assertFalse(self.signed_in("oda").get("/api/keeping/").json()["kept"])
        self.assertEqual(self.api.get("/api/keeping/").status_code, 403)
