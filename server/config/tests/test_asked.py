"""What stands in an address and how much comes in a body: read once, at the door."""

import json
import warnings
from io import BytesIO
from random import Random
from uuid import uuid4

from demo.testing import WorkshopTestCase
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import SimpleTestCase
from hypothesis import given, settings
from hypothesis import strategies as st
from oilward_core.errors import CoreError
from PIL import Image
from rest_framework.exceptions import ValidationError
from workshop.pictures import clean_picture

from config.asked import Asked

# figures of other scripts, signs, blanks, and numbers nobody counts to
NO_NUMBERS = ("³", "²", "٣", "१", "-1", "+1", "1_0", " 1", "1e3", "0x1", "x", "9" * 40)
# what a camera writes, with one figure of it wrong: each makes the library fall over in a way of its own
BROKEN = (
    "4d4d002a000000080004010f0002000000046162630001120003000000010006000001010005000000010000003e8769c104"
    "00000001000000460000000000000048000000010068900300020000000b0000005800000000323032303a30313a30310000",
    "4d4d002a000000080004010f00bd000000046162630001120003000000010006000001310005000000010000003e87690004"
    "00000001000000460000000000000048000000010001900300020000000b0000005800000000323032308f30313a30310000",
    "4d4d002a000000080004011b00020000000461626300011200030000000100060000011a0005000000010000003e87690004"
    "00000001000000460000000000000048000000010001900300020000000b0000006000000000323032783a30313a30310000",
)


def picture(kind: str = "JPEG", **more: object) -> bytes:
    out = BytesIO()
    Image.effect_noise((64, 48), 40).convert("RGB").save(out, kind, **more)
    return out.getvalue()


class WholeTests(SimpleTestCase):
    def test_a_number_is_read_or_refused(self) -> None:
        self.assertEqual(Asked({"page": "7"}).whole("page", 1), 7)
        for left in ({}, {"page": ""}):
            self.assertEqual(Asked(left).whole("page", 1), 1)
        for text in NO_NUMBERS:
            with self.subTest(text), self.assertRaises(ValidationError) as caught:
                Asked({"page": text}).whole("page", 1)
            self.assertEqual(list(caught.exception.detail), ["page"])

    @given(st.text())
    def test_whatever_stands_there(self, text: str) -> None:
        try:
            found = Asked({"page": text}).whole("page", 1)
        except ValidationError:
            return
        self.assertEqual(found, int(text) if text else 1)
        self.assertTrue(text.isascii())

    def test_a_text_is_cut_to_its_length_and_holds_nothing_that_cannot_be_kept(self) -> None:
        self.assertEqual(Asked({"name": "ab" * 9}).text("name", 3), "aba")
        for text in ("a\x00b", "\ud800"):
            with self.subTest(text), self.assertRaises(CoreError):
                Asked({"name": text}).text("name")


class AddressTests(WorkshopTestCase):
    def test_no_number_is_no_fault_of_ours(self) -> None:
        for path in (
            "/api/ward/?page={}",
            "/api/ward/?within={}",
            "/api/shelf/blend/?thin={}&thick=1&target=20&total=1",
            "/api/shelf/blend/?thin=1&thick={}&target=20&total=1",
            "/api/shelf/ledger/?fluid={}",
            "/api/findings/?page={}",
            "/api/audit/?page={}",
        ):
            for text in NO_NUMBERS:
                with self.subTest(path, text=text):
                    answer = self.api.get(path.format(text.replace("+", "%2B")))
                    self.assertEqual(answer.status_code, 400, answer.content[:200])
                    self.assertEqual(self.sentence(answer), "Type a whole number.")

    def test_what_no_database_keeps_in_an_address(self) -> None:
        for path in ("ward/?search=", "audit/?text=", "findings/?fluid=", "shelf/ledger/?part="):
            answer = self.api.get(f"/api/{path}a%00b")
            self.assertEqual(answer.status_code, 422, path)

    def sentence(self, answer: object, pointer: str = "") -> str:
        return str(answer.json()["detail"])  # type: ignore[attr-defined]


class BodyTests(WorkshopTestCase):
    def sent(self, path: str, body: bytes, kind: str = "application/json") -> int:
        answer = self.api.generic("POST", path, body, kind)
        if answer.status_code >= 400:
            self.assertTrue(answer.json()["detail"])
        return answer.status_code

    def test_a_body_over_what_its_address_takes_is_told_so(self) -> None:
        much = json.dumps({"text": "x" * 1_100_000}).encode()
        for path in ("/api/visits/", "/api/session/", "/api/nothing/"):
            for kind in ("application/json", "application/x-www-form-urlencoded", "text/plain"):
                with self.subTest(path, kind=kind):
                    self.assertEqual(self.sent(path, much, kind), 413)
        lab = {"id": str(uuid4()), "text": "label,received\n" + "x" * 2_000_000}
        self.assertEqual(self.sent("/api/lab/files/", json.dumps(lab).encode()), 202)
        far = json.dumps({"id": str(uuid4()), "text": "é" * 9_000_000}).encode()
        self.assertEqual(self.sent("/api/lab/files/", far), 413)

    def test_a_picture_over_what_its_address_takes(self) -> None:
        path = f"/api/bikes/{self.heron.pk}/photos/"
        large = SimpleUploadedFile("a.jpg", b"\xff" * 13_500_000, "image/jpeg")
        answer = self.api.post(path, {"id": str(uuid4()), "picture": large})
        self.assertEqual(answer.status_code, 413)


class BrokenPictureTests(SimpleTestCase):
    def test_broken_marks_of_a_camera(self) -> None:
        whole = picture()
        for marks in BROKEN:
            with self.subTest(marks[:60]), self.assertRaises(CoreError) as caught:
                raw = b"Exif\x00\x00" + bytes.fromhex(marks)
                mark = b"\xff\xe1" + (len(raw) + 2).to_bytes(2, "big") + raw
                clean_picture(whole[:2] + mark + whole[2:])
            self.assertEqual(caught.exception.code, "picture.kind")

    @settings(max_examples=150, deadline=None)
    @given(st.sampled_from(["JPEG", "PNG", "WEBP"]), st.integers(0, 2**32))
    def test_whatever_happened_to_a_picture(self, kind: str, seed: int) -> None:
        dice, exif = Random(seed), Image.Exif()
        exif[0x0112] = dice.randrange(0, 12)
        exif[0x010F] = "a" * dice.randrange(1, 40)
        raw = bytearray(picture(kind, exif=exif))
        for _ in range(dice.randrange(1, 6)):
            raw[dice.randrange(min(len(raw), 300) if dice.random() < 0.7 else len(raw))] = (
                dice.randrange(256)
            )
        try:
            warnings.simplefilter("ignore")
            clean = clean_picture(bytes(raw[: dice.choice([None, None, len(raw) // 2])]))
        except CoreError:
            return
        with Image.open(BytesIO(clean)) as found:
            self.assertEqual((found.format, found.getexif()), ("JPEG", {}))
