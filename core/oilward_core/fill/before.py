"""What earlier fillings tell of the next one: what a model's other bikes took, and how far the level fell
at the first start. Shares are of the book capacity, so that they hold where a book is put right.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from decimal import Decimal
from math import sqrt
from statistics import mean
from typing import Any

from ..codes.fill import Start
from ..codes.roles import Role
from ..guard import Sound, guarded
from ..spec import FillRule, ReservoirSpec, Variant
from .case import Before, Drop, Fell, FillCase, Gauge, OfModel, Share, start_of

# of the capacity, where nobody knows better [our definition]: what filter and galleries take of the oil
# at the first start, when the filter is new and when it is left on
FILTER_TAKES, GALLERIES_TAKE = Share(0.05, 0.015), Share(0.01, 0.01)

# shares of the book [our definitions]: how much one bike scatters from filling to filling, and bikes of
# one model from each other, until their own spread is known; weighed as so many fillings
WITHIN, BETWEEN, WEIGHT = 0.012, 0.015, 4
LEAST_SPREAD, LEAST_TAKES, LEAST_BIKES = 0.015, 3, 2
DROP_WITHIN, DROP_BETWEEN = 0.004, 0.005


@dataclass(frozen=True, kw_only=True)
class Filled(Sound):
    """A filling of the past that is learned from: of which ``bike``, what it ``took``, ml, and how far
    the level ``fell`` at the first start, where it was seen before and after."""

    bike: str
    took: Decimal
    fell: Fell | None = None


def _by_bike(filled: Sequence[Filled], capacity: float) -> list[list[float]]:
    found: dict[str, list[float]] = {}
    for one in filled:
        found.setdefault(one.bike, []).append(float(one.took) / capacity)
    return list(found.values())


def _takes(bikes: Sequence[Sequence[float]]) -> Share | None:
    """What a bike of this model takes that was never filled here: mean and spread by the method of
    moments, the spreads drawn towards what is usual (empirical Bayes)."""
    count = sum(map(len, bikes))
    if count < LEAST_TAKES or len(bikes) < LEAST_BIKES:
        return None
    means = [mean(shares) for shares in bikes]
    off = sum(
        (share - own) ** 2 for shares, own in zip(bikes, means, strict=True) for share in shares
    )
    within = (WEIGHT * WITHIN**2 + off) / (WEIGHT + count - len(bikes))
    middle = mean(means)
    apart = sum((own - middle) ** 2 - within / len(s) for s, own in zip(bikes, means, strict=True))
    between = max((WEIGHT * BETWEEN**2 + apart) / (WEIGHT + len(bikes) - 1), 0.0)
    weights = [1 / (between + within / len(shares)) for shares in bikes]
    best = sum(w * own for w, own in zip(weights, means, strict=True)) / sum(weights)
    spread = sqrt(between + within + 1 / sum(weights))
    return Share(best, max(spread, LEAST_SPREAD))


def _joined(belief: Share, found: Sequence[tuple[float, float]]) -> Share:
    """A belief after measurements of it (value and variance), by precision weights."""
    weight = 1 / belief.sd**2 + sum(1 / variance for _, variance in found)
    total = belief.mean / belief.sd**2 + sum(value / variance for value, variance in found)
    return Share(total / weight, sqrt(1 / weight))


def _seen(fell: Fell, capacity: float) -> tuple[float, float]:
    sd = float(fell.sd) / capacity
    return float(fell.ml) / capacity, sd**2 + DROP_WITHIN**2


def _usual_drop(variant: Variant) -> Share:
    return GALLERIES_TAKE if variant == Variant.DRAIN_ONLY else FILTER_TAKES


def _model_drop(filled: Sequence[Filled], usual: Share, capacity: float) -> Share | None:
    """How far the level of a bike of this model falls that was never filled here."""
    bikes: dict[str, list[tuple[float, float]]] = {}
    for one in filled:
        if one.fell is not None:
            bikes.setdefault(one.bike, []).append(_seen(one.fell, capacity))
    if not bikes:
        return None
    each = []
    for seen in bikes.values():
        weight = sum(1 / variance for _, variance in seen)
        value = sum(value / variance for value, variance in seen) / weight
        each.append((value, 1 / weight + DROP_BETWEEN**2))
    of_all = Share(usual.mean, sqrt(usual.sd**2 - DROP_BETWEEN**2))
    known = _joined(of_all, each)
    return Share(known.mean, sqrt(known.sd**2 + DROP_BETWEEN**2))


@guarded
def of_model(variant: Variant, capacity: Decimal, filled: Sequence[Filled]) -> OfModel:
    """What the fillings of a model's other bikes tell of one more. What they take counts from three
    fillings of two bikes on; how far the level fell from the first, beside what is usual."""
    if not capacity:
        return OfModel()
    book = float(capacity)
    bikes = _by_bike(filled, book)
    return OfModel(
        takes=_takes(bikes),
        drop=_model_drop(filled, _usual_drop(variant), book),
        bikes=len(bikes),
        fillings=len(filled),
        starts=sum(one.fell is not None for one in filled),
    )


def _share_from(document: object) -> Share | None:
    if not isinstance(document, Mapping):
        return None
    return Share(float(document["mean"]), float(document["sd"]))


@guarded
def of_model_from(document: Mapping[str, Any]) -> OfModel:
    """The way back from its fields as a JSON document; nothing is known where it is empty."""
    counts = {name: int(document.get(name, 0)) for name in ("bikes", "fillings", "starts")}
    return OfModel(
        takes=_share_from(document.get("takes")), drop=_share_from(document.get("drop")), **counts
    )


@guarded
def drop_of(
    variant: Variant, capacity: Decimal, fell: Sequence[Fell] = (), model: OfModel | None = None
) -> Drop:
    """How far the level will fall at the first start, ml: by this bike's own fillings (``fell``), its
    model's, and what is usual (5 ± 1.5 % of the book with a new filter, 1 ± 1 % without)."""
    book = float(capacity)
    model = model or OfModel()
    seen = [_seen(one, book) for one in fell] if book else []
    belief = _joined(model.drop or _usual_drop(variant), seen)
    return Drop(
        Decimal(str(round(belief.mean * book, 1))),
        Decimal(str(round(belief.sd * book, 1))),
        len(seen) + model.starts,
    )


