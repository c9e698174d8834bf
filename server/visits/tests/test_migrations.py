"""Visits, services and findings of the last release keep what they said, at readings of their own."""

from datetime import UTC, date, datetime, timedelta
from decimal import Decimal
from typing import Any, ClassVar
from uuid import uuid4

from demo.as_in_use import MigrationTestCase
from oilward_core.bench import kept

BEFORE = [
    ("workshop", "0009_currency"),
    ("visits", "0006_entry_sent"),
    ("garage", "0004_own_schools"),
    ("findings", "0001_initial"),
    ("planning", "0004_done"),
]
DAY, AT = date(2026, 1, 1), datetime(2026, 1, 1, 9, tzinfo=UTC)
CELL = {"document": "manual", "page": "7", "entered_by": "Mira", "entered_on": "2026-01-01",
        "checked_by": "", "checked_on": None}  # fmt: skip
SPEC = {
    "primary//kind": {**CELL, "written": "primary"},
    "primary//label": {**CELL, "written": "primary"},
    "primary//capacity.drain only": {**CELL, "written": "1000 ml"},
    "primary//fill rule": {**CELL, "written": "exact"},
}


class OfThenTestCase(MigrationTestCase):
    """A workshop of a lead with one bike, in the tables of an earlier release: ``release``."""

    release: ClassVar[list[tuple[str, str]]]
    offset: ClassVar[dict[str, int]] = {}

    def setUp(self) -> None:
        super().setUp()
        self.old = self.as_of(self.release).get_model
        self.mira = self.make("workshop", "Person", username="mira", name="Mira", role="lead")
        self.model = self.make("garage", "BikeModel", make="Brackwell", name="Old 900", year=2001,
                               layout="V-twin, belt", displacement_cc=900)  # fmt: skip
        self.bike = self.make("garage", "Bike", model=self.model, name="Tern", use_class="touring",
                              odometer_unit="km", records="none", **self.offset)  # fmt: skip

    def make(self, app: str, model_name: str, /, **fields: Any) -> Any:
        return self.old(app, model_name).objects.create(**fields)

    def sheet_of(self, **fields: Any) -> Any:
        told = {"model": self.model, "version": 1, "entered_by": self.mira, **fields}
        return self.make("garage", "SpecSheet", **told)


