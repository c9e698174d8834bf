from django.db import migrations

# runs with the rights of the tables' owner: the server may only add traces, and take an owner out of them
FORGET = """
CREATE FUNCTION workshop_forget_owner(bikes text[]) RETURNS void
LANGUAGE sql SECURITY DEFINER SET search_path = public, pg_temp AS $$
    UPDATE workshop_trace SET was = was - 'owner' - 'plate' - 'notes' WHERE about = ANY(bikes)
$$
"""


class Migration(migrations.Migration):
    dependencies = [("workshop", "0010_people_and_tablets")]
    operations = [
        migrations.RunSQL(FORGET, "DROP FUNCTION workshop_forget_owner(text[])"),
    ]
