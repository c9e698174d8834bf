"""What was seen becomes rows; what was written down before is carried over."""

from decimal import Decimal

import django.db.models.deletion
from django.db import migrations, models

KINDS = ("engine", "primary", "gearbox", "final drive")


def carry_over(apps, schema_editor):
    finding, debris = (apps.get_model("findings", name) for name in ("Finding", "Debris"))
    rows = []
    for one in finding.objects.all().iterator():
        kind = one.reservoir if one.reservoir in KINDS else ""
        run_in = any(str(rule).startswith("D3") for rule in one.rules)
        finding.objects.filter(pk=one.pk).update(kind=kind, run_in=run_in)
        for part in one.parts:
            largest = part.get("largest_mm")
            rows.append(
                debris(
                    finding=one,
                    place="plug",
                    form=part["form"],
                    matter=part["matter"],
                    share=Decimal(str(part["share"])),
                    largest_mm=None if largest is None else Decimal(str(largest)),
                    count=part.get("count"),
                    magnetic=part.get("magnetic"),
                )
            )
    debris.objects.bulk_create(rows, batch_size=1000)


def back(apps, schema_editor):
    finding = apps.get_model("findings", "Finding")
    for one in finding.objects.prefetch_related("debris").iterator(chunk_size=500):
        parts = [
            {
                "form": part.form,
                "matter": part.matter,
                "share": str(part.share.normalize()),
                "largest_mm": None if part.largest_mm is None else str(part.largest_mm),
                "count": part.count,
                "magnetic": part.magnetic,
            }
            for part in one.debris.all()
        ]
        finding.objects.filter(pk=one.pk).update(parts=parts)


class Migration(migrations.Migration):
    dependencies = [("findings", "0003_reading_kept")]
    operations = [
        migrations.CreateModel(
            "Debris",
            [
                ("id", models.BigAutoField(primary_key=True, auto_created=True, serialize=False, verbose_name="ID")),
                ("place", models.CharField(max_length=8)),
                ("form", models.CharField(max_length=12)),
                ("matter", models.CharField(max_length=12)),
                ("share", models.DecimalField(decimal_places=5, max_digits=7)),
                ("pile_mm", models.DecimalField(decimal_places=2, max_digits=6, null=True)),
                ("largest_mm", models.DecimalField(decimal_places=2, max_digits=7, null=True)),
                ("count", models.PositiveIntegerField(null=True)),
                ("magnetic", models.BooleanField(null=True)),
                (
                    "finding",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT,
                        related_name="debris",
                        to="findings.finding",
                    ),
                ),
            ],
            {"ordering": ["pk"]},
        ),
        migrations.AddField("finding", "kind", models.CharField(blank=True, default="", max_length=20), preserve_default=False),
        migrations.AddField("finding", "run_in", models.BooleanField(default=False)),
        migrations.AddField("finding", "chance", models.FloatField(null=True)),
        migrations.AddField("finding", "said", models.FloatField(null=True)),
        migrations.AddField("finding", "form_times", models.FloatField(null=True)),
        migrations.AddField("finding", "amount_times", models.FloatField(null=True)),
        migrations.AddField(
            "finding",
            "regrade_of",
            models.ForeignKey(
                null=True,
                on_delete=django.db.models.deletion.PROTECT,
                related_name="regrades",
                to="findings.finding",
            ),
        ),
        migrations.AlterField("finding", "kind", models.CharField(blank=True, max_length=20)),
        migrations.AddIndex("finding", models.Index(fields=["kind", "found_on"], name="finding_by_kind")),
        migrations.RunPython(carry_over, back),
        migrations.AlterField("finding", "parts", models.JSONField(default=list)),
        migrations.RemoveField("finding", "parts"),
    ]
