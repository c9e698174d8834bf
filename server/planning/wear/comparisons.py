"""Findings held against each other: by oil, by school, by whose eyes."""

from collections.abc import Iterable, Sequence
from datetime import date

from django.db.models import Count
from django.http import Http404
from findings import mapping as read
from findings.models import Finding
from findings.selectors import cohort_at, counting, of_kind
from garage.selectors import schools_of
from oilward_core.debris import Matter
from oilward_core.schools import INTERVAL
from oilward_core.spec import KINDS, ReservoirKind
from oilward_core.trend import compare_groups, eye_words, wear_of
from workshop.access import leads
from workshop.models import Person

from .selectors import with_fluid
from .shapes import Comparisons, EyeLine, GroupClaim

COMPARED = 3000
Groups = dict[str, dict[str, list[float]]]


def _groups(named: Iterable[tuple[str, Finding]]) -> Groups:
    """Wear of steel by group and bike."""
    groups: Groups = {}
    for name, row in named:
        if name:
            worn = float(wear_of(read.found(row)).get(Matter.STEEL, 0))
            groups.setdefault(name, {}).setdefault(str(row.bike_id), []).append(worn)
    return groups


def _against(groups: Groups, name: str) -> dict[str, list[float]]:
    """The findings of every other group, by bike."""
    others: dict[str, list[float]] = {}
    for other, bikes in groups.items():
        for bike, worn in bikes.items() if other != name else ():
            others.setdefault(bike, []).extend(worn)
    return others


def _claims(kind: str, groups: Groups) -> list[GroupClaim]:
    """Each group against the others; nothing where there is one only."""
    claims = []
    for name in sorted(groups) if len(groups) > 1 else ():
        said = compare_groups(groups[name], _against(groups, name))
        claims.append(
            GroupClaim(
                kind=kind,
                name=name,
                ratio=said.ratio,
                low=said.low,
                high=said.high,
                bikes=said.bikes,
                findings=said.findings,
                words=said.words,
            )
        )
    return claims


def _newest(kind: ReservoirKind) -> list[Finding]:
    rows = counting(of_kind(kind).filter(run_in=False)).order_by("-found_on")
    return list(with_fluid(rows)[:COMPARED].prefetch_related("debris"))


def _by_fluid(rows: Iterable[Finding]) -> Groups:
    return _groups((getattr(row, "fluid", None) or "", row) for row in rows)


def _by_school(kind: ReservoirKind, rows: Sequence[Finding]) -> Groups:
    schools = schools_of({row.bike_id for row in rows})
    return _groups((schools[row.bike_id].of(kind, INTERVAL).choice, row) for row in rows)


def _eyes(kind: ReservoirKind, person: Person, today: date) -> list[EyeLine]:
    cohort = cohort_at(kind, today)
    names = dict(Person.objects.values_list("pk", "name"))
    shown = of_kind(kind).filter(run_in=False).order_by()
    counted = shown.values("found_by").annotate(plugs=Count("pk"))
    graded = {str(row["found_by"]): row["plugs"] for row in counted}
    return [
        EyeLine(
            name=names[int(grader)],
            kind=kind.value,
            graded=graded.get(grader, 0),
            words=eye_words(eye, cohort.anybody, graded.get(grader, 0)).words,
        )
        for grader, eye in sorted(cohort.eyes.items())
        if grader.isdigit() and int(grader) in names and (leads(person) or int(grader) == person.pk)
    ]


def comparisons(kind: str, person: Person, today: date) -> Comparisons:
    """Wear by fluid and by school in one kind of reservoir, and how eyes differ there: everybody's to a
    lead, one's own to anybody else. Raises Http404 for a kind that is not drained."""
    found = next((one for one in ReservoirKind if one.value == kind and KINDS[one].drained), None)
    if found is None:
        raise Http404
    rows = _newest(found)
    by_fluid, by_school = _by_fluid(rows), _by_school(found, rows)
    return Comparisons(
        _claims(kind, by_fluid), _claims(kind, by_school), _eyes(found, person, today)
    )
