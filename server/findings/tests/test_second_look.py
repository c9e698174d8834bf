"""A second pair of eyes, a lead who sees it otherwise, pictures, and a plug that is looked at sooner."""

from datetime import timedelta
from decimal import Decimal
from io import BytesIO
from typing import Any
from uuid import uuid4

from django.core.files.uploadedfile import SimpleUploadedFile
from garage.models import Bike
from PIL import Image
from visits.models import Service, Task, TopUp
from visits.tests.bench import Technician
from visits.tests.test_visit import PASTE, VisitTestCase

from findings.models import Finding, Overruling, Picture

SLIVERS = {**PASTE, "form": "slivers", "share_percent": "5"}


def camera(size: tuple[int, int] = (400, 300), kind: str = "JPEG") -> bytes:
    """A picture with its place and camera in it, as one takes it."""
    image, out = Image.new("RGB", size, "#805030"), BytesIO()
    exif = image.getexif()
    exif[0x010F], exif[0x8825] = "Camera", {1: "N", 2: (60.0, 1.0, 1.0)}
    image.save(out, kind, **({"exif": exif} if kind == "JPEG" else {}))
    return out.getvalue()


class PlugTestCase(VisitTestCase):
    """Somebody reads the engine's plug."""

    def as_(self, username: str) -> Technician:
        """Somebody else at the same visit."""
        other = Technician(self.signed_in(username), self.heron.pk)
        other.visit, other.now, other.sheet = self.mira.visit, self.mira.now, self.mira.sheet
        return other

    def until_graded(self, who: Technician, parts: list[dict[str, Any]], **more: Any) -> None:
        who.open()
        who.until_drained()
        who.entry("amount", {"amount": who.task["expected_out"]})
        who.entry("finding", {"parts": parts, "oil": ["dark"], **more})
        self.assertEqual(who.last.status_code, 200, who.last.content)

    def signed(self, who: Technician) -> None:
        who.entry("answer", {"value": "new"})
        who.tick()
        who.entry("torque", {"reading": who.task["torque"]["aim"], "wrench": who.wrench_id})
        who.entry("filter", {"amount": "5 oz", "items": who.ticks()})
        who.round("0.4")
        who.round("0.72")
        who.dry()
        who.tick()
        self.assertEqual(who.sign().status_code, 200, who.last.content)

    def newest(self) -> list[Finding]:
        rows = Finding.objects.filter(bike=self.heron, reservoir="engine")
        day = rows.latest("found_on").found_on
        return list(rows.filter(found_on=day))


