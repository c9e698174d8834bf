"""Which person a name was, where one has to be told from a document or an older record."""

from collections.abc import Iterable

from workshop.models import Person, Trace


def bearers(names: Iterable[str]) -> dict[str, int]:
    """The person behind each of these names, where exactly one ever bore it; the others are nobody."""
    wanted = {name for name in names if name}
    found: dict[str, set[int]] = {name: set() for name in wanted}
    ids = dict(Person.objects.values_list("username", "pk"))
    for name, pk in Person.objects.filter(name__in=wanted).values_list("name", "pk"):
        found[name].add(pk)
    changed = Trace.objects.filter(about__startswith="person/", was__name__in=sorted(wanted))
    for about, was in changed.values_list("about", "was"):
        changed_id = ids.get(about.removeprefix("person/"))
        if changed_id is not None:
            found[was["name"]].add(changed_id)
    return {name: next(iter(who)) for name, who in found.items() if len(who) == 1}
