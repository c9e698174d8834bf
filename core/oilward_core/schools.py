"""Schools: practices a workshop chooses once, per reservoir kind, and may override per bike.

All of them are common practice, no source. A school never overrules a published class or the
manual; where it acts, it is named.
"""

from dataclasses import dataclass, replace
from decimal import Decimal

from .codes.schools import Practice, SchoolTopic
from .errors import CoreError
from .guard import remembered, whole_table
from .reasons import Reason, Source
from .said import schools as say
from .spec import KINDS, Recipe, ReservoirKind, of_recipe
from .torque import Setting, TorqueSpec, setting

_DRAINED = of_recipe(Recipe.DRAINED)
_OPENED = (*_DRAINED, *of_recipe(Recipe.CIRCUIT))
_ENGINES = tuple(kind for kind in _DRAINED if KINDS[kind].runs_engine)
_CASES = tuple(kind for kind in _DRAINED if KINDS[kind].own_case)

TORQUE, WASHER, RING, SEALANT, FILTER, FLUID, INTERVAL, FEEL = SchoolTopic
NO_SEALANT = ("none", "no", "dry", "nothing", "-")


@dataclass(frozen=True, kw_only=True)
class Topic:
    """Something workshops do differently: its choices (the default first), where it applies, and
    what it changes."""

    key: SchoolTopic
    choices: tuple[Practice, ...]
    kinds: tuple[ReservoirKind, ...]

    @property
    def label(self) -> str:
        """What it is about."""
        return say.LABELS[self.key]

    @property
    def acts(self) -> str:
        """What it changes."""
        return say.ACTS[self.key]


# each topic's choices, the usual practice first, and the kinds it applies to
_CHOICES: dict[SchoolTopic, tuple[tuple[Practice, ...], tuple[ReservoirKind, ...]]] = whole_table(
    SchoolTopic,
    {
        TORQUE: ((Practice.MIDDLE, Practice.LOWER_THIRD), _DRAINED),
        WASHER: ((Practice.NEW_EACH_TIME, Practice.TURNED_OVER), _DRAINED),
        RING: ((Practice.NEW_EACH_TIME, Practice.ON_CONDITION), _DRAINED),
        SEALANT: ((Practice.NO_SEALANT, Practice.PTFE_PASTE, Practice.TAPE), _DRAINED),
        FILTER: ((Practice.EACH_CHANGE, Practice.EVERY_THIRD, Practice.AS_THE_SHEET), _ENGINES),
        FLUID: ((Practice.AS_THE_MANUAL, Practice.ONE_OIL, Practice.MINERAL), _CASES),
        INTERVAL: ((Practice.AS_THE_MANUAL, Practice.HALF_THE_BOOK), _DRAINED),
        FEEL: ((Practice.ON_THE_RECORD, Practice.SECOND_PERSON), _OPENED),
    },
)
TOPICS = tuple(
    Topic(key=key, choices=choices, kinds=kinds) for key, (choices, kinds) in _CHOICES.items()
)
_TOPIC: dict[str, Topic] = {topic.key: topic for topic in TOPICS}
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
        return say.whose(self.choice, self.whose)


@dataclass(frozen=True)
class Schools:
    """The choices that count for one bike: its own before the workshop's before the default."""

    choices: tuple[Choice, ...] = ()

    def of(self, kind: ReservoirKind, topic: SchoolTopic) -> Chosen:
        """The choice for a reservoir kind."""
        found = [c for c in self.choices if (c.kind, c.topic) == (kind.value, topic)]
        own = next((c for c in found if c.this_bike), None)
        if own:
            return Chosen(own.choice, say.THIS_BIKES)
        if found:
            return Chosen(found[0].choice, say.THE_WORKSHOPS)
        return Chosen(_TOPIC[topic].choices[0], say.USUAL)


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
    # what the manual puts on the thread is in its range already
    sealed = not sealant and bool(sealant_of("", kind, schools))
    aim = setting(
        spec, "lower third" if chosen.choice == Practice.LOWER_THIRD else "middle", sealed
    )
    if spec.low == spec.high or spec.form == "tolerance":
        return aim
    why = Reason("school", say.acts(TORQUE, chosen), Source.TRADE)
    return replace(aim, reasons=(*aim.reasons, why))


def interval_reason(chosen: Chosen) -> Reason | None:
    """The why of a due date that a school has its say in; None where the book alone counts."""
    if chosen.choice != Practice.HALF_THE_BOOK:
        return None
    return Reason("school", say.acts(INTERVAL, chosen), Source.TRADE)


def severity_with(severity: Decimal, chosen: Chosen) -> Decimal:
    """The factor on the book's intervals when the school of the interval has its say: half the book
    is as short as it gets."""
    return Decimal("0.5") if chosen.choice == Practice.HALF_THE_BOOK else severity


def check_choice(kind: str, topic: str, choice: str) -> None:
    """Refuse a choice no school offers. Raises CoreError ``school.none``, ``sheet.choose``."""
    found = _TOPIC.get(topic)
    if found is None or kind not in [k.value for k in found.kinds]:
        raise CoreError("school.none", field="topic")
    if choice not in found.choices:
        raise CoreError("sheet.choose", field="choice", options=list(found.choices))
