"""What was known of a reservoir when its plug was read is kept with the finding; those of before take it
from the plan of their visit."""

from django.db import migrations

WET = ("MA", "MA1", "MA2")
SHARED = ("engine", "engine, dry sump")


def take_from_plans(apps, schema_editor):
    findings = apps.get_model("findings", "Finding").objects
    tasks = apps.get_model("visits", "Task").objects.select_related("visit")
    for task in tasks.exclude(visit__state="open"):
        cell = task.spec.get(f"{task.reservoir}//fluid.friction") or {}
        rows = findings.filter(reading_id=task.visit.odometer_id, reservoir=task.reservoir)
        rows.update(fine_last_time=task.fine_last_time, excused=task.dipstick_excused)
        wet = str(cell.get("written", "")).strip().upper() in WET
        rows.filter(kind__in=SHARED).update(wet_clutch=wet)
        rows.exclude(kind__in=SHARED).update(wet_clutch=False)


class Migration(migrations.Migration):
    dependencies = [("visits", "0016_in_codes"), ("findings", "0008_known_then")]
    operations = [migrations.RunPython(take_from_plans, migrations.RunPython.noop)]
