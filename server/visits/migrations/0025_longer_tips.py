from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("visits", "0024_what_was_done")]
    operations = [
        migrations.AlterField(
            model_name="tip", name="text", field=models.CharField(blank=True, max_length=400)
        )
    ]
