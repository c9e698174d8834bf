"""One visit for several reservoirs. What was written down so far keeps the description of then."""

from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("visits", "0010_by_word"), ("garage", "0010_bike_card")]
    operations = [
        migrations.AddField("visit", "cold", models.JSONField(default=list)),
        migrations.AddField("visit", "order", models.JSONField(default=list)),
        migrations.AddField("visit", "learned", models.JSONField(default=dict)),
        migrations.AddField("visit", "stands", models.JSONField(default=dict)),
        migrations.AlterModelOptions("task", options={"ordering": ["pk"]}),
        migrations.AddField("task", "taken_out", models.BooleanField(default=False)),
        migrations.AddField(
            "entryrow", "description", models.PositiveSmallIntegerField(default=1)
        ),
        migrations.AlterField(
            "entryrow", "description", models.PositiveSmallIntegerField(default=2)
        ),
        migrations.AddField(
            "service", "proof", models.CharField(blank=True, default="", max_length=200),
            preserve_default=False,
        ),
        migrations.AddField(
            "service", "found", models.CharField(blank=True, default="", max_length=200),
            preserve_default=False,
        ),
        migrations.CreateModel(
            "TopUp",
            [
                ("id", models.UUIDField(primary_key=True, serialize=False)),
                ("reservoir", models.CharField(max_length=40)),
                ("done_on", models.DateField()),
                ("ml", models.DecimalField(decimal_places=3, max_digits=12)),
                ("fluid", models.CharField(blank=True, max_length=80)),
                ("done_by", models.CharField(max_length=80)),
                (
                    "bike",
                    models.ForeignKey(
                        on_delete=models.deletion.PROTECT,
                        related_name="top_ups",
                        to="garage.bike",
                    ),
                ),
                (
                    "reading",
                    models.ForeignKey(
                        on_delete=models.deletion.PROTECT,
                        related_name="+",
                        to="garage.odometerreading",
                    ),
                ),
            ],
            options={
                "ordering": ["done_on", "reading__km"],
                "indexes": [models.Index(fields=["bike", "reservoir"], name="top_up_of")],
            },
        ),
    ]
