"""On how many findings a chance stands is kept with it; of those of before nobody knows."""

from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("findings", "0010_looks")]
    operations = [
        migrations.AddField(
            model_name="finding",
            name="chance_before",
            field=models.PositiveIntegerField(null=True),
        ),
    ]
