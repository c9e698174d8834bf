"""The stock becomes a ledger: each bottle came in, may have been opened and counted; each seal was
counted. Who wrote it last is who it came by."""

import django.db.models.deletion
import django.utils.timezone
from django.conf import settings
from django.db import migrations, models
from django.utils import timezone
from uuid import uuid4


def _people(apps):
    people = list(apps.get_model("workshop", "Person").objects.order_by("id"))
    leads = [one for one in people if one.role == "lead"] or people
    return {one.name: one for one in people}, leads[0] if leads else None


def _bottle(row):
    """What happened to a bottle, as far as it shows: (kind, change, day)."""
    today = timezone.now().date()
    yield "came in", row.size_ml, row.opened_on or today
    if row.opened_on:
        yield "opened", 0, row.opened_on
    if row.left_ml != row.size_ml:
        yield "counted", row.left_ml - row.size_ml, today


def write_lines(apps, schema_editor):
    line = apps.get_model("shelf", "StockLine").objects
    named, lead = _people(apps)
    for row in apps.get_model("shelf", "BottleRow").objects.order_by("id"):
        act, by = uuid4(), named.get(row.changed_by, lead)
        for kind, change, on in _bottle(row):
            line.create(act=act, kind=kind, change=change, on=on, by=by, bottle=row.pk,
                        fluid_id=row.fluid_id, size_ml=row.size_ml)  # fmt: skip
    for row in apps.get_model("shelf", "SealRow").objects.order_by("id"):
        line.create(act=uuid4(), kind="counted", change=row.count, on=timezone.now().date(), by=lead,
                    part=row.name)  # fmt: skip


class Migration(migrations.Migration):
    dependencies = [
        ("shelf", "0006_longer_part_names"),
        ("workshop", "0004_version"),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]
    operations = [
        migrations.CreateModel(
            "StockLine",
            [
                ("id", models.BigAutoField(primary_key=True, serialize=False, auto_created=True, verbose_name="ID")),
                ("act", models.UUIDField(db_index=True)),
                ("sent", models.CharField(blank=True, max_length=64)),
                (
                    "kind",
                    models.CharField(
                        choices=[
                            ("came in", "Came"), ("opened", "Opened"), ("used", "Used"),
                            ("thrown away", "Thrown"), ("counted", "Counted"),
                        ],
                        max_length=12,
                    ),
                ),
                ("bottle", models.UUIDField(db_index=True, null=True)),
                ("size_ml", models.DecimalField(decimal_places=3, max_digits=12, null=True)),
                ("part", models.CharField(blank=True, db_index=True, max_length=200)),
                ("change", models.DecimalField(decimal_places=3, max_digits=12)),
                ("on", models.DateField()),
                ("written_at", models.DateTimeField(default=django.utils.timezone.now)),
                (
                    "by",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="+",
                        to=settings.AUTH_USER_MODEL,
                    ),
                ),
                (
                    "fluid",
                    models.ForeignKey(
                        null=True, on_delete=django.db.models.deletion.PROTECT, related_name="+",
                        to="shelf.fluid",
                    ),
                ),
            ],
            options={
                "ordering": ["id"],
                "constraints": [
                    models.CheckConstraint(
                        condition=models.Q(
                            ("bottle__isnull", False), ("fluid__isnull", False), ("part", ""),
                            ("size_ml__gt", 0),
                        )
                        | (
                            models.Q(("bottle", None), ("fluid", None), ("size_ml", None))
                            & ~models.Q(("part", ""))
                        ),
                        name="a_bottle_or_a_part",
                    )
                ],
            },
        ),
        migrations.RunPython(write_lines, migrations.RunPython.noop),
    ]
