from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('visits', '0018_fell'),
    ]

    operations = [
        migrations.AddField(
            model_name='service',
            name='batch',
            field=models.CharField(blank=True, max_length=200),
        ),
        migrations.AddField(
            model_name='service',
            name='left',
            field=models.CharField(blank=True, max_length=20),
        ),
    ]
