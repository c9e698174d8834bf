"""What the ledger sums up needs no rows of its own."""

from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [("shelf", "0007_ledger")]
    operations = [migrations.DeleteModel("BottleRow"), migrations.DeleteModel("SealRow")]
