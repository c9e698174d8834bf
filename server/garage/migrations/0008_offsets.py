"""Readings of earlier releases learn what earlier odometers had run: nothing before the first was
replaced, the bike's own offset after the last one; between two that were replaced nobody knows."""

from django.db import migrations

FILL = """
UPDATE garage_odometerreading r SET offset_km = CASE
    WHEN last.km IS NULL OR r.km > last.km OR (r.km = last.km AND NOT r.replaced) THEN b.offset_km
    WHEN r.km <= first.km THEN 0
    END
FROM garage_bike b
LEFT JOIN LATERAL (
    SELECT max(km) AS km FROM garage_odometerreading WHERE bike_id = b.id AND replaced
) last ON true
LEFT JOIN LATERAL (
    SELECT min(km) AS km FROM garage_odometerreading WHERE bike_id = b.id AND replaced
) first ON true
WHERE b.id = r.bike_id;
"""


class Migration(migrations.Migration):
    dependencies = [
        ("garage", "0007_readings_corrected"),
        ("visits", "0008_reading"),
        ("findings", "0002_reading"),
    ]
    operations = [migrations.RunSQL(FILL, migrations.RunSQL.noop)]
