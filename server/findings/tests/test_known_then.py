"""What was known when a plug was judged stays with its finding: later corrections judge by it."""

from dataclasses import fields, replace
from datetime import date
from decimal import Decimal
from uuid import uuid4

from demo.testing import WorkshopTestCase
from garage.models import OdometerReading
from oilward_core.debris import (
    Form,
    Level,
    Matter,
    Observation,
    OilLook,
    Part,
    Rule,
    verdict,
)
from oilward_core.spec import ReservoirKind
from workshop.models import Person

from findings import seen as seen_as
from findings.models import Finding
from findings.services import keep_finding

STRINGY = Part(form=Form.SLIVERS, matter=Matter.FRICTION, share=Decimal("0.1"))
SEEN = Observation(
    reservoir=ReservoirKind.ENGINE,
    parts=(STRINGY,),
    oil=frozenset({OilLook.DARK}),
    km_since_wiped=Decimal(8000),
    first_service=False,
    wet_clutch=True,
)


class KnownThenTests(WorkshopTestCase):
    def kept(self, seen: Observation) -> Finding:
        row = keep_finding(
            self.heron,
            "spare engine",
            seen,
            "",
            finding_id=uuid4(),
            found_on=date(2031, 1, 1),
            reading=OdometerReading.objects.filter(bike=self.heron).latest("km"),
            actor=Person.objects.get(username="mira"),
        )
        return Finding.objects.get(pk=row.pk)

    def test_a_wet_clutch_stays_one_whatever_the_distance_is_corrected_to(self) -> None:
        row = self.kept(SEEN)
        self.assertEqual(row.level, "watch")
        for km in (Decimal(8000), Decimal(7900), Decimal(16_000)):
            with self.subTest(km=km):
                again = seen_as.seen(row, ReservoirKind.ENGINE, km, first=False)
                self.assertEqual(again, replace(SEEN, km_since_wiped=km))
                judged = verdict(again)
                self.assertEqual(judged.level, Level.WATCH)
                self.assertIn(Rule.CLUTCH, [spoke.rule for spoke in judged.spoke])

    def test_everything_an_observation_knows_comes_back(self) -> None:
        # the distance and whether it is run in are worked out anew
        known = {one.name for one in fields(Observation) if one.type in (bool, "bool")}
        for name in sorted(known - {"first_service"}):
            for value in (True, False):
                with self.subTest(name=name, value=value):
                    seen = replace(SEEN, **{name: value})
                    row = self.kept(seen)
                    again = seen_as.seen(row, ReservoirKind.ENGINE, Decimal(8000), first=False)
                    self.assertEqual(again, seen)

    def test_what_an_earlier_release_did_not_keep_is_unknown(self) -> None:
        row = self.kept(SEEN)
        row.wet_clutch = row.fine_last_time = row.excused = None
        again = seen_as.seen(row, ReservoirKind.ENGINE, Decimal(8000), first=False)
        self.assertFalse(again.wet_clutch or again.fine_last_time or again.excused)
