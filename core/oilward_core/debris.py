"""What plug and oil show, and what it means.

Rules D1–D13 are common practice, no source; the wear index is our own definition.
"""

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from decimal import Decimal
from enum import IntEnum, StrEnum

from .errors import CoreError
from .guard import Sound, guarded, whole_table
from .reasons import Reason, Source
from .spec import KINDS, ReservoirKind


class Form(StrEnum):
    """Shape of the debris, from the most harmless up."""

    PASTE = "paste"
    FUZZ = "fuzz"
    SLIVERS = "slivers"
    FLAKES = "flakes"
    CHIPS = "chips"
    FRAGMENTS = "fragments"


FORM_WEIGHT = {
    Form.PASTE: 1,
    Form.FUZZ: 3,
    Form.SLIVERS: 10,
    Form.FLAKES: 30,
    Form.CHIPS: 100,
    Form.FRAGMENTS: 300,
}


class Matter(StrEnum):
    """What the debris is made of."""

    STEEL = "steel"
    ALUMINIUM = "aluminium"
    BRASS = "brass"
    BRONZE = "bronze"
    FRICTION = "friction"
    SEALANT = "sealant"
    RUBBER = "rubber"
    UNKNOWN = "unknown"


class Family(StrEnum):
    """Which rules a matter falls under."""

    FERROUS = "ferrous"
    LIGHT = "light metal"
    YELLOW = "yellow metal"
    FRICTION = "friction matter"
    PIECES = "pieces of a seal"


FAMILY: dict[Matter, Family] = whole_table(
    Matter,
    {
        Matter.STEEL: Family.FERROUS,
        Matter.ALUMINIUM: Family.LIGHT,
        Matter.BRASS: Family.YELLOW,
        Matter.BRONZE: Family.YELLOW,
        Matter.FRICTION: Family.FRICTION,
        Matter.SEALANT: Family.PIECES,
        Matter.RUBBER: Family.PIECES,
        # until a magnet says otherwise
        Matter.UNKNOWN: Family.FERROUS,
    },
)


class OilLook(StrEnum):
    """What the drained oil looks or smells like."""

    CLEAR = "clear"
    DARK = "dark"
    MILKY = "milky"
    SPARKLE = "sparkle"
    FUEL = "fuel smell"
    BURNT = "burnt smell"


class Level(IntEnum):
    """How serious a finding is."""

    ROUTINE = 0
    NOTE = 1
    WATCH = 2
    INVESTIGATE = 3
    HOLD = 4

    @property
    def word(self) -> "LevelWord":
        """The level as the workshop says it."""
        return LevelWord(self.name.lower())


class LevelWord(StrEnum):
    """A level as the workshop says it, the mildest first."""

    ROUTINE = "routine"
    NOTE = "note"
    WATCH = "watch"
    INVESTIGATE = "investigate"
    HOLD = "hold"


# findings that ask for something beyond the note of them
ASKING = (Level.WATCH, Level.INVESTIGATE, Level.HOLD)

ACTIONS = {
    Level.ROUTINE: "Wipe the magnet and go on.",
    Level.NOTE: "Wipe the magnet, keep the note, compare next time.",
    Level.WATCH: "Look again at half the interval.",
    Level.INVESTIGATE: "Keep oil and debris. Get a second opinion before the next long ride.",
    Level.HOLD: "Do not run it. Keep oil and debris, and call the lead.",
}


@dataclass(frozen=True)
class Part(Sound):
    """One kind of debris: its share of the magnet face (0–1), a count where it can be counted,
    the largest piece in mm, and whether the magnet holds it (None: not tested)."""

    form: Form
    matter: Matter
    share: Decimal
    largest_mm: Decimal | None = None
    count: int | None = None
    magnetic: bool | None = None

    def __post_init__(self) -> None:
        """Raises CoreError ``finding.share`` outside 0–1 and ``finding.largest`` below zero."""
        super().__post_init__()
        if not 0 <= self.share <= 1:
            raise CoreError("finding.share", field="share")
        if self.largest_mm is not None and self.largest_mm < 0:
            raise CoreError("finding.largest", field="largest")


@dataclass(frozen=True)
class Observation(Sound):
    """What one service showed on one reservoir's plug and in its oil.

    ``km_since_wiped`` is how far the bike ran since the magnet was last clean;
    ``first_service`` marks running-in (also taken below 1500 km on the odometer).
    """

    reservoir: ReservoirKind
    parts: tuple[Part, ...]
    oil: frozenset[OilLook]
    km_since_wiped: Decimal
    first_service: bool


@dataclass(frozen=True)
class RuleSpoke:
    """A rule that fits the observation: its level, likely origin, and sentence."""

    rule: str
    level: Level
    origin: str
    text: str


