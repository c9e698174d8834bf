"""Bikes: entering, changing, odometers, own values, schools, pictures."""

from datetime import date
from decimal import Decimal
from io import BytesIO
from typing import Any
from uuid import uuid4

from demo.testing import WorkshopTestCase
from django.core.files.uploadedfile import SimpleUploadedFile
from oilward_core.errors import CoreError
from PIL import Image
from visits.tests.bench import Technician
from workshop import days
from workshop.models import Person

from garage.models import Bike, BikePhoto, OdometerReading, OwnSchool
from garage.odometer.selectors import last_odometer
from garage.odometer.services import record_odometer


class BikeFormTests(WorkshopTestCase):
    def form(self, **changes: Any) -> dict[str, Any]:
        page = self.api.get("/api/bikes/").json()
        return {
            **page["form"],
            "id": str(uuid4()),
            "model": page["models"][0]["id"],
            "name": "Kestrel",
            "records": "from new",
            "new_on": "2024-05-01",
            "odometer": "12 400",
            **changes,
        }

    def create(self, **changes: Any) -> Any:
        return self.api.post("/api/bikes/", self.form(**changes), format="json")

    def test_a_bike_is_entered_once(self) -> None:
        form = self.form()
        for _ in range(2):
            self.assertEqual(self.api.post("/api/bikes/", form, format="json").status_code, 201)
        bike = Bike.objects.get(name="Kestrel")
        self.assertEqual(bike.new_on, date(2024, 5, 1))
        self.assertEqual(last_odometer([bike.pk])[bike.pk].km, 12_400)

    def test_bad_values_name_their_field_and_nothing_is_kept(self) -> None:
        for field, value in (
            ("name", "  "),
            ("model", 0),
            ("use_class", "rocket"),
            ("odometer_unit", "ft"),
            ("records", "maybe"),
            ("new_on", "1 May"),
            ("new_on", "2999-01-01"),
            ("new_on", ""),
            ("year_built", "last year"),
            ("engine_at", "long ago"),
            ("severity", "2"),
            ("severity", "hard"),
            ("odometer", "many"),
        ):
            with self.subTest(field=field, value=value):
                answer = self.create(**{field: value})
                self.assertEqual(answer.status_code, 422)
                self.assertEqual(answer.json()["errors"][0]["pointer"], f"/{field}")
        self.assertFalse(Bike.objects.filter(name="Kestrel").exists())

    def test_the_card_tells_plate_frame_year_and_an_engine_of_its_own(self) -> None:
        card = {"plate": "XQ 77", "frame_number": "FN-0041", "year_built": "2019"}
        swapped = {"engine_number": "E-77", "engine_at": "5 000 mi", "engine_had": "3 000"}
        form = self.form(**card, **swapped)
        self.assertEqual(self.api.post("/api/bikes/", form, format="json").status_code, 201)
        url = f"/api/bikes/{form['id']}/"
        page = self.api.get(url).json()
        self.assertEqual((page["plate"], page["year_built"]), ("XQ 77", 2019))
        # 12 400 km on the clock, fitted at 8047: 4353 run since, 3000 before
        self.assertIn("E-77, has run 7353 km itself", page["engine"])
        later = self.create(engine_at="20 000 km")
        self.assertIn("shows 12\u00a0400 km", self.sentence(later, "/engine_at"))
        alone = self.create(engine_had="3 000")
        self.assertIn("fitted", self.sentence(alone, "/engine_at"))
        kept = self.api.get(f"{url}form/").json()["form"]
        self.assertEqual(self.api.put(f"{url}form/", kept, format="json").status_code, 200)
        self.assertEqual(Bike.objects.get(name="Kestrel").version, kept["version"])
        found = self.api.get("/api/ward/", {"search": "xq 77"}).json()["bikes"]
        self.assertEqual([bike["name"] for bike in found], ["Kestrel"])

    def test_unknown_history_is_due_now(self) -> None:
        self.create(records="none", new_on="")
        ward = self.api.get("/api/ward/", {"search": "kestrel"}).json()
        states = {glass["state"] for glass in ward["bikes"][0]["glasses"]}
        self.assertEqual(states, {"baseline"})

    def test_two_people_at_one_bike(self) -> None:
        url = f"/api/bikes/{self.heron.pk}/form/"
        form = self.api.get(url).json()["form"]
        first = self.api.put(url, {**form, "notes": "Horn weak"}, format="json")
        self.assertEqual(first.json()["form"]["version"], form["version"] + 1)
        retried = self.api.put(url, {**form, "notes": "Horn weak"}, format="json")
        self.assertEqual(
            retried.json()["form"], first.json()["form"]
        )  # one's own again: no conflict
        second = self.signed_in("oda").put(url, {**form, "notes": "Lamp weak"}, format="json")
        self.assertEqual(second.status_code, 409)
        self.assertIn("Mira changed this bike", second.json()["detail"])

    def test_an_archived_bike_leaves_the_ward_and_keeps_its_page(self) -> None:
        url = f"/api/bikes/{self.heron.pk}/form/"
        form = self.api.get(url).json()["form"]
        self.api.put(url, {**form, "archived": True}, format="json")
        names = [bike["name"] for bike in self.api.get("/api/ward/").json()["bikes"]]
        self.assertNotIn("Grey Heron", names)
        self.assertTrue(self.api.get(f"/api/bikes/{self.heron.pk}/").json()["archived"])

    def test_a_bike_with_an_open_visit_stays(self) -> None:
        mira = Technician(self.api, self.heron.pk)
        mira.open()
        url = f"/api/bikes/{self.heron.pk}/form/"
        form = {**self.api.get(url).json()["form"], "archived": True}
        refused = self.api.put(url, form, format="json")
        self.assertEqual(refused.status_code, 409)
        self.assertIn("Sign or leave it", refused.json()["detail"])
        self.assertFalse(self.api.get(url).json()["form"]["archived"])
        mira.leave("Owner came for it")
        self.assertEqual(self.api.put(url, form, format="json").status_code, 200)

    def test_a_reader_enters_nothing(self) -> None:
        piet = self.signed_in("piet")
        self.assertEqual(piet.post("/api/bikes/", self.form(), format="json").status_code, 403)


