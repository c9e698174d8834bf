"""What a motorcycle can hold oil in: one row a kind, with everything that is different about it."""

from collections.abc import Callable
from dataclasses import dataclass
from decimal import Decimal
from enum import StrEnum

from ..guard import whole_table


class ReservoirKind(StrEnum):
    """What can hold oil on a motorcycle, in the order a bike is drawn."""

    ENGINE = "engine"
    ENGINE_DRY = "engine, dry sump"
    CLUTCH_CIRCUIT = "clutch circuit"
    PRIMARY = "primary"
    GEARBOX = "gearbox"
    FINAL_DRIVE = "final drive"
    GEAR_CASE = "gear case"
    FORK = "fork leg"
    SHOCK = "shock"
    COOLANT = "coolant"
    FRONT_BRAKE = "front brake"
    REAR_BRAKE = "rear brake"
    CLUTCH_FLUID = "hydraulic clutch"


class FillRule(StrEnum):
    """How a reservoir is filled: by level, exact quantity, air gap, at a rebuild, or only watched."""

    LEVEL = "level"
    EXACT = "exact"
    AIR_GAP = "air gap"
    WATCH = "watch"
    REBUILD = "rebuild"


class Recipe(StrEnum):
    """How its service goes: through a plug, along with the engine it shares its oil with, out of the
    bike, only looked at, or looked at and topped up between its marks."""

    DRAINED = "drained"
    CIRCUIT = "circuit"
    FORK = "fork"
    SHOCK = "shock"
    WATCHED = "watched"


Band = tuple[Decimal, Decimal]


def band(low: str, high: str) -> Band:
    """A band from one plain number to another."""
    return Decimal(low), Decimal(high)


def inside(value: Decimal, within: Band) -> bool:
    """Whether it lies in a band, its ends with it."""
    return within[0] <= value <= within[1]


# largest displacement in cm³ a band holds for, ml [trade]
_ENGINE_BANDS = (
    (150, band("500", "1600")),
    (400, band("800", "2800")),
    (1000, band("1600", "5000")),
    (10_000, band("2200", "6500")),
)


def _by_displacement(cc: int) -> Band:
    return next((band for most, band in _ENGINE_BANDS if cc <= most), _ENGINE_BANDS[-1][1])


def _always(low: str, high: str) -> Callable[[int], Band]:
    return lambda _: band(low, high)


@dataclass(frozen=True, kw_only=True)
class KindFacts:
    """One kind of reservoir. Nothing here has a default: what is missing fails at import.

    ``recipe`` is how its service goes and ``fill_rule`` how it is usually filled; ``capacity`` where
    its capacity in ml is expected, by displacement in cm³ (None: anything). ``hours`` of hands-on
    work a service takes; ``column`` it has in the ward. ``families`` of fluid are at home in it, the
    usual one first. ``runs_engine``: the engine runs on its oil, filter and indicator are its;
    ``gears`` turn in it, ``hypoid`` ones; ``clutch`` runs in it alone; ``own_case``: a case of its
    own, where schools differ over the oil; ``hydraulic``: it moves brake or clutch. ``poured``: its
    fluid is bought and poured; ``milky_is_grave``: milky oil stops the engine; ``shares_clutch``: a wet
    clutch may run in its oil, where its fluid asks for a friction class.
    """

    recipe: Recipe
    fill_rule: FillRule
    capacity: Callable[[int], Band] | None
    hours: float
    column: str
    families: tuple[str, ...]
    runs_engine: bool
    gears: bool
    hypoid: bool
    clutch: bool
    own_case: bool
    hydraulic: bool
    poured: bool
    milky_is_grave: bool
    shares_clutch: bool

    @property
    def drained(self) -> bool:
        """Whether it is drained through a plug."""
        return self.recipe == Recipe.DRAINED

    @property
    def looked_at(self) -> bool:
        """Whether a visit only looks at it, a change being another's work."""
        return self.recipe in (Recipe.SHOCK, Recipe.WATCHED)

    @property
    def watched(self) -> bool:
        """Whether it is only looked at and topped up."""
        return self.recipe == Recipe.WATCHED


def _engine(hours: float) -> KindFacts:
    return KindFacts(
        recipe=Recipe.DRAINED,
        fill_rule=FillRule.LEVEL,
        capacity=_by_displacement,
        hours=hours,
        column="Engine",
        families=("engine",),
        runs_engine=True,
        gears=False,
        hypoid=False,
        clutch=False,
        own_case=False,
        hydraulic=False,
        poured=True,
        milky_is_grave=True,
        shares_clutch=True,
    )


