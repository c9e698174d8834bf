from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("workshop", "0012_kept_by_release")]

    operations = [
        migrations.CreateModel(
            name="Tries",
            fields=[
                ("key", models.CharField(max_length=64, primary_key=True, serialize=False)),
                ("wrong", models.PositiveIntegerField(default=0)),
                ("last", models.DateTimeField()),
                ("until", models.DateTimeField(null=True)),
            ],
        ),
        migrations.RemoveField(model_name="person", name="pin_misses"),
        # tries were counted in it
        migrations.RunSQL("DROP TABLE IF EXISTS cache", migrations.RunSQL.noop),
    ]
