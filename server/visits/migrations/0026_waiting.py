"""A bike's own values that no second person had compared when the task was added: none of before."""

from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("visits", "0025_longer_tips")]
    operations = [
        migrations.AddField(
            model_name="task", name="waiting", field=models.JSONField(default=dict)
        )
    ]
