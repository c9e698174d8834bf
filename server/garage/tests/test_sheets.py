"""Approved sheets as bikes see them: cells, versions, a bike's own values."""

from datetime import date
from decimal import Decimal

from demo.as_in_use import tampered
from demo.testing import WorkshopTestCase
from django.db import IntegrityError, transaction
from oilward_core.spec import Cell, FillRule, Path, Variant
from workshop.models import Person

from garage.mapping import path_of, when_new
from garage.models import Bike, SheetCell, SpecSheet
from garage.selectors import specs_of
from garage.sheets.whole import note_looked_up

CAPACITY = Path("engine", "", "capacity.with filter")


class SheetTests(WorkshopTestCase):
    def engine(self, name: str = "Grey Heron"):
        bike = Bike.objects.get(name=name)
        spec = specs_of([bike])[bike.pk].reservoir("engine")
        assert spec is not None
        return spec

    def test_a_whole_reservoir(self) -> None:
        spec = self.engine()
        self.assertEqual(spec.fill_rule, FillRule.LEVEL)
        self.assertEqual(spec.capacities[Variant.WITH_FILTER], Decimal("3454.188253"))
        assert spec.level is not None
        self.assertEqual((spec.level.settle_minutes, spec.level.target), (3, Decimal("0.75")))
        self.assertEqual(spec.limits.repeat_km, Decimal("7242.048"))
        plug = spec.fastener("drain plug")
        assert plug is not None and plug.torque is not None
        self.assertTrue(plug.magnet)
        self.assertEqual(plug.torque.text, "18-25 ft-lb")

    def test_missing_values_stay_missing(self) -> None:
        gone = ["level.between", "capacity.dry", "repeat.km"]
        with tampered():
            SheetCell.objects.filter(field__in=gone).delete()
        spec = self.engine()
        assert spec.level is not None
        self.assertTrue(spec.level.assumed)
        self.assertNotIn(Variant.DRY, spec.capacities)
        self.assertIsNone(spec.limits.repeat_km)

    def test_a_bikes_own_value_comes_before_its_models(self) -> None:
        bell = Bike.objects.get(name="Ferry Bell")
        spec = specs_of([bell])[bell.pk]
        gearbox = spec.reservoir("gearbox")
        assert gearbox is not None
        self.assertEqual(gearbox.limits.repeat_km, 15_000)
        self.assertEqual([str(path) for path in spec.own], ["gearbox//repeat.km"])

    def test_only_a_bike_known_from_new_counts_from_new(self) -> None:
        postie, lamplighter = (Bike.objects.get(name=n) for n in ("Postie", "Lamplighter"))
        new = when_new(postie)
        assert new is not None
        self.assertEqual((new.on, new.km), (postie.new_on, 0))
        self.assertIsNone(when_new(lamplighter))

    def test_numbers_are_kept_canonical_beside_the_words(self) -> None:
        row = SheetCell.objects.get(
            sheet__model__name="Colossine 1640", reservoir="engine", field="capacity.dry"
        )
        self.assertEqual((row.written, row.low), ("4.1 qt", Decimal("3880.047079")))

    def test_low_and_high_stay_in_order(self) -> None:
        with tampered(), self.assertRaises(IntegrityError), transaction.atomic():
            SheetCell.objects.filter(low__isnull=False).update(low=9_999_999)

    def test_nobody_approves_namelessly_and_a_model_has_one_draft(self) -> None:
        with tampered(), self.assertRaises(IntegrityError), transaction.atomic():
            SpecSheet.objects.update(approved_by=None)
        first, oda = SpecSheet.objects.earliest("id"), Person.objects.get(username="oda")
        SpecSheet.objects.create(model=first.model, version=2, entered_by=oda)
        with self.assertRaises(IntegrityError), transaction.atomic():
            SpecSheet.objects.create(model=first.model, version=3, entered_by=oda)


class LookedUpTests(WorkshopTestCase):
    """What the bench looked up goes into the model's draft, where nobody else has changed it."""

    def draft(self, written: str) -> dict[str, SheetCell]:
        """The draft after the capacity was looked up and found to be this."""
        mira = Person.objects.get(username="mira")
        heron = Bike.objects.get(name="Grey Heron")
        found = Cell(
            written=written,
            document="Service manual",
            page="7",
            entered_by="Mira",
            entered_on=date(2026, 5, 4),
        )
        note_looked_up(heron.model_id, {CAPACITY: found}, actor=mira)
        sheet = SpecSheet.objects.get(model_id=heron.model_id, state=SpecSheet.State.DRAFT)
        return {str(path_of(row)): row for row in sheet.cells.all()}

    def test_what_the_approved_sheet_has_wrong_is_put_right_in_the_draft(self) -> None:
        row = self.draft("3.9 l")[str(CAPACITY)]
        self.assertEqual((row.written, row.page, row.checked_by), ("3.9 l", "7", ""))
        # what somebody has written there meanwhile stays
        self.assertEqual(self.draft("4.1 l")[str(CAPACITY)].written, "3.9 l")

    def test_what_it_confirms_stays_as_it_is(self) -> None:
        approved = SheetCell.objects.get(
            sheet__model__bikes__name="Grey Heron",
            sheet__state=SpecSheet.State.APPROVED,
            reservoir=CAPACITY.reservoir,
            part=CAPACITY.part,
            field=CAPACITY.field,
        )
        row = self.draft(approved.written)[str(CAPACITY)]
        self.assertEqual((row.page, row.checked_by), (approved.page, approved.checked_by))