class SecondLookTests(PlugTestCase):
    def test_a_mentor_s_reading_counts_and_both_stand(self) -> None:
        runa = self.as_("runa")
        self.until_graded(runa, [SLIVERS])
        self.assertEqual(runa.task["verdict"]["level"], "watch")
        again = {"parts": [PASTE], "oil": ["dark"]}
        own = runa.entry("regrade", again, step="engine/inspect")
        self.assertEqual(own.json()["code"], "finding.own_grade")
        mira = self.as_("mira")
        mira.sheet, mira.now = runa.sheet, runa.now
        mira.sheet = self.api.get(f"/api/visits/{mira.visit}/").json()
        self.assertTrue(mira.step("engine/inspect")["regrade"])
        self.assertFalse(runa.step("engine/inspect")["regrade"])
        self.assertEqual(mira.entry("regrade", again, step="engine/inspect").status_code, 200)
        self.assertEqual(mira.task["verdict"]["level"], "routine")
        by_runa = self.as_("runa")
        by_runa.sheet, by_runa.now = mira.sheet, mira.now
        self.assertEqual(
            by_runa.entry("regrade", again, step="engine/inspect").json()["code"], "finding.mentor"
        )
        self.signed(mira)
        first, second = sorted(self.newest(), key=lambda row: row.regrade_of_id is not None)
        self.assertEqual((first.found_by.name, first.level), ("Runa", "watch"))
        self.assertEqual((second.found_by.name, second.level), ("Mira", "routine"))
        self.assertEqual(second.regrade_of_id, first.pk)
        page = self.api.get(f"/api/bikes/{self.heron.pk}/").json()
        engine = next(r for r in page["reservoirs"] if r["glass"]["key"] == "engine")
        plug = engine["findings"][0]
        self.assertEqual((plug["by"], plug["first"]["by"]), ("Mira", "Runa"))
        self.assertNotIn("Half the interval", str(engine["glass"]["reasons"]))

    def test_watch_halves_the_interval_and_a_lead_takes_it_back_with_a_reason(self) -> None:
        def engine() -> dict[str, Any]:
            page = self.api.get(f"/api/bikes/{self.heron.pk}/").json()
            return next(r for r in page["reservoirs"] if r["glass"]["key"] == "engine")

        self.until_graded(self.mira, [SLIVERS])
        self.signed(self.mira)
        self.assertIn("Half the interval", str(engine()["glass"]["reasons"]))
        (row,) = self.newest()
        url = f"/api/findings/{row.pk}/overrulings/"
        body = {"id": str(uuid4()), "level": "note", "reason": "Casting flash, as on its sisters"}
        self.assertEqual(self.api.post(url, body, format="json").status_code, 403)
        lead = self.signed_in("oda")
        for wrong, code in (
            ({"level": "nonsense"}, "sheet.choose"),
            ({"reason": " "}, "sheet.reason"),
        ):
            told = lead.post(url, {**body, **wrong}, format="json")
            self.assertEqual((told.status_code, told.json()["code"]), (422, code))
        for _ in range(2):
            self.assertEqual(lead.post(url, body, format="json").status_code, 201)
        self.assertEqual(lead.post(url, {**body, "level": "hold"}, format="json").status_code, 409)
        self.assertEqual(Overruling.objects.count(), 1)
        self.assertNotIn("Half the interval", str(engine()["glass"]["reasons"]))
        plug = engine()["findings"][0]
        self.assertEqual((plug["level"], plug["judged"]), ("note", "watch"))
        row.refresh_from_db()
        self.assertEqual(row.level, "watch")  # what the rules said stands

    def test_overruled_upwards_it_asks_until_it_is_answered(self) -> None:
        self.until_graded(self.mira, [PASTE])
        self.signed(self.mira)
        (row,) = self.newest()
        body = {"id": str(uuid4()), "level": "hold", "reason": "It whines; I do not trust it"}
        lead = self.signed_in("oda")
        lead.post(f"/api/findings/{row.pk}/overrulings/", body, format="json")
        ward = self.api.get("/api/ward/?search=Grey+Heron").json()["bikes"][0]
        self.assertTrue(ward["hold"])

    def test_a_watched_plug_asks_for_a_sample_before_the_next_drain(self) -> None:
        self.until_graded(self.mira, [SLIVERS])
        self.signed(self.mira)
        later = Technician(self.api, self.heron.pk)
        later.now = self.mira.now + timedelta(minutes=5)
        later.open("61 900")
        self.assertTrue(Task.objects.get(visit=later.visit).sample)
        self.assertEqual(later.step("engine/sample")["kind"], "check")

    def test_only_the_rules_answer_while_it_is_being_read_and_nothing_is_kept(self) -> None:
        self.mira.open()
        url = f"/api/visits/{self.mira.visit}/verdict/"
        body = {"step": "engine/inspect", "data": {"parts": [SLIVERS], "oil": ["milky"]}}
        said = self.api.post(url, body, format="json").json()
        self.assertEqual(said["level"], "hold")
        self.assertIn("If no drop crackles on a hot plate: watch.", said["changes"])
        before = Finding.objects.count()
        wrong = {"step": "engine/inspect", "data": {"parts": [{**SLIVERS, "share_percent": "x"}]}}
        told = self.api.post(url, wrong, format="json")
        self.assertIn("0 to 100 %", self.sentence(told, "/share"))
        for step in ("engine/drain", "nowhere"):
            told = self.api.post(url, {**body, "step": step}, format="json")
            self.assertEqual(told.status_code, 422)
        self.assertEqual(Finding.objects.count(), before)

    def test_the_pan_is_asked_when_it_is_placed_and_counts_for_what_lay_in_it(self) -> None:
        chip = {"form": "slivers", "matter": "brass", "share_percent": "0", "count": "3"}
        chip |= {"place": "pan"}
        self.mira.open()
        self.mira.look_over()
        for step in ("warm", "support", "engine/filler"):
            self.assertEqual(self.mira.sheet["focus"], step)
            if step == "warm":
                self.mira.wait(10)
            elif step == "engine/filler":
                self.mira.entry("answer", {"value": "open"})
            else:
                self.mira.tick()
        self.mira.entry("start", {"pan_clean": False})
        self.mira.now += timedelta(minutes=10)
        self.mira.entry("stop")
        self.mira.entry("amount", {"amount": self.mira.task["expected_out"]})
        url = f"/api/visits/{self.mira.visit}/verdict/"
        body = {"step": "engine/inspect", "data": {"parts": [chip], "oil": []}}
        self.assertEqual(self.api.post(url, body, format="json").json()["level"], "watch")
        self.mira.entry("finding", {"parts": [chip], "oil": []})
        self.assertEqual(self.mira.task["verdict"]["level"], "watch")
        sure = {"parts": [chip], "oil": [], "pan_clean": True}
        body["data"] = sure
        self.assertEqual(self.api.post(url, body, format="json").json()["level"], "investigate")


