"""Values written down and checked by a name: by the person it was, where exactly one ever bore it."""

from django.db import migrations

KEPT = "ALTER TABLE garage_sheetcell {} TRIGGER approved_value_stays"


def bearers(apps):
    """Each name anybody bears or bore, with who did; one that several bore is nobody's."""
    people = apps.get_model("workshop", "Person").objects.all()
    ids = {person.username: person.pk for person in people}
    found = {}
    for person in people:
        found.setdefault(person.name, set()).add(person.pk)
    traces = apps.get_model("workshop", "Trace").objects.filter(about__startswith="person/")
    for about, was in traces.values_list("about", "was"):
        person = ids.get(about.removeprefix("person/"))
        if person is not None and was.get("name"):
            found.setdefault(was["name"], set()).add(person)
    return {name: next(iter(who)) for name, who in found.items() if len(who) == 1}


def name_them(apps, schema_editor):
    known = bearers(apps)
    schema_editor.execute(KEPT.format("DISABLE"))
    for model in ("SheetCell", "OwnCell"):
        rows = apps.get_model("garage", model).objects
        for name, person in known.items():
            rows.filter(entered_by=name).update(entered_who_id=person)
            rows.filter(checked_by=name).update(checked_who_id=person)
    schema_editor.execute("SET CONSTRAINTS ALL IMMEDIATE")
    schema_editor.execute(KEPT.format("ENABLE"))


class Migration(migrations.Migration):
    dependencies = [("garage", "0011_persons"), ("workshop", "0011_forget_owner")]
    operations = [migrations.RunPython(name_them, migrations.RunPython.noop)]