class OdometerTests(WorkshopTestCase):
    def record(self, text: str, name: str = "Grey Heron", **more: str) -> OdometerReading:
        return record_odometer(
            Bike.objects.get(name=name),
            text,
            reading_id=uuid4(),
            read_on=days.today(),
            actor=Person.objects.get(username="mira"),
            **more,
        )

    def test_in_the_bikes_unit_or_any_other(self) -> None:
        self.assertEqual(self.record("61 300").km, Decimal("98652.7872"))
        self.assertEqual(self.record("98 700 km").km, 98700)
        latest = last_odometer([self.heron.pk])[self.heron.pk]
        self.assertEqual((latest.km, latest.as_written), (98700, "98 700 km"))

    def test_long_winded_readings_are_taken(self) -> None:
        row = self.record("61 300" + " " * 60 + "mi")
        self.assertLessEqual(len(row.as_written), 40)

    def test_refusals_name_the_field(self) -> None:
        for text, code in (
            ("61 000", "odometer.below_last"),
            ("98 700", "odometer.which_unit"),
            ("", "odometer.empty"),
            ("-5", "quantity.negative"),
            ("3 l", "quantity.wrong_kind"),
        ):
            with self.subTest(text), self.assertRaises(CoreError) as caught:
                self.record(text)
            self.assertEqual(
                (caught.exception.code, caught.exception.fields["field"]), (code, "odometer")
            )

    def test_a_replaced_odometer_counts_on(self) -> None:
        url = f"/api/bikes/{self.heron.pk}/odometer/"
        new = {"id": str(uuid4()), "odometer": "61 300", "hours": "", "new_shows": "4"}
        for _ in range(2):
            self.assertEqual(self.api.post(url, new, format="json").status_code, 204)
        page = self.api.get(f"/api/bikes/{self.heron.pk}/").json()
        self.assertEqual(page["odometer"], "4 mi")
        self.assertEqual(
            round(self.record("104 mi").km), round(Decimal("61400") * Decimal("1.609344"))
        )

    def test_a_bike_whose_odometer_was_replaced_shows_the_new_one(self) -> None:
        goat = Bike.objects.get(name="Goat")
        page = self.api.get(f"/api/bikes/{goat.pk}/").json()
        self.assertEqual(page["odometer"], "2230 km · 169 h")
        self.assertEqual(last_odometer([goat.pk])[goat.pk].km, 6130)

    def test_hours_do_not_run_backwards(self) -> None:
        self.assertEqual(self.record("2 240", "Goat", hours="171,5 h").hours, Decimal("171.5"))
        self.assertEqual(self.record("2 250", "Goat").hours, Decimal("171.5"))
        for text in ("100", "soon", "1e99"):
            with self.subTest(text), self.assertRaises(CoreError) as caught:
                self.record("2 260", "Goat", hours=text)
            self.assertEqual(caught.exception.fields["field"], "hours")


