

from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('findings', '0007_newest'),
    ]

    operations = [
        migrations.AddField(
            model_name='finding',
            name='excused',
            field=models.BooleanField(null=True),
        ),
        migrations.AddField(
            model_name='finding',
            name='fine_last_time',
            field=models.BooleanField(null=True),
        ),
        migrations.AddField(
            model_name='finding',
            name='wet_clutch',
            field=models.BooleanField(null=True),
        ),
    ]
