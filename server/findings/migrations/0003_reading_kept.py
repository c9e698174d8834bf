"""What a finding copied of its odometer reading is gone."""

import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("findings", "0002_reading")]
    operations = [
        migrations.AlterModelOptions("finding", {"ordering": ["found_on", "reading__km"]}),
        migrations.AlterField(
            "finding",
            "reading",
            models.ForeignKey(
                on_delete=django.db.models.deletion.PROTECT,
                related_name="+",
                to="garage.odometerreading",
            ),
        ),
        migrations.RemoveField("finding", "km"),
    ]