class OwnValueTests(WorkshopTestCase):
    def write(self, written: str, revision: int, **more: str) -> Any:
        body = {"path": "engine//capacity.with filter", "written": written, "revision": revision}
        url = f"/api/bikes/{self.heron.pk}/own-values/"
        return self.api.put(url, {**body, "document": "Jug", **more}, format="json")

    def line(self) -> dict[str, Any]:
        page = self.api.get(f"/api/bikes/{self.heron.pk}/").json()
        lines = [line for group in page["reservoirs"][0]["spec"] for line in group["lines"]]
        return next(line for line in lines if line["name"] == "Capacity, with filter")

    def check(self, who: Any = None, revision: int = 1, path: str = "") -> Any:
        body = {"path": path or "engine//capacity.with filter", "revision": revision}
        url = f"/api/bikes/{self.heron.pk}/own-values/checks/"
        return (who or self.signed_in("oda")).post(url, body, format="json")

    def test_it_waits_for_a_second_person_and_the_sheets_counts_until_then(self) -> None:
        self.write("3.5 qt", 0)
        line = self.line()
        self.assertEqual((line["as_written"], line["own"]), ("3.65 qt", False))
        self.assertEqual((line["waits"], line["waits_by"]), ("3.5 qt", "Mira"))
        self.assertIn("Somebody else", self.sentence(self.check(self.api), "/path"))
        self.assertEqual(self.check(revision=2).status_code, 409)
        for _ in range(2):
            self.assertEqual(self.check().status_code, 204)
        line = self.line()
        self.assertEqual((line["as_written"], line["own"], line["waits"]), ("3.5 qt", True, ""))
        self.write("3.55 qt", 1)  # another value waits anew
        self.assertEqual((self.line()["as_written"], self.line()["waits"]), ("3.65 qt", "3.55 qt"))

    def test_far_from_the_sheet_is_asked(self) -> None:
        answer = self.write("8 qt", 0)
        self.assertEqual(answer.status_code, 422)
        self.assertEqual(answer.json()["code"], "spec.far_from_sheet")
        self.assertIn("3.65 qt", self.sentence(answer, "/written"))
        self.assertEqual(self.write("8 qt", 0, sure="8 qt").status_code, 204)

    def test_words_and_intervals_count_at_once(self) -> None:
        self.write("5000 km", 0, path="engine//repeat.km")
        page = self.api.get(f"/api/bikes/{self.heron.pk}/").json()
        lines = [line for group in page["reservoirs"][0]["spec"] for line in group["lines"]]
        own = [line["as_written"] for line in lines if line["own"]]
        self.assertEqual(own, ["5000 km"])

    def test_alone_in_the_workshop_document_and_page_are_named(self) -> None:
        Person.objects.exclude(username="mira").update(is_active=False)
        self.write("3.5 qt", 0)
        self.assertEqual(self.check(self.api).json()["code"], "spec.own_unsourced")
        self.write("3.55 qt", 1, document="Colossine workshop manual", page="12")
        self.assertEqual(self.check(self.api, 2).status_code, 204)
        self.assertIn("one pair of eyes", self.line()["checked_by"])

    def test_one_bikes_own_value_is_shown_as_such_and_goes_back(self) -> None:
        self.assertEqual(self.write("3.5 qt", 0).status_code, 204)
        self.check()
        self.assertEqual((self.line()["as_written"], self.line()["own"]), ("3.5 qt", True))
        self.assertEqual(self.write("3.6 qt", 0).status_code, 409)
        self.assertEqual(self.write("", 1).status_code, 204)
        self.assertEqual((self.line()["as_written"], self.line()["own"]), ("3.65 qt", False))

    def test_it_is_read_like_a_sheet(self) -> None:
        self.assertIn("torque", self.sentence(self.write("3 N·m", 0), "/written"))

    def test_a_run_sheet_uses_it(self) -> None:
        from visits.tests.bench import Technician

        self.write("3.5 qt", 0)
        self.check()
        mira = Technician(self.api, self.heron.pk)
        mira.open()
        self.assertEqual(mira.task["capacity"], "3312 ml")

    def test_until_it_is_checked_a_run_sheet_uses_the_sheets(self) -> None:
        from visits.tests.bench import Technician

        self.write("3.5 qt", 0)
        mira = Technician(self.api, self.heron.pk)
        mira.open()
        self.assertEqual(mira.task["capacity"], "3454 ml")


