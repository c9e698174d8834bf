"""A service says what was done. What was only looked at before is carried over as a look: it made no
fluid younger, so that what is due is worked out anew."""

from django.db import migrations, models

LOOKED_AT = ("shock", "coolant", "front brake", "rear brake", "hydraulic clutch")
UNSEEN = "could not be seen"  # as the releases before wrote it down


def only_looked_at(apps, schema_editor):
    services = apps.get_model("visits", "Service").objects
    tasks = apps.get_model("visits", "Task").objects.all()
    for task in tasks.iterator():
        kind = (task.spec.get(f"{task.reservoir}//kind") or {}).get("written", "")
        if str(kind).strip().lower() not in LOOKED_AT:
            continue
        rows = services.filter(visit_id=task.visit_id, reservoir=task.reservoir)
        rows.update(did="looked")
        rows.filter(found=UNSEEN).update(did="not seen")


def worked_out_anew(apps, schema_editor):
    apps.get_model("planning", "WardRow").objects.update(changes_on="2000-01-01")


class Migration(migrations.Migration):
    dependencies = [("visits", "0023_longer_places"), ("planning", "0010_clocks")]
    operations = [
        migrations.AddField(
            model_name="service",
            name="did",
            field=models.CharField(
                choices=[
                    ("changed", "changed"),
                    ("topped up", "topped up"),
                    ("looked", "looked"),
                    ("not seen", "not seen"),
                ],
                default="changed",
                max_length=12,
            ),
        ),
        migrations.AddField(
            model_name="task", name="low_last", field=models.BooleanField(default=False)
        ),
        migrations.AddField(model_name="task", name="so_far", field=models.JSONField(null=True)),
        migrations.RunPython(only_looked_at, migrations.RunPython.noop),
        migrations.RunPython(worked_out_anew, migrations.RunPython.noop),
    ]