class PictureTests(PlugTestCase):
    def upload(self, raw: bytes, name: str = "plug.jpg", picture: str = "") -> Any:
        body = {"id": picture or str(uuid4()), "picture": SimpleUploadedFile(name, raw)}
        url = f"/api/bikes/{self.heron.pk}/plug-pictures/"
        return self.api.post(url, body, format="multipart")

    def test_it_is_kept_clean_and_small_and_goes_with_its_finding_with_the_spot(self) -> None:
        picture = str(uuid4())
        for _ in range(2):
            kept = self.upload(camera((3000, 1500)), picture=picture)
            self.assertEqual((kept.status_code, kept.json()["id"]), (201, picture))
        answer = self.api.get(f"/api/plug-pictures/{picture}/")
        with Image.open(BytesIO(answer.content)) as shown:
            self.assertEqual((shown.format, shown.size), ("JPEG", (1600, 800)))
            self.assertEqual(dict(shown.getexif()), {})
        self.assertNotIn(b"Camera", answer.content)
        spot = {"id": picture, "x": "0.25", "y": "0.5"}
        lost = {"id": str(uuid4())}  # never arrived
        self.until_graded(self.mira, [PASTE], pictures=[spot, lost], kept="Bag 14")
        self.signed(self.mira)
        (row,) = self.newest()
        self.assertEqual(row.kept, "Bag 14")
        found = self.api.get(f"/api/bikes/{self.heron.pk}/findings/engine/").json()[0]
        self.assertEqual(found["pictures"], [{"id": picture, "x": 0.25, "y": 0.5}])

    def test_what_is_no_picture_or_too_much_of_one_is_refused(self) -> None:
        script = b'<svg xmlns="http://www.w3.org/2000/svg"><script>alert(1)</script></svg>'
        for raw, name in (
            (script, "plug.svg"),
            (script, "plug.jpg"),
            (b"\x89PNG\r\n\x1a\n broken", "plug.png"),
            (camera((40, 40), "TIFF"), "plug.jpg"),
            (b"", "plug.jpg"),
        ):
            with self.subTest(name, begins=raw[:8]):
                self.assertIn(self.upload(raw, name).status_code, (400, 422))
        bomb = BytesIO()
        Image.new("1", (5_100, 5_000)).save(bomb, "PNG")
        self.assertIn("too large", self.sentence(self.upload(bomb.getvalue()), "/picture"))
        self.assertLess(len(bomb.getvalue()), 20_000)
        huge = camera() + b"\0" * 12_000_001
        self.assertIn(self.upload(huge).status_code, (400, 413, 422))
        self.assertFalse(Picture.objects.exists())

    def test_another_bike_s_picture_is_not_taken(self) -> None:
        picture = str(uuid4())
        self.upload(camera(), picture=picture)
        other = Bike.objects.exclude(pk=self.heron.pk).first()
        assert other
        url = f"/api/bikes/{other.pk}/plug-pictures/"
        body = {"id": picture, "picture": SimpleUploadedFile("p.jpg", camera())}
        self.assertEqual(self.api.post(url, body, format="multipart").status_code, 409)
        self.assertEqual(self.api.get(f"/api/plug-pictures/{uuid4()}/").status_code, 404)

    def test_a_spot_outside_the_picture_is_refused(self) -> None:
        self.mira.open()
        self.mira.until_drained()
        self.mira.entry("amount", {"amount": self.mira.task["expected_out"]})
        for spot in ({"x": "1.5"}, {"x": "left"}, {"id": ""}):
            data = {"parts": [], "oil": [], "pictures": [{"id": str(uuid4()), **spot}]}
            with self.subTest(spot):
                self.assertEqual(self.mira.entry("finding", data).status_code, 422)


class CameOutTests(PlugTestCase):
    """What came out, by what this bike gave back before, what was topped up, and its oil's density."""

    def test_top_ups_and_density_go_into_what_is_expected(self) -> None:
        last = Service.objects.filter(bike=self.heron, reservoir="engine").latest("done_on")
        TopUp.objects.create(
            id=uuid4(),
            bike=self.heron,
            reservoir="engine",
            done_on=last.done_on + timedelta(days=1),
            reading=last.reading,
            ml=Decimal(300),
            done_by="Mira",
        )
        self.mira.open()
        task = Task.objects.get(visit=self.mira.visit)
        self.assertEqual(task.topped_up, 300)
        self.mira.until_drained()
        self.mira.entry("amount", {"amount": self.mira.task["expected_out"], "celsius": "20"})
        remark = self.mira.step("engine/measure")["remark"]
        self.assertIn("As expected", remark)

    def test_the_scale_says_that_it_is_simulated_and_its_reading_can_be_written_down(self) -> None:
        self.mira.open()
        self.mira.until_drained()
        expected = self.mira.task["expected_out"]
        read = self.api.get("/api/scale/", {"expected": expected}).json()
        self.assertTrue(read["simulated"])
        data = {"amount": read["weight"], "tare": read["pan"], "celsius": read["celsius"]}
        self.assertEqual(self.mira.entry("amount", {**data, "by": "scale"}).status_code, 200)
        self.assertIn("at 20 °C", self.mira.step("engine/measure")["entry"]["result"])
        self.assertEqual(self.api.get("/api/scale/", {"expected": "20 N·m"}).status_code, 422)