class LastReleaseTests(OfThenTestCase):
    release = BEFORE
    offset: ClassVar[dict[str, int]] = {"offset_km": 5000}

    def setUp(self) -> None:
        super().setUp()
        self.sheet = self.sheet_of(state="approved", approved_by=self.mira, approved_at=AT)

    def read(self, km: int, day: date = DAY, replaced: bool = False) -> Any:
        return self.make("garage", "OdometerReading", bike=self.bike, km=km, as_written="-",
                         read_on=day, read_by=self.mira, replaced=replaced)  # fmt: skip

    def serviced(self, **fields: Any) -> Any:
        told = {"variant": "drain only", "done_on": DAY, "done_by": "Mira", **fields}
        return self.make("visits", "Service", bike=self.bike, reservoir="primary", **told)

    def closed(self, state: str) -> Any:
        at = AT + timedelta(hours=4)
        visit = self.make(
            "visits", "Visit", id=uuid4(), bike=self.bike, sheet=self.sheet, opened_by=self.mira,
            opened_at=AT, odometer=self.read(6200), state=state, closed_by=self.mira, closed_at=at,
        )  # fmt: skip
        self.make("visits", "Task", visit=visit, reservoir="primary", spec=SPEC, schools=[],
                  variant="drain only")  # fmt: skip
        self.make(
            "visits", "EntryRow", id=uuid4(), visit=visit, step="primary/fill.1", kind="pour",
            data={"ml": "1000", "said": "1 l", "unit": "l"}, at=AT, by=self.mira,
        )  # fmt: skip
        return visit

    def test_each_service_and_finding_has_its_reading(self) -> None:
        self.read(4000)
        self.read(5000, replaced=True)
        here = self.read(6000)
        known = self.serviced(km=6000, take_valid=False)
        alone = self.serviced(km=5500, hours=Decimal("7.5"), done_on=date(2025, 6, 1))
        found = self.make(
            "findings", "Finding", bike=self.bike, reservoir="primary", found_on=DAY, km=6000,
            km_since_wiped=500, parts=[], oil=[], level="routine", rules=[], wear={},
            found_by=self.mira,
        )  # fmt: skip
        new = self.migrate().get_model
        services = new("visits", "Service").objects.select_related("reading")
        self.assertEqual(services.get(pk=known.pk).reading_id, here.pk)
        self.assertEqual(services.get(pk=known.pk).not_learned, "Gauge and book disagreed.")
        made = services.get(pk=alone.pk).reading
        self.assertEqual((made.km, made.hours, made.as_written), (5500, Decimal("7.5"), "5500 km"))
        self.assertEqual((made.read_on, made.offset_km), (date(2025, 6, 1), 5000))
        self.assertEqual(new("findings", "Finding").objects.get(pk=found.pk).reading_id, here.pk)
        offsets = dict(new("garage", "OdometerReading").objects.values_list("km", "offset_km"))
        self.assertEqual(offsets, {4000: 0, 5000: 0, 5500: 5000, 6000: 5000})

    def test_closed_visits_get_their_closing_from_the_fold_of_today(self) -> None:
        visit = self.closed("signed")
        service = self.serviced(visit=visit, km=6200, took_ml=1000)
        new = self.migrate().get_model
        closing = kept(new("visits", "ClosingRow").objects.get().document)
        self.assertEqual((closing.sheet.tasks[0].added, closing.km), (1000, 6200))
        self.assertEqual(closing.tasks[0].not_learned, "")
        row = new("visits", "Service").objects.get(pk=service.pk)
        self.assertEqual((row.reading_id, row.not_learned), (visit.odometer_id, ""))


LAST = [
    ("workshop", "0009_currency"),
    ("visits", "0010_by_word"),
    ("garage", "0010_bike_card"),
    ("planning", "0006_worked_out_anew"),
]


class OpenVisitTests(OfThenTestCase):
    """A visit opened with the last release goes on with this one."""

    release = LAST
    offset: ClassVar[dict[str, int]] = {"offset_km": 0}

    def setUp(self) -> None:
        super().setUp()
        sheet = self.sheet_of(state="approved", approved_by=self.mira, approved_at=AT)
        read = self.make("garage", "OdometerReading", bike=self.bike, km=6200, as_written="-",
                         read_on=DAY, read_by=self.mira)  # fmt: skip
        self.visit = self.make("visits", "Visit", id=uuid4(), bike=self.bike, sheet=sheet,
                               odometer=read, opened_by=self.mira, opened_at=AT)  # fmt: skip
        self.make("visits", "Task", visit=self.visit, reservoir="primary", spec=SPEC, schools=[],
                  variant="drain only")  # fmt: skip

    def wrote(self, minute: int, step: str, kind: str, **data: Any) -> None:
        at = AT + timedelta(minutes=minute)
        self.make("visits", "EntryRow", id=uuid4(), visit=self.visit, step=step, kind=kind,
                  data=data, at=at, by=self.mira)  # fmt: skip

    def test_it_stands_where_it_stood_and_is_finished_now(self) -> None:
        from visits.models import Visit
        from visits.selectors import open_visits, standing

        self.wrote(0, "cold", "confirm", items=[])
        self.wrote(1, "warm", "skip", reason="came in warm")
        self.wrote(2, "support", "confirm", items=[])
        self.wrote(3, "primary/filler", "answer", value="open")
        self.wrote(4, "primary/drain", "start")
        self.wrote(14, "primary/drain", "stop")
        self.wrote(15, "primary/measure", "skip", reason="no jug")
        self.wrote(16, "primary/inspect", "skip", reason="no light")
        self.wrote(17, "primary/washer", "answer", value="new")
        self.wrote(18, "primary/refit", "confirm", items=[])
        self.wrote(19, "primary/torque", "torque", nm="20", said="20 N·m", wrench="")
        self.wrote(20, "primary/fill.1", "pour", ml="1100", said="1100 ml", unit="ml")
        self.wrote(21, "primary/fill.2", "pour", ml="100", said="100 ml", unit="ml")
        self.migrate()
        visit = Visit.objects.select_related("bike__model", "sheet", "odometer").get()
        sheet = standing(visit).sheet
        (primary,) = sheet.tasks
        # the coach had asked to take 100 ml out, so they went out
        self.assertEqual((primary.added, primary.filled), (1000, True))
        self.assertEqual(sheet.focus, "primary/close")
        self.assertEqual(sheet.set_aside, ())
        _, said = open_visits([self.bike.pk])[self.bike.pk]
        self.assertEqual((said["title"], said["step"]), ("primary", "Close the filler"))