def _case(
    column: str,
    hours: float,
    capacity: Callable[[int], Band],
    families: tuple[str, ...],
    *,
    clutch: bool = False,
    gears: bool = False,
    hypoid: bool = False,
) -> KindFacts:
    """A case beside the engine, drained through its own plug."""
    return KindFacts(
        recipe=Recipe.DRAINED,
        fill_rule=FillRule.LEVEL,
        capacity=capacity,
        hours=hours,
        column=column,
        families=families,
        runs_engine=False,
        gears=gears,
        hypoid=hypoid,
        clutch=clutch,
        own_case=not hypoid,
        hydraulic=False,
        poured=True,
        milky_is_grave=clutch,
        shares_clutch=False,
    )


def _other(
    recipe: Recipe,
    fill_rule: FillRule,
    hours: float,
    column: str,
    families: tuple[str, ...],
    *,
    capacity: Callable[[int], Band] | None = None,
    hydraulic: bool = False,
    poured: bool = True,
) -> KindFacts:
    """What is not drained through a plug."""
    return KindFacts(
        recipe=recipe,
        fill_rule=fill_rule,
        capacity=capacity,
        hours=hours,
        column=column,
        families=families,
        runs_engine=recipe == Recipe.CIRCUIT,
        gears=False,
        hypoid=False,
        clutch=False,
        own_case=False,
        hydraulic=hydraulic,
        poured=poured,
        milky_is_grave=False,
        shares_clutch=False,
    )


_WATCHED_COLUMN, _LOOK_HOURS = "Watched", 0.1


def _watched(family: str, *, hydraulic: bool = True) -> KindFacts:
    return _other(
        Recipe.WATCHED,
        FillRule.WATCH,
        _LOOK_HOURS,
        _WATCHED_COLUMN,
        (family,),
        hydraulic=hydraulic,
    )


KINDS: dict[ReservoirKind, KindFacts] = whole_table(
    ReservoirKind,
    {
        ReservoirKind.ENGINE: _engine(0.6),
        ReservoirKind.ENGINE_DRY: _engine(0.7),
        ReservoirKind.CLUTCH_CIRCUIT: _other(
            Recipe.CIRCUIT, FillRule.LEVEL, 0.4, "Clutch circuit", ("engine",), poured=False
        ),
        ReservoirKind.PRIMARY: _case(
            "Primary", 0.4, _always("250", "1800"), ("primary", "engine", "gear"), clutch=True
        ),
        ReservoirKind.GEARBOX: _case(
            "Gearbox", 0.4, _always("350", "1800"), ("gear", "engine", "primary"), gears=True
        ),
        ReservoirKind.FINAL_DRIVE: _case(
            "Final drive", 0.3, _always("80", "500"), ("gear",), gears=True, hypoid=True
        ),
        # a scooter's: spur gears, and no crown wheel
        ReservoirKind.GEAR_CASE: _case(
            "Final drive", 0.3, _always("80", "500"), ("gear", "engine"), gears=True
        ),
        ReservoirKind.FORK: _other(
            Recipe.FORK, FillRule.AIR_GAP, 1.0, "Forks", ("fork",), capacity=_always("80", "1400")
        ),
        ReservoirKind.SHOCK: _other(
            Recipe.SHOCK, FillRule.REBUILD, 1.5, "Shock", ("shock", "fork"), poured=False
        ),
        ReservoirKind.COOLANT: _watched("coolant", hydraulic=False),
        ReservoirKind.FRONT_BRAKE: _watched("brake"),
        ReservoirKind.REAR_BRAKE: _watched("brake"),
        ReservoirKind.CLUTCH_FLUID: _watched("brake"),
    },
)
COLUMNS = tuple(dict.fromkeys(facts.column for facts in KINDS.values()))


def of_recipe(recipe: Recipe) -> tuple[ReservoirKind, ...]:
    """The kinds served by a recipe, in the order a bike is drawn."""
    return tuple(kind for kind, facts in KINDS.items() if facts.recipe == recipe)


DRAINED = frozenset(of_recipe(Recipe.DRAINED))
WATCHED_ONLY = frozenset(of_recipe(Recipe.WATCHED))