class SchoolTests(WorkshopTestCase):
    def choose(
        self, api: Any, choice: str, bike: str = "", topic: str = "torque", seen: str = ""
    ) -> Any:
        body = {"kind": "engine", "topic": topic, "choice": choice, "bike": bike, "seen": seen}
        return api.put("/api/schools/", body, format="json")

    def engine(self, page: Any, topic: str) -> tuple[str, str]:
        lines = next(t["lines"] for t in page["topics"] if t["key"] == topic)
        line = next(line for line in lines if line["kind"] == "engine")
        return line["choice"], line["whose"]

    def test_the_workshops_is_a_leads_and_a_bikes_own_comes_first(self) -> None:
        oda, heron = self.signed_in("oda"), str(self.heron.pk)
        self.assertEqual(self.choose(self.api, "lower third").status_code, 403)
        page = self.choose(oda, "lower third").json()
        self.assertEqual(self.engine(page, "torque"), ("lower third", "the workshop's school"))
        own = self.choose(self.api, "middle", heron).json()
        self.assertEqual(self.engine(own, "torque"), ("middle", "this bike's school"))
        self.choose(self.api, "", heron, seen="middle")
        self.assertFalse(OwnSchool.objects.filter(bike=self.heron).exists())
        back = self.choose(oda, "", seen="lower third").json()
        self.assertEqual(self.engine(back, "torque"), ("middle", "usual practice"))
        self.assertEqual(self.choose(oda, "tight").status_code, 422)

    def test_a_choice_made_meanwhile_is_not_written_over(self) -> None:
        oda = self.signed_in("oda")
        for _ in range(2):
            self.assertEqual(self.choose(oda, "lower third").status_code, 200)
        late = self.choose(oda, "middle")
        self.assertEqual(late.status_code, 409)
        self.assertIn("Oda chose “lower third”", late.json()["detail"])
        self.assertEqual(self.choose(oda, "middle", seen="lower third").status_code, 200)

    def test_half_the_book_makes_it_due_and_says_why(self) -> None:
        bell = Bike.objects.get(name="Ferry Bell")
        self.choose(self.api, "half the book", str(bell.pk), "interval")
        page = self.api.get(f"/api/bikes/{bell.pk}/").json()
        glass = page["reservoirs"][0]["glass"]
        self.assertEqual(glass["state"], "due")
        self.assertIn("half the book (this bike's school)", str(glass["reasons"]))

    def test_the_filter_school_decides_what_is_proposed(self) -> None:
        goat = Bike.objects.get(name="Goat")
        page = self.api.get(f"/api/bikes/{goat.pk}/").json()
        self.assertEqual(page["reservoirs"][0]["variants"][0], "drain only")
        self.choose(self.api, "each change", str(goat.pk), "filter")
        page = self.api.get(f"/api/bikes/{goat.pk}/").json()
        self.assertEqual(page["reservoirs"][0]["variants"][0], "with filter")


class PhotoTests(WorkshopTestCase):
    def picture(self, size: tuple[int, int] = (2400, 1200), kind: str = "JPEG") -> bytes:
        image, out = Image.new("RGB", size, "#805030"), BytesIO()
        exif = image.getexif()
        exif[0x010F], exif[0x8825] = "Camera", {1: "N", 2: (60.0, 1.0, 1.0)}
        image.save(out, kind, **({"exif": exif} if kind == "JPEG" else {}))
        return out.getvalue()

    def upload(self, raw: bytes, name: str = "bike.jpg") -> Any:
        body = {"id": str(uuid4()), "picture": SimpleUploadedFile(name, raw), "caption": "Left"}
        return self.api.post(f"/api/bikes/{self.heron.pk}/photos/", body, format="multipart")

    def test_a_picture_is_made_small_and_cleaned(self) -> None:
        (line,) = self.upload(self.picture()).json()
        self.assertEqual((line["caption"], line["taken_by"]), ("Left", "Mira"))
        answer = self.api.get(f"/api/photos/{line['id']}/")
        with Image.open(BytesIO(answer.content)) as kept:
            self.assertEqual((kept.format, kept.size), ("JPEG", (1600, 800)))
            self.assertEqual(dict(kept.getexif()), {})
        self.assertEqual(self.api.delete(f"/api/photos/{line['id']}/").status_code, 204)
        self.assertEqual(self.api.get(f"/api/photos/{line['id']}/").status_code, 404)

    def test_an_id_of_another_bikes_picture_is_refused_and_the_same_again_is_not(self) -> None:
        body = {"id": str(uuid4()), "caption": ""}
        ferry = Bike.objects.get(name="Ferry Bell")
        for bike, status in ((self.heron, 200), (self.heron, 200), (ferry, 409)):
            picture = SimpleUploadedFile("bike.jpg", self.picture((40, 40)))
            url = f"/api/bikes/{bike.pk}/photos/"
            answer = self.api.post(url, {**body, "picture": picture}, format="multipart")
            self.assertEqual(answer.status_code, status, answer.content)
        self.assertIn("another bike", answer.json()["detail"])

    def test_what_is_no_picture_is_refused(self) -> None:
        for raw in (b"", b"<svg/>", b"\x89PNG\r\n\x1a\n broken", self.picture((40, 40), "TIFF")):
            with self.subTest(raw[:8]):
                self.assertIn(self.upload(raw).status_code, (400, 422))
        bomb = BytesIO()
        Image.new("1", (5_100, 5_000)).save(bomb, "PNG")
        self.assertIn("too large", self.sentence(self.upload(bomb.getvalue(), "b.png"), "/picture"))
        self.assertFalse(BikePhoto.objects.exists())
