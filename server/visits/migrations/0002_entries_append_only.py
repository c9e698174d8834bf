"""Entries are append-only: PostgreSQL itself refuses to change or delete one."""

from django.db import migrations

FORWARD = """
CREATE FUNCTION entry_is_append_only() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    RAISE EXCEPTION 'entries are append-only: correct one with a new entry';
END $$;
CREATE TRIGGER entry_append_only BEFORE UPDATE OR DELETE ON visits_entryrow
    FOR EACH ROW EXECUTE FUNCTION entry_is_append_only();
"""
BACKWARD = """
DROP TRIGGER entry_append_only ON visits_entryrow;
DROP FUNCTION entry_is_append_only();
"""


class Migration(migrations.Migration):
    dependencies = [("visits", "0001_initial")]
    operations = [migrations.RunSQL(FORWARD, BACKWARD)]
