"""Findings are kept once, with the verdict of the day, and the latest one is found."""

from datetime import date
from decimal import Decimal
from uuid import uuid4

from demo.testing import WorkshopTestCase
from garage.models import OdometerReading
from oilward_core.debris import Form, Matter, Observation, OilLook, Part
from oilward_core.spec import ReservoirKind
from workshop.models import Person

from findings.mapping import plug
from findings.models import Finding
from findings.selectors import last_findings
from findings.services import keep_finding

FLAKES = Part(
    form=Form.FLAKES, matter=Matter.STEEL, share=Decimal("0.2"), largest_mm=Decimal("1.5")
)


class KeepTests(WorkshopTestCase):
    def keep(self, finding_id=None) -> Finding:
        seen = Observation(
            reservoir=ReservoirKind.ENGINE,
            parts=(FLAKES,),
            oil=frozenset({OilLook.DARK}),
            km_since_wiped=Decimal(8000),
            first_service=False,
        )
        return keep_finding(
            self.heron,
            "engine",
            seen,
            "sample in jar 3",
            finding_id=finding_id or uuid4(),
            found_on=date(2030, 1, 1),
            reading=OdometerReading.objects.filter(bike=self.heron).latest("km"),
            actor=Person.objects.get(username="mira"),
        )

    def test_the_verdict_of_the_day_is_kept(self) -> None:
        row = self.keep()
        self.assertEqual((row.level, row.wear), ("watch", {"steel": "0.750"}))
        shown = plug(row)
        self.assertEqual((shown.parts[0].form, shown.parts[0].largest_mm), ("flakes", 1.5))
        # a flake among so many quiet findings
        self.assertEqual(len(shown.rules), 1)
        self.assertIn("D5: Steel flakes. By all that was seen here before", shown.rules[0])

    def test_worked_again_the_chance_of_the_day_counts(self) -> None:
        read = self.keep().reading
        OdometerReading.objects.create(
            bike=self.heron,
            km=read.km + 400,
            as_written="400 km more",
            read_on=read.read_on,
            read_by=read.read_by,
            corrects=read,
            reason="misread",
        )
        page = self.api.get(f"/api/bikes/{self.heron.pk}/").json()
        engine = next(one for one in page["reservoirs"] if one["glass"]["key"] == "engine")
        shown = engine["findings"][0]
        self.assertEqual(shown["level"], "watch")
        self.assertIn(" since it was wiped: watch. ", shown["again"])
        # what would change it leads to another level
        self.assertTrue(shown["changes"])
        self.assertFalse([one for one in shown["changes"] if one.endswith(": watch.")])

    def test_the_same_id_is_kept_once(self) -> None:
        finding_id, before = uuid4(), Finding.objects.count()
        self.keep(finding_id)
        self.keep(finding_id)
        self.assertEqual(Finding.objects.count(), before + 1)

    def test_the_latest_of_each_reservoir(self) -> None:
        newest = self.keep()
        found = last_findings([self.heron.pk])
        self.assertEqual(found[self.heron.pk, "engine"], newest)
        self.assertEqual({key for _, key in found}, {"engine", "primary", "gearbox"})
