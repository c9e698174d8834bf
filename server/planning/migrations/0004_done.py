import django.utils.timezone
from django.db import migrations, models


def name_the_parts(apps, schema_editor):
    # until now a planned reservoir was called by its key
    for visit in apps.get_model("planning", "PlannedVisit").objects.all():
        visit.tasks = [{"label": task["reservoir"], **task} for task in visit.tasks]
        visit.save(update_fields=["tasks"])


class Migration(migrations.Migration):
    dependencies = [("planning", "0003_lasts")]

    operations = [
        migrations.AddField(
            model_name="plannedvisit",
            name="done",
            field=models.JSONField(default=dict),
        ),
        migrations.AddField(
            model_name="plannedvisit",
            name="planned_at",
            field=models.DateTimeField(default=django.utils.timezone.now),
        ),
        migrations.RunPython(name_the_parts, migrations.RunPython.noop),
    ]
