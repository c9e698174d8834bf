"""People can be named for a planned visit; for those of before nobody is."""

from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("planning", "0010_clocks")]
    operations = [
        migrations.AddField(
            model_name="plannedvisit", name="hands", field=models.JSONField(default=list)
        )
    ]
