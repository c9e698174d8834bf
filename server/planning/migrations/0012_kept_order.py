from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("planning", "0011_hands")]

    operations = [
        migrations.CreateModel(
            name="KeptOrder",
            fields=[
                ("of", models.CharField(max_length=64, primary_key=True, serialize=False)),
                ("order", models.JSONField()),
                ("refused", models.TextField(blank=True)),
                ("at", models.DateTimeField(db_index=True)),
            ],
        ),
    ]
