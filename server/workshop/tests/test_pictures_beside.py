"""Pictures lie beside the backups, each once, and come back with them."""

from datetime import date
from hashlib import sha256
from pathlib import Path
from typing import Any
from uuid import uuid4
from zipfile import ZipFile

from garage.models import Bike, BikeModel, BikePhoto

from workshop.backup import Beside, dump, put_back

from .test_backup import BackupCase

FIRST, SECOND = b"\\x\n\t first picture \x00\xff" * 500, b"second picture" * 1000


class PicturesBesideTests(BackupCase):
    def setUp(self) -> None:
        super().setUp()
        self.quickly()
        self.kept, self.fresh = self.folder / "pictures", self.folder / "fresh"
        self.kept.mkdir()
        model = BikeModel.objects.create(
            make="Colossine", name="1640", year=2020, layout="v-twin", displacement_cc=1640
        )
        bike = Bike.objects.create(
            name="Heron", model=model, use_class="street", odometer_unit="km", records="none"
        )
        for raw in (FIRST, SECOND, FIRST):
            BikePhoto.objects.create(
                id=uuid4(), bike=bike, jpeg=raw, taken_on=date(2026, 1, 2), taken_by="Mira"
            )

    def dumped(self, name: str) -> Path:
        file = self.folder / name
        dump(self.here, file, Beside(kept=self.kept, fresh=self.fresh))
        return file

    def taken_in(self) -> None:
        for picture in self.fresh.iterdir():
            there = self.kept / picture.name[:2]
            there.mkdir(exist_ok=True)
            picture.rename(there / picture.name)

    def test_each_once_and_back_where_it_was(self) -> None:
        file = self.dumped("first.backup")
        names = {sha256(raw).hexdigest() for raw in (FIRST, SECOND)}
        self.assertEqual({one.name for one in self.fresh.iterdir()}, names)
        whole = self.folder / "whole.backup"
        dump(self.here, whole)
        self.assertLess(file.stat().st_size, whole.stat().st_size)
        with ZipFile(file) as zipped:
            rows = zipped.read("rows/garage_bikephoto")
        self.assertNotIn(FIRST[:20].hex().encode(), rows)
        put_back(self.copy, file, pictures=self.fresh)
        words = "SELECT jpeg FROM garage_bikephoto"
        found = sorted(bytes(raw) for (raw,) in self.execute(self.copy["NAME"], words))
        self.assertEqual(found, sorted([FIRST, FIRST, SECOND]))
        # the next one puts down only what is new, sealed or not
        self.taken_in()
        (one, *_) = self.kept.glob("??/*")
        one.rename(one.with_name(f"{one.name}.gpg"))
        self.dumped("second.backup")
        self.assertEqual(list(self.fresh.iterdir()), [])

    def test_one_that_is_missing_or_another_is_said_and_nothing_comes(self) -> None:
        file = self.dumped("first.backup")
        (one, other) = self.fresh.iterdir()
        self.not_put_back(file, None)
        one.write_bytes(b"another")
        self.not_put_back(file, self.fresh)
        one.unlink()
        self.not_put_back(file, self.fresh)
        self.nothing_came()
        self.assertTrue(other.exists())

    def not_put_back(self, file: Path, pictures: Path | None) -> None:
        with self.assertRaisesMessage(Exception, "is not beside it, or is damaged"):
            put_back(self.copy, file, pictures=pictures)

    def edited(self, file: Path, of: dict[str, Any], rows: bytes | None = None) -> Path:
        """The file with something else said of the photographs, the checksum put right."""
        import json

        made = self.folder / f"{uuid4()}.backup"
        with ZipFile(file) as whole, ZipFile(made, "w") as part:
            manifest = json.loads(whole.read("manifest.json"))
            for name in whole.namelist():
                told = whole.read(name)
                if name == "rows/garage_bikephoto" and rows is not None:
                    told = rows
                    of = {**of, "sha256": sha256(rows).hexdigest()}
                if name != "manifest.json":
                    part.writestr(name, told)
            manifest["tables"]["garage_bikephoto"] |= of
            part.writestr("manifest.json", json.dumps(manifest))
        return made

    def test_a_file_leads_to_no_other_file(self) -> None:
        prey = self.folder / "prey"
        prey.write_bytes(b"secret")
        file = self.dumped("first.backup")
        with ZipFile(file) as whole:
            rows = whole.read("rows/garage_bikephoto")
        name = sha256(FIRST).hexdigest().encode()
        for instead in (
            b"../prey",
            str(prey).encode(),
            b"",
            name[:-1],
            name + b"\\n",
            b"\xff" * 64,
        ):
            self.not_put_back(self.edited(file, {}, rows.replace(name, instead)), self.fresh)
        for column in ("caption", "nothing", "id"):
            with self.assertRaisesMessage(Exception, "would do more"):
                put_back(self.copy, self.edited(file, {"beside": column}), pictures=self.fresh)
        self.nothing_came()
