"""Each row refers to the odometer reading it was made at, instead of copying it. Where nobody wrote that
reading down, the row itself is the record of it."""

from django.db import migrations, models

WRITTEN = """
INSERT INTO garage_odometerreading
    (id, bike_id, km, hours, as_written, replaced, read_on, read_by_id, offset_km, reason, written_at)
SELECT gen_random_uuid(), s.bike_id, s.km, NULL, trim_scale(s.km) || ' km', false, s.found_on,
    min(s.found_by_id),
    NULL, '', now()
FROM findings_finding s
WHERE NOT EXISTS (
    SELECT FROM garage_odometerreading r
    WHERE r.bike_id = s.bike_id AND r.km = s.km AND r.read_on = s.found_on
)
GROUP BY s.bike_id, s.km, s.found_on;
"""
REFER = """
UPDATE findings_finding s SET reading_id = (
    SELECT r.id FROM garage_odometerreading r
    WHERE r.bike_id = s.bike_id AND r.km = s.km AND r.read_on = s.found_on
    ORDER BY r.replaced, r.id LIMIT 1
) WHERE reading_id IS NULL;
"""


class Migration(migrations.Migration):
    dependencies = [("findings", "0001_initial"), ("visits", "0008_reading")]
    operations = [
        migrations.AddField(
            "finding",
            "reading",
            models.ForeignKey(
                null=True, on_delete=models.PROTECT, related_name="+", to="garage.odometerreading"
            ),
        ),
        migrations.RunSQL([WRITTEN, REFER], migrations.RunSQL.noop),
    ]
