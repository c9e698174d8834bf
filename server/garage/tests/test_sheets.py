"""Rows to the core's spec sheet, versions, and the odometer."""

from decimal import Decimal
from uuid import uuid4

from demo.testing import WorkshopTestCase
from django.db import IntegrityError, transaction
from django.utils import timezone
from oilward_core.errors import CoreError
from oilward_core.spec import FillRule, Variant
from workshop.models import Person

from garage.mapping import reservoir_spec, when_new
from garage.models import Bike, OdometerReading, SpecSheet, SpecValue
from garage.selectors import approved_sheets, last_odometer, reservoirs
from garage.services import record_odometer


class MappingTests(WorkshopTestCase):
    def engine(self, model: str = "Colossine 1640"):
        return reservoirs().get(sheet__model__name=model, key="engine")

    def test_a_whole_reservoir(self) -> None:
        spec = reservoir_spec(self.engine())
        self.assertEqual(spec.fill_rule, FillRule.LEVEL)
        self.assertEqual(spec.capacities[Variant.WITH_FILTER], Decimal("3454.188253"))
        assert spec.level is not None
        self.assertEqual((spec.level.settle_minutes, spec.level.target), (3, Decimal("0.75")))
        self.assertEqual(spec.limits.repeat_km, Decimal("7242.048"))
        plug = spec.fastener("drain plug")
        assert plug is not None
        self.assertTrue(plug.magnet)
        self.assertEqual(plug.torque.text, "18-25 ft-lb")

    def test_missing_values_stay_missing(self) -> None:
        SpecValue.objects.filter(name__in=["level.between", "capacity.dry", "repeat.km"]).delete()
        spec = reservoir_spec(self.engine())
        self.assertIsNone(spec.level)
        self.assertNotIn(Variant.DRY, spec.capacities)
        self.assertIsNone(spec.limits.repeat_km)

    def test_only_a_bike_known_from_new_counts_from_new(self) -> None:
        postie, lamplighter = (Bike.objects.get(name=n) for n in ("Postie", "Lamplighter"))
        new = when_new(postie)
        assert new is not None
        self.assertEqual((new.on, new.km), (postie.new_on, 0))
        self.assertIsNone(when_new(lamplighter))


class VersionTests(WorkshopTestCase):
    def test_the_newest_approved_version_counts_and_a_draft_does_not(self) -> None:
        oda, first = Person.objects.get(username="oda"), SpecSheet.objects.earliest("id")
        draft = SpecSheet.objects.create(model=first.model, version=2, entered_by=oda)
        self.assertEqual(approved_sheets([first.model_id])[first.model_id], first)
        draft.state, draft.approved_by, draft.approved_at = "approved", oda, timezone.now()
        draft.save()
        self.assertEqual(approved_sheets([first.model_id])[first.model_id], draft)

    def test_nobody_approves_namelessly(self) -> None:
        with self.assertRaises(IntegrityError), transaction.atomic():
            SpecSheet.objects.update(approved_by=None)

    def test_low_and_high_stay_in_order(self) -> None:
        with self.assertRaises(IntegrityError), transaction.atomic():
            SpecValue.objects.update(low=9_999_999)


class OdometerTests(WorkshopTestCase):
    def record(self, text: str) -> OdometerReading:
        return record_odometer(
            self.heron,
            text,
            reading_id=uuid4(),
            read_on=timezone.now().date(),
            actor=Person.objects.get(username="mira"),
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
            ("", "quantity.empty"),
            ("-5", "quantity.negative"),
            ("3 l", "quantity.wrong_kind"),
        ):
            with self.subTest(text), self.assertRaises(CoreError) as caught:
                self.record(text)
            self.assertEqual(
                (caught.exception.code, caught.exception.fields["field"]), (code, "odometer")
            )
