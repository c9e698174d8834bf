"""The rows that cells took the place of."""

from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [("garage", "0002_cells"), ("visits", "0004_cells")]
    operations = [
        migrations.DeleteModel("FastenerRow"),
        migrations.DeleteModel("SpecValue"),
        migrations.DeleteModel("ReservoirRow"),
    ]