@dataclass(frozen=True)
class Verdict(Sound):
    """The highest rule's level, its origin and action, every rule that spoke, and wear by matter."""

    level: Level
    origin: str
    action: str
    spoke: tuple[RuleSpoke, ...]
    wear: dict[Matter, Decimal]
    reasons: tuple[Reason, ...]


RUN_IN_KM = Decimal(1500)


@guarded
def running_in(km: Decimal, known_from_new: bool, served_before: bool) -> bool:
    """Whether fine shavings are to be expected: the first service, or below 1500 km [trade].

    A bike without records may have been served, so for it only the distance counts.
    """
    return km < RUN_IN_KM or (known_from_new and not served_before)


_FORMS = list(Form)
_PASTY = (Form.PASTE, Form.FUZZ)
Spoken = RuleSpoke | None


def _steel(part: Part) -> bool:
    return FAMILY[part.matter] == Family.FERROUS and part.magnetic is not False


def _from(part: Part, form: Form) -> bool:
    return _FORMS.index(part.form) >= _FORMS.index(form)


def _covers(parts: Iterable[Part]) -> Decimal:
    return sum((part.share for part in parts), Decimal(0))


def _running_in(part: Part, seen: Observation) -> bool:
    if not (seen.first_service and _steel(part)):
        return False
    return part.form in _PASTY or (
        part.form == Form.SLIVERS and part.largest_mm is not None and part.largest_mm <= 1
    )


def _d1(seen: Observation) -> Spoken:
    if all(part.form == Form.PASTE and _steel(part) for part in seen.parts) and _covers(
        seen.parts
    ) <= Decimal("0.5"):
        what = "Grey paste, the usual amount." if seen.parts else "Clean magnet."
        return RuleSpoke("D1", Level.ROUTINE, "normal wear", what)
    return None


def _d2(seen: Observation) -> Spoken:
    pasty = [p for p in seen.parts if p.form in _PASTY and _steel(p) and not _running_in(p, seen)]
    if KINDS[seen.reservoir].clutch or not pasty:
        return None
    fuzz = any(p.form == Form.FUZZ for p in pasty)
    drive_paste = KINDS[seen.reservoir].hypoid and not fuzz
    if drive_paste or not (fuzz or _covers(pasty) > Decimal("0.5")):
        return None
    level = Level.WATCH if KINDS[seen.reservoir].gears else Level.NOTE
    text = "Fuzz on the magnet." if fuzz else "Paste over more than half the magnet."
    return RuleSpoke("D2", level, "more fine steel than usual", text)


def _d3(seen: Observation) -> Spoken:
    if not any(_running_in(part, seen) for part in seen.parts):
        return None
    text = "Running-in: expected once. Look again next time."
    return RuleSpoke("D3", Level.ROUTINE, "running-in", text)


def _d4(seen: Observation) -> Spoken:
    if not any(
        p.form == Form.SLIVERS and _steel(p) and not _running_in(p, seen) for p in seen.parts
    ):
        return None
    text = "Slivers one can feel, after running-in."
    return RuleSpoke("D4", Level.WATCH, "a steel edge being cut", text)


def _d5(seen: Observation) -> Spoken:
    if not any(p.form == Form.FLAKES and _steel(p) for p in seen.parts):
        return None
    level = Level.WATCH if seen.first_service else Level.INVESTIGATE
    return RuleSpoke("D5", level, "bearing or gear surface", "Steel flakes.")


def _d6(seen: Observation) -> Spoken:
    for part in seen.parts:
        chip = part.form == Form.CHIPS and _steel(part)
        # a chip nobody measured is taken as large: the safe side
        if part.form == Form.FRAGMENTS and FAMILY[part.matter] != Family.PIECES:
            return RuleSpoke("D6", Level.HOLD, "gear tooth or broken part", "A fragment.")
        if chip and (part.largest_mm is None or part.largest_mm >= 2):
            return RuleSpoke("D6", Level.HOLD, "gear tooth", "A steel chip of 2 mm or more.")
    if any(p.form == Form.CHIPS and _steel(p) for p in seen.parts):
        return RuleSpoke("D6", Level.INVESTIGATE, "gear tooth", "Small steel chips.")
    return None


