

from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('visits', '0015_drained'),
    ]

    operations = [
        migrations.AlterField(
            model_name='entryrow',
            name='description',
            field=models.PositiveSmallIntegerField(default=3),
        ),
    ]
