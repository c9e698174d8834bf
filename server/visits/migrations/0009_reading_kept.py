"""What a service copied of its odometer reading is gone."""

import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("visits", "0008_reading")]
    operations = [
        migrations.AlterModelOptions("service", {"ordering": ["done_on", "reading__km"]}),
        migrations.AlterField(
            "service",
            "reading",
            models.ForeignKey(
                on_delete=django.db.models.deletion.PROTECT,
                related_name="+",
                to="garage.odometerreading",
            ),
        ),
        migrations.RemoveField("service", "km"),
        migrations.RemoveField("service", "hours"),
    ]
