"""A reading can be corrected by a later one, and knows what earlier odometers had run."""

import django.db.models.deletion
import django.utils.timezone
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("garage", "0006_model_gone_by")]
    operations = [
        migrations.AddField(
            "odometerreading",
            "offset_km",
            models.DecimalField(decimal_places=3, default=0, max_digits=12, null=True),
        ),
        migrations.AddField(
            "odometerreading",
            "corrects",
            models.ForeignKey(
                null=True,
                on_delete=django.db.models.deletion.PROTECT,
                related_name="corrections",
                to="garage.odometerreading",
            ),
        ),
        migrations.AddField(
            "odometerreading", "reason", models.CharField(blank=True, max_length=200)
        ),
        migrations.AddField(
            "odometerreading",
            "written_at",
            models.DateTimeField(default=django.utils.timezone.now),
        ),
    ]
