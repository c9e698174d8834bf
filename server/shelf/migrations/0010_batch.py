from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('shelf', '0009_wrench_version'),
    ]

    operations = [
        migrations.AddField(
            model_name='stockline',
            name='batch',
            field=models.CharField(blank=True, max_length=40),
        ),
    ]
