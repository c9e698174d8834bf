from datetime import date

from django.db import migrations


def worked_out_anew(apps, schema_editor):
    """What is kept of each bike tells more now: who read its plugs, and half intervals."""
    apps.get_model("planning", "WardRow").objects.update(rolled_on=date(2000, 1, 1))


class Migration(migrations.Migration):
    dependencies = [("planning", "0006_worked_out_anew")]
    operations = [migrations.RunPython(worked_out_anew, migrations.RunPython.noop)]