IN_WORDS = [
    ("workshop", "0011_forget_owner"),
    ("garage", "0010_bike_card"),
    ("findings", "0007_newest"),
    ("visits", "0015_drained"),
    ("planning", "0010_clocks"),
]
ENGINE = {
    path.replace("primary", "engine"): {
        **cell,
        "written": cell["written"].replace("primary", "engine"),
    }
    for path, cell in SPEC.items()
}


class InWordsTests(OfThenTestCase):
    """The release that kept words and names: what they stood for is found where that is sure."""

    release = IN_WORDS

    def setUp(self) -> None:
        super().setUp()
        self.bram = self.make("workshop", "Person", username="bram", name="Bram", role="lead")
        self.sheet = self.sheet_of(state="draft")

    def renamed(self, username: str, was: str, act: str) -> None:
        self.make("workshop", "Trace", by=self.mira, act=act, about=f"person/{username}",
                  was={"name": was})  # fmt: skip

    def entered(self, field: str, by: str) -> None:
        self.make(
            "garage", "SheetCell", sheet=self.sheet, reservoir="engine", field=field, written="1 l",
            document="manual", page="7", entered_by=by, entered_on=DAY,
        )  # fmt: skip

    def test_a_name_becomes_who_alone_bore_it_however_they_lost_it(self) -> None:
        self.renamed("mira", "Mirabel", "person changed")
        self.renamed("bram", "Bramble", "access ended")
        self.renamed("bram", "Mira", "person changed")
        named = {"mirabel": "Mirabel", "bramble": "Bramble", "both": "Mira", "nobody": "Runa"}
        for field, name in named.items():
            self.entered(field, name)
        new = self.migrate().get_model
        cells = new("garage", "SheetCell").objects.values_list("field", "entered_who_id")
        self.assertEqual(
            dict(cells),
            {"mirabel": self.mira.pk, "bramble": self.bram.pk, "both": None, "nobody": None},
        )

    def found(self, reading: Any, **fields: Any) -> Any:
        return self.make(
            "findings", "Finding", id=uuid4(), bike=self.bike, reservoir="engine", kind="engine",
            found_on=DAY, reading=reading, km_since_wiped=500, oil=[], level="watch", origin="-",
            action="-", rules=["D9: Stringy"], wear={}, found_by=self.mira, **fields,
        )  # fmt: skip

    def test_what_was_known_then_is_taken_from_the_plan_of_its_visit(self) -> None:
        at = {"bike": self.bike, "as_written": "-", "read_on": DAY, "read_by": self.mira}
        here, elsewhere = (
            self.make("garage", "OdometerReading", id=uuid4(), km=km, **at) for km in (6200, 7000)
        )
        visit = self.make(
            "visits", "Visit", id=uuid4(), bike=self.bike, sheet=self.sheet, opened_by=self.mira,
            opened_at=AT, odometer=here, state="signed", closed_by=self.mira, closed_at=AT,
        )  # fmt: skip
        wet = {"engine//fluid.friction": {**CELL, "written": "ma2"}}
        self.make("visits", "Task", visit=visit, reservoir="engine", spec={**ENGINE, **wet},
                  schools=[], variant="drain only", fine_last_time=True)  # fmt: skip
        known, unknown = self.found(here), self.found(elsewhere)
        new = self.migrate().get_model("findings", "Finding").objects
        row = new.get(pk=known.pk)
        self.assertEqual((row.wet_clutch, row.fine_last_time, row.excused), (True, True, False))
        row = new.get(pk=unknown.pk)
        self.assertEqual((row.wet_clutch, row.fine_last_time, row.excused), (None, None, None))


