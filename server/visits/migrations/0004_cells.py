"""A task keeps the values it was done with, instead of pointing at a row of a sheet."""

from django.db import migrations, models


def keep_values(apps, schema_editor):
    """Take each task's values from its sheet's cells."""
    tasks, cells = apps.get_model("visits", "Task"), apps.get_model("garage", "SheetCell")
    for task in tasks.objects.select_related("reservoir", "visit"):
        task.key = task.reservoir.key
        own = cells.objects.filter(sheet=task.visit.sheet_id, reservoir=task.key)
        task.spec = {
            f"{cell.reservoir}/{cell.part}/{cell.field}": {
                "written": cell.written,
                "document": cell.document,
                "page": cell.page,
                "entered_by": cell.entered_by,
                "entered_on": cell.entered_on.isoformat(),
                "checked_by": cell.checked_by,
                "checked_on": cell.checked_on.isoformat() if cell.checked_on else None,
            }
            for cell in own.order_by("id")
        }
        task.save(update_fields=["key", "spec"])


class Migration(migrations.Migration):
    dependencies = [("visits", "0003_service_take_valid"), ("garage", "0002_cells")]
    operations = [
        migrations.AddField("task", "key", models.CharField(max_length=40, default="")),
        migrations.AddField("task", "spec", models.JSONField(default=dict)),
        migrations.RunPython(keep_values, migrations.RunPython.noop),
        migrations.RemoveConstraint("task", "one_task_a_reservoir"),
        migrations.RemoveField("task", "reservoir"),
        migrations.RenameField("task", "key", "reservoir"),
        migrations.AlterField("task", "reservoir", models.CharField(max_length=40)),
        migrations.AddConstraint(
            "task",
            models.UniqueConstraint(fields=["visit", "reservoir"], name="one_task_a_reservoir"),
        ),
    ]
