"""Schools: practices a workshop chooses once, per reservoir kind, and may override per bike.

All of them are common practice, no source. A school never overrules a published class or the
manual; where it acts, it is named.
"""

from dataclasses import dataclass, replace
from decimal import Decimal

from .errors import CoreError
from .guard import remembered
from .reasons import Reason, Source
from .spec import KINDS, Recipe, ReservoirKind, of_recipe
from .torque import Setting, TorqueSpec, setting

_DRAINED = of_recipe(Recipe.DRAINED)
_ENGINES = tuple(kind for kind in _DRAINED if KINDS[kind].runs_engine)
_CASES = tuple(kind for kind in _DRAINED if KINDS[kind].own_case)

TORQUE, WASHER, RING, SEALANT = "torque", "washer", "o-ring", "sealant"
FILTER, FLUID, INTERVAL = "filter", "fluid", "interval"
ONE_OIL, MINERAL = "one engine oil for all cases", "mineral only"
HALF_THE_BOOK, EVERY_THIRD, TURNED_OVER = "half the book", "every third change", "turned over once"
LOWER_THIRD = "lower third"
NO_SEALANT = ("none", "no", "dry", "nothing", "-")


@dataclass(frozen=True, kw_only=True)
class Topic:
    """Something workshops do differently: its choices (the default first), where it applies, and
    what it changes."""

    key: str
    label: str
    choices: tuple[str, ...]
    kinds: tuple[ReservoirKind, ...]
    acts: str


TOPICS = (
    Topic(
        key=TORQUE,
        label="Inside a torque range",
        choices=("middle", LOWER_THIRD),
        kinds=_DRAINED,
        acts="What the wrench is set to when the manual gives a range.",
    ),
    Topic(
        key=WASHER,
        label="Crush washer",
        choices=("new each time", TURNED_OVER),
        kinds=_DRAINED,
        acts="What goes on at the seal step, and what the kit counts.",
    ),
    Topic(
        key=RING,
        label="O-ring",
        choices=("new each time", "on condition"),
        kinds=_DRAINED,
        acts="What goes on at the seal step, and what the kit counts.",
    ),
    Topic(
        key=SEALANT,
        label="On the plug's threads",
        choices=("none", "PTFE paste", "tape"),
        kinds=_DRAINED,
        acts="What the refit step says.",
    ),
    Topic(
        key=FILTER,
        label="Oil filter",
        choices=("each change", EVERY_THIRD, "as the sheet says"),
        kinds=_ENGINES,
        acts="Whether the next change is proposed with its filter.",
    ),
    Topic(
        key=FLUID,
        label="Which oil",
        choices=("as the manual says", ONE_OIL, MINERAL),
        kinds=_CASES,
        acts="What the shelf calls a fit.",
    ),
    Topic(
        key=INTERVAL,
        label="Intervals",
        choices=("as the manual says", HALF_THE_BOOK),
        kinds=_DRAINED,
        acts="When a reservoir is due.",
    ),
)
_TOPIC = {topic.key: topic for topic in TOPICS}
# what a reservoir's glass is drawn by; the others act at the bench, the kit and the shelf alone
IN_THE_GLASS = (FILTER, INTERVAL)


@dataclass(frozen=True, kw_only=True)
class Choice:
    """One choice made: for a reservoir kind, on one bike or for the workshop."""

    kind: str
    topic: str
    choice: str
    this_bike: bool = False


@dataclass(frozen=True)
class Chosen:
    """What counts, and whose choice it is."""

    choice: str
    whose: str

    def __str__(self) -> str:
        """``middle (the workshop's school)``."""
        return f"{self.choice} ({self.whose})"


@dataclass(frozen=True)
class Schools:
    """The choices that count for one bike: its own before the workshop's before the default."""

    choices: tuple[Choice, ...] = ()

    def of(self, kind: ReservoirKind, topic: str) -> Chosen:
        """The choice for a reservoir kind."""
        found = [c for c in self.choices if (c.kind, c.topic) == (kind.value, topic)]
        own = next((c for c in found if c.this_bike), None)
        if own:
            return Chosen(own.choice, "this bike's school")
        if found:
            return Chosen(found[0].choice, "the workshop's school")
        return Chosen(_TOPIC[topic].choices[0], "usual practice")


def sealant_of(written: str, kind: ReservoirKind, schools: Schools) -> str:
    """What goes on a plug's thread: the manual's own word before the school's; empty for none."""
    said = written.strip() or schools.of(kind, SEALANT).choice
    return "" if said.lower() in NO_SEALANT else said


@remembered
def torque_aim(spec: TorqueSpec, sealant: str, kind: ReservoirKind, schools: Schools) -> Setting:
    """The torque to aim at, N·m (`torque.setting`), by the school inside a range; named where it
    acts. ``sealant`` is the sheet's word for the plug's thread, empty where it has none. Raises
    CoreError ``torque.no_wrench`` for hand-tight and turn specs."""
    chosen = schools.of(kind, TORQUE)
    sealed = bool(sealant_of(sealant, kind, schools))
    aim = setting(spec, "lower third" if chosen.choice == LOWER_THIRD else "middle", sealed)
    if spec.low == spec.high or spec.form == "tolerance":
        return aim
    why = Reason("school", f"Inside a torque range: {chosen}.", Source.TRADE)
    return replace(aim, reasons=(*aim.reasons, why))


def interval_reason(chosen: Chosen) -> Reason | None:
    """The why of a due date that a school has its say in; None where the book alone counts."""
    if chosen.choice != HALF_THE_BOOK:
        return None
    return Reason("school", f"Intervals: {chosen}.", Source.TRADE)


def severity_with(severity: Decimal, chosen: Chosen) -> Decimal:
    """The factor on the book's intervals when the school of the interval has its say: half the book
    is as short as it gets."""
    return Decimal("0.5") if chosen.choice == HALF_THE_BOOK else severity


def check_choice(kind: str, topic: str, choice: str) -> None:
    """Refuse a choice no school offers. Raises CoreError ``school.none``, ``sheet.choose``."""
    found = _TOPIC.get(topic)
    if found is None or kind not in [k.value for k in found.kinds]:
        raise CoreError("school.none", field="topic")
    if choice not in found.choices:
        raise CoreError("sheet.choose", field="choice", options=list(found.choices))
