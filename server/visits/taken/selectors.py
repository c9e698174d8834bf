from datetime import date
from decimal import Decimal

from oilward_core.bench import Used, used
from oilward_core.kit import pick
from oilward_core.quantity import show
from oilward_core.said import kit as said
from shelf.models import Fluid
from shelf.stock.mapping import Standing
from shelf.stock.selectors import bottles, drawer
from workshop.mapping import speaker
from workshop.models import Person

from visits.models import Visit
from visits.rows import visit_plan
from visits.selectors import entries_of, standing, tasks_of

from .shapes import Taken, TakenLine

LEAST = Decimal(1)  # ml, below which nothing is said


def used_in(visit: Visit) -> Used:
    """What an open visit has used up so far."""
    stands = standing(visit)
    plan = visit_plan(visit, [one.plan for one in stands.tasks])
    model = visit.bike.model
    chosen = {task.reservoir: task.chosen for task in tasks_of(visit) if task.chosen}
    return used(stands.tasks, entries_of(visit, plan), f"{model.make} {model.name}", chosen)


def to_take(visit: Visit, person: Person, today: date) -> Taken:
    """What an open visit is to take from the shelf: opened bottles first, as its kit was counted."""
    if visit.state != Visit.State.OPEN:
        return Taken(bottles=[], parts=[], short=[])
    found, unit, there = used_in(visit), speaker(person).volume, drawer()
    names = dict(Fluid.objects.values_list("pk", "name"))
    by_name: dict[str, list[Standing]] = {}
    stands = bottles()
    printed = {one.bottle.id: one.batch for one in stands}
    for one in stands:
        by_name.setdefault(names[one.fluid], []).append(one)
    lines: list[TakenLine] = []
    short: list[str] = []
    for name, ml in found.fluids:
        picked = pick(ml, [one.bottle for one in by_name.get(name, ())], (), today)
        for use in picked.uses:
            opened, size = use.bottle.opened_on is not None, show(use.bottle.size, "ml")
            lines.append(
                TakenLine(
                    what=use.bottle.id,
                    words=said.of_batch(
                        f"{said.bottle(opened, size)}, {name}", printed[use.bottle.id]
                    ),
                    amount=show(use.ml, "ml"),
                    keeps=show(use.keeps, unit),
                )
            )
        missing = ml - sum((use.ml for use in picked.uses), Decimal(0))
        if missing >= LEAST:
            short.append(said.not_there(show(missing, unit), name))
    parts = []
    for name, count in found.parts:
        taken = min(count, there.get(name, 0))
        if taken:
            keeps = f"{there[name] - taken}"
            parts.append(TakenLine(what=name, words=name, amount=f"{taken}", keeps=keeps))
        if count > taken:
            short.append(said.not_there(f"{count - taken}", name))
    return Taken(bottles=lines, parts=parts, short=short)
