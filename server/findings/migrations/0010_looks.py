"""Findings of one day stand in the order in which they were written down: those of before in that of
their readings. And what a look shows is a finding, too."""

from django.db import migrations, models
from django.db.models import OuterRef, Subquery
from django.utils import timezone


def written_with_their_readings(apps, schema_editor):
    readings = apps.get_model("garage", "OdometerReading").objects.filter(pk=OuterRef("reading"))
    apps.get_model("findings", "Finding").objects.update(
        kept_at=Subquery(readings.values("written_at")[:1])
    )


class Migration(migrations.Migration):
    dependencies = [("findings", "0009_no_magnet"), ("garage", "0012_who_they_were")]
    operations = [
        migrations.AddField(
            model_name="finding",
            name="look",
            field=models.CharField(blank=True, max_length=12, default=""),
            preserve_default=False,
        ),
        migrations.AddField(
            model_name="finding",
            name="kept_at",
            field=models.DateTimeField(auto_now_add=True, default=timezone.now),
            preserve_default=False,
        ),
        migrations.RunPython(written_with_their_readings, migrations.RunPython.noop),
        migrations.RemoveIndex(model_name="finding", name="finding_newest"),
        migrations.AddIndex(
            model_name="finding",
            index=models.Index(fields=["-found_on", "-kept_at", "-id"], name="finding_newest"),
        ),
        migrations.AlterModelOptions(
            name="finding", options={"ordering": ["found_on", "kept_at"]}
        ),
    ]
