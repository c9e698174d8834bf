
from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('workshop', '0011_forget_owner'),
    ]

    operations = [
        migrations.AddField(
            model_name='workshop',
            name='release',
            field=models.CharField(blank=True, max_length=64),
        ),
    ]
