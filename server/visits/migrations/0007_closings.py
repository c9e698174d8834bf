"""A closed visit keeps what it answered. Visits closed before get theirs from the fold as it is when
this runs; what one of its known faults touched is marked as not to be learned from."""

import django.db.models.deletion
from django.db import migrations, models


def _bench(apps):
    from oilward_core.bench import Bench
    from shelf.mapping import wrench
    from workshop.mapping import seconds_per_minute

    wrenches = apps.get_model("shelf", "WrenchRow").objects.all()
    return Bench(tuple(wrench(row) for row in wrenches), seconds_per_minute())


def _history(apps, task):
    services = apps.get_model("visits", "Service")
    return services.objects.filter(bike_id=task.visit.bike_id, reservoir=task.reservoir)


_CHANGED = "A correction changed what was poured: {} ml as signed, {} ml flowed."


def _closing(apps, task, bench):
    """What a visit closed before comes to, and why it is not to be learned from, if so."""
    from oilward_core.bench import (
        Closing, TaskClosing, VisitPlan, Written, carried_over, fold, in_order, keep,
        why_not_learned,
    )  # fmt: skip
    from visits import rows

    visit, fluid = task.visit, task.fluid
    plan = rows.task_plan(task, _history(apps, task))
    written = [
        Written(
            id=str(row.id), step=row.step, kind=row.kind, data=row.data, at=row.at, by=row.by.name,
            who=str(row.by_id), description=1,
            supersedes=str(row.supersedes_id) if row.supersedes_id else None,
        )  # fmt: skip
        for row in visit.entries.select_related("by")
    ]
    whole = VisitPlan(tasks=(plan,))
    entries = carried_over(whole, written)
    sheet = fold(whole, entries, bench)
    why = ""
    if visit.state == "signed":
        why = why_not_learned(task.reservoir, in_order(entries))
        taken = apps.get_model("visits", "Service").objects.filter(visit=visit).first()
        flowed = round(sheet.tasks[0].added)
        if not why and taken and taken.took_ml is not None and abs(taken.took_ml - flowed) >= 1:
            why = _CHANGED.format(round(taken.took_ml), flowed)
    name = fluid.name if fluid else plan.reservoir.fluid
    one = TaskClosing(
        plan=plan, fluid=name, bottle_ml=fluid.bottle_ml if fluid else None, not_learned=why
    )
    return keep(Closing((one,), sheet, visit.odometer.km)), why


def keep_closings(apps, schema_editor):
    closings, services = apps.get_model("visits", "ClosingRow"), apps.get_model("visits", "Service")
    tasks = apps.get_model("visits", "Task").objects.exclude(visit__state="open")
    bench = _bench(apps)
    for task in tasks.select_related("visit__bike", "visit__odometer", "fluid"):
        document, why = _closing(apps, task, bench)
        closings.objects.create(visit=task.visit, document=document)
        if why:
            services.objects.filter(visit=task.visit).update(not_learned=why[:300])


def say_why(apps, schema_editor):
    """Takes that were not learned from say so in words."""
    services = apps.get_model("visits", "Service").objects
    services.filter(take_valid=False).update(not_learned="Gauge and book disagreed.")


class Migration(migrations.Migration):
    dependencies = [
        ("visits", "0006_entry_sent"),
        ("shelf", "0006_longer_part_names"),
        ("garage", "0004_own_schools"),
        ("workshop", "0004_version"),
    ]
    operations = [
        migrations.AddField(
            "service", "not_learned", models.CharField(max_length=300, blank=True, default=""),
            preserve_default=False,
        ),
        migrations.RunPython(say_why, migrations.RunPython.noop),
        migrations.RemoveField("service", "take_valid"),
        migrations.CreateModel(
            "ClosingRow",
            [
                (
                    "visit",
                    models.OneToOneField(
                        on_delete=django.db.models.deletion.PROTECT,
                        primary_key=True,
                        related_name="closing",
                        serialize=False,
                        to="visits.visit",
                    ),
                ),
                ("document", models.JSONField()),
                ("kept_at", models.DateTimeField(auto_now_add=True)),
            ],
        ),
        migrations.RunPython(keep_closings, migrations.RunPython.noop),
    ]