BEFORE_LOOKS = [
    ("visits", "0023_longer_places"),
    ("findings", "0009_no_magnet"),
    ("planning", "0010_clocks"),
    ("garage", "0012_who_they_were"),
]


class LooksOfBeforeTests(OfThenTestCase):
    """What was only looked at made no fluid younger; findings of one day stand as they were written."""

    release = BEFORE_LOOKS

    def setUp(self) -> None:
        super().setUp()
        self.sheet = self.sheet_of(state="draft")

    def read(self, km: int, minutes: int = 0) -> Any:
        return self.make("garage", "OdometerReading", id=uuid4(), bike=self.bike, km=km,
                         as_written="-", read_on=DAY, read_by=self.mira,
                         written_at=AT + timedelta(minutes=minutes))  # fmt: skip

    def served(self, kind: str, found: str = "", *, here: bool = True) -> Any:
        """A service of a reservoir of a kind: by a signed visit, or written down from elsewhere."""
        reading, visit = self.read(6200), None
        if here:
            visit = self.make(
                "visits", "Visit", id=uuid4(), bike=self.bike, sheet=self.sheet, state="signed",
                opened_by=self.mira, opened_at=AT, odometer=reading, closed_by=self.mira,
                closed_at=AT,
            )  # fmt: skip
            spec = {f"{kind}//kind": {**CELL, "written": kind.title()}}
            self.make("visits", "Task", visit=visit, reservoir=kind, spec=spec, schools=[],
                      variant="drain only")  # fmt: skip
        return self.make(
            "visits", "Service", id=uuid4(), bike=self.bike, reservoir=kind, visit=visit,
            variant="drain only", done_on=DAY, reading=reading, done_by="Mira", found=found,
        )  # fmt: skip

    def test_looks_are_carried_over_as_looks_and_what_is_due_is_worked_out_anew(self) -> None:
        low = self.served("front brake", "low, left as found")
        unseen = self.served("shock", "could not be seen")
        filled, changed = self.served("engine"), self.served("rear brake", here=False)
        self.make("planning", "WardRow", bike=self.bike, name="Tern", searched="", use_class="t",
                  shape={}, tally={})  # fmt: skip
        new = self.migrate().get_model
        did = dict(new("visits", "Service").objects.values_list("pk", "did"))
        self.assertEqual(did[low.pk], "looked")
        self.assertEqual(did[unseen.pk], "not seen")
        self.assertEqual((did[filled.pk], did[changed.pk]), ("changed", "changed"))
        row = new("planning", "WardRow").objects.get()
        self.assertLess(row.changes_on, DAY)

    def test_findings_of_one_day_are_in_the_order_of_their_readings(self) -> None:
        late, early = (
            self.make(
                "findings", "Finding", id=uuid4(), bike=self.bike, reservoir="engine",
                kind="engine", found_on=DAY, reading=self.read(6200, minutes), km_since_wiped=500,
                oil=[], level="watch", origin="-", action="-", rules=[], wear={},
                found_by=self.mira,
            )
            for minutes in (90, 10)
        )  # fmt: skip
        rows = self.migrate().get_model("findings", "Finding").objects.order_by("kept_at")
        self.assertEqual([row.pk for row in rows], [early.pk, late.pk])
        self.assertEqual({row.look for row in rows}, {""})
