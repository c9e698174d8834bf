"""Each row refers to the odometer reading it was made at, instead of copying it. Where nobody wrote that
reading down, the row itself is the record of it."""

from django.db import migrations, models

WRITTEN = """
INSERT INTO garage_odometerreading
    (id, bike_id, km, hours, as_written, replaced, read_on, read_by_id, offset_km, reason, written_at)
SELECT gen_random_uuid(), s.bike_id, s.km, s.hours, trim_scale(s.km) || ' km', false, s.done_on,
    coalesce((SELECT min(p.id) FROM workshop_person p WHERE p.name = min(s.done_by)),
        (SELECT min(p.id) FROM workshop_person p)),
    NULL, '', now()
FROM visits_service s
WHERE NOT EXISTS (
    SELECT FROM garage_odometerreading r
    WHERE r.bike_id = s.bike_id AND r.km = s.km AND r.read_on = s.done_on AND (s.hours IS NULL OR r.hours = s.hours)
)
GROUP BY s.bike_id, s.km, s.done_on, s.hours;
"""
REFER = """
UPDATE visits_service s SET reading_id = (
    SELECT r.id FROM garage_odometerreading r
    WHERE r.bike_id = s.bike_id AND r.km = s.km AND r.read_on = s.done_on AND (s.hours IS NULL OR r.hours = s.hours)
    ORDER BY r.replaced, r.id LIMIT 1
) WHERE reading_id IS NULL;
"""
OF_THE_VISIT = """
UPDATE visits_service s SET reading_id = v.odometer_id FROM visits_visit v WHERE v.id = s.visit_id;
"""


class Migration(migrations.Migration):
    dependencies = [("visits", "0007_closings"), ("garage", "0007_readings_corrected")]
    operations = [
        migrations.AddField(
            "service",
            "reading",
            models.ForeignKey(
                null=True, on_delete=models.PROTECT, related_name="+", to="garage.odometerreading"
            ),
        ),
        migrations.RunSQL([OF_THE_VISIT, WRITTEN, REFER], migrations.RunSQL.noop),
    ]