def _d7(seen: Observation) -> Spoken:
    bright = [
        p
        for p in seen.parts
        if FAMILY[p.matter] == Family.LIGHT
        or (FAMILY[p.matter] == Family.FERROUS and p.magnetic is False)
    ]
    if not bright:
        return None
    origin = "casting flash, clutch plates"
    if any(_from(part, Form.FLAKES) for part in bright):
        return RuleSpoke("D7", Level.INVESTIGATE, origin, "Flakes that a magnet ignores.")
    few = all(
        part.count <= 5 if part.count is not None else part.share <= Decimal("0.05")
        for part in bright
    )
    if few:
        return RuleSpoke("D7", Level.NOTE, origin, "A few bright specks that a magnet ignores.")
    return RuleSpoke("D7", Level.WATCH, origin, "Many bright specks that a magnet ignores.")


def _d8(seen: Observation) -> Spoken:
    yellow = [part for part in seen.parts if FAMILY[part.matter] == Family.YELLOW]
    if not yellow:
        return None
    bronze = any(part.matter == Matter.BRONZE for part in yellow)
    origin = "bearing" if bronze else "bush or thrust washer"
    if any(_from(part, Form.FLAKES) for part in yellow):
        return RuleSpoke("D8", Level.HOLD, origin, "Brass or bronze flakes.")
    return RuleSpoke("D8", Level.INVESTIGATE, origin, "Brass or bronze specks.")


def _d9(seen: Observation) -> Spoken:
    if not KINDS[seen.reservoir].clutch:
        return None
    dust = [p for p in seen.parts if FAMILY[p.matter] == Family.FRICTION or p.form == Form.PASTE]
    if not dust:
        return None
    if any(FAMILY[p.matter] == Family.FRICTION and p.form != Form.PASTE for p in dust):
        text = "Heavy or stringy friction matter: clutch slipped or dragging."
        return RuleSpoke("D9", Level.WATCH, "clutch plates", text)
    return RuleSpoke("D9", Level.ROUTINE, "clutch plates", "Friction dust, always there.")


def _d10(seen: Observation) -> Spoken:
    if not KINDS[seen.reservoir].hypoid:
        return None
    if any(_from(part, Form.SLIVERS) and _steel(part) for part in seen.parts):
        return RuleSpoke("D10", Level.INVESTIGATE, "crown wheel or pinion", "Bits in the drive.")
    return None


def _d11(seen: Observation) -> Spoken:
    if OilLook.MILKY not in seen.oil:
        return None
    level = Level.HOLD if KINDS[seen.reservoir].milky_is_grave else Level.INVESTIGATE
    return RuleSpoke("D11", level, "water or coolant", "Milky oil.")


def _d12(seen: Observation) -> Spoken:
    smells = (
        (OilLook.FUEL, Level.INVESTIGATE, "fuel past the rings or a stuck float", "Fuel smell."),
        (OilLook.SPARKLE, Level.INVESTIGATE, "fine metal in suspension", "Sparkle in the light."),
        (OilLook.BURNT, Level.WATCH, "heat", "Burnt smell."),
    )
    for look, level, origin, text in smells:
        if look in seen.oil:
            return RuleSpoke("D12", level, origin, text)
    return None


def _d13(seen: Observation) -> Spoken:
    if not any(FAMILY[part.matter] == Family.PIECES for part in seen.parts):
        return None
    text = "Sealant or rubber: find the missing piece, clean the pick-up screen."
    return RuleSpoke("D13", Level.WATCH, "sealant, gasket or O-ring", text)


RULES: tuple[Callable[[Observation], Spoken], ...] = (
    _d1,
    _d2,
    _d3,
    _d4,
    _d5,
    _d6,
    _d7,
    _d8,
    _d9,
    _d10,
    _d11,
    _d12,
    _d13,
)


@guarded
def wear_index(parts: Iterable[Part], km_since_wiped: Decimal) -> dict[Matter, Decimal]:
    """Wear per matter [def]: ``Σ share·w(form) / max(km, 200)·1000``, w 1, 3, 10, 30, 100, 300."""
    per = max(km_since_wiped, Decimal(200))
    wear: dict[Matter, Decimal] = {}
    for part in parts:
        own = part.share * FORM_WEIGHT[part.form] / per * 1000
        wear[part.matter] = wear.get(part.matter, Decimal(0)) + own
    return {matter: value.quantize(Decimal("0.001")) for matter, value in wear.items()}


@guarded
def verdict(seen: Observation) -> Verdict:
    """Judge an observation: the highest of the rules that speak, with all of them as its why."""
    spoke = tuple(answer for rule in RULES if (answer := rule(seen)))
    top = max(spoke, key=lambda rule: rule.level, default=None)
    level = top.level if top else Level.NOTE
    reasons = tuple(Reason(rule.rule, rule.text, Source.TRADE) for rule in spoke)
    return Verdict(
        level,
        top.origin if top else "not in the rules",
        ACTIONS[level],
        spoke,
        wear_index(seen.parts, seen.km_since_wiped),
        reasons,
    )