def _has_filter(spec: ReservoirSpec) -> bool:
    return Variant.WITH_FILTER in spec.capacities or spec.fastener(Role.FILTER) is not None


@guarded
def part_of(case: FillCase, out: Decimal, *, new_filter: bool) -> FillCase:
    """The same case where only so much came ``out`` of it, ml, and the rest is still in: that goes back,
    and what a ``new_filter`` takes. What it took before says nothing of that."""
    more = case.drop.mean if case.drop and new_filter else Decimal(0)
    return replace(case, capacity=out + more, initial=None, took=(), model=OfModel(), part=True)


@guarded
def case_of(
    spec: ReservoirSpec, variant: Variant, capacity: Decimal, before: Before | None = None
) -> FillCase:
    """A reservoir as the coach sees it: by its gauge where it has one, else by its exact quantity; with
    what is known of it from ``before``."""
    before = before or Before()
    gauge, start = None, start_of(spec)
    edge = spec.fill_rule == FillRule.LEVEL and spec.level is not None and spec.level.edge
    if spec.fill_rule == FillRule.LEVEL and spec.level is not None and not edge:
        gauge = Gauge(spec.level.between_marks, spec.level.target, spec.level.assumed)
    falls = start == Start.SUMP and _has_filter(spec) and not edge
    return FillCase(
        capacity=capacity,
        gauge=gauge,
        initial=spec.initial,
        took=before.took,
        model=before.model,
        start=start,
        drop=drop_of(variant, capacity, before.fell, before.model) if falls else None,
        edge=edge,
    )
