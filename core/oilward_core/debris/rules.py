"""The rules D1 to D16: what plug and oil show, and what it means.

Common practice, no source; the wear index is our own definition.
"""

from collections.abc import Callable, Iterable
from dataclasses import dataclass, replace
from decimal import Decimal
from enum import IntEnum, StrEnum

from ..guard import Sound, guarded
from ..reasons import Reason, Source
from ..spec import KINDS
from .growth import Growth
from .seen import FAMILY, FORM_WEIGHT, Family, Form, Matter, Observation, OilLook, Part, Place


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

    @property
    def level(self) -> Level:
        """How serious that is, to compare by."""
        return Level[self.name]


# findings that ask for something beyond the note of them
ASKING = (Level.WATCH, Level.INVESTIGATE, Level.HOLD)

ACTIONS = {
    Level.ROUTINE: "Wipe the magnet and go on.",
    Level.NOTE: "Wipe the magnet, keep the note, compare next time.",
    Level.WATCH: "Look again at half the interval.",
    Level.INVESTIGATE: "Keep oil and debris. Get a second opinion before the next long ride.",
    Level.HOLD: "Do not run it. Keep oil and debris, and call the lead.",
}


@dataclass(frozen=True, kw_only=True)
class RuleSpoke:
    """A rule that fits the observation: its level, likely origin, and sentence."""

    rule: str
    level: Level
    origin: str
    text: str


@dataclass(frozen=True, kw_only=True)
class Verdict(Sound):
    """The highest rule's level, its origin and action, every rule that spoke, wear by matter, and tests
    that would confirm it."""

    level: Level
    origin: str
    action: str
    spoke: tuple[RuleSpoke, ...]
    wear: dict[Matter, Decimal]
    reasons: tuple[Reason, ...]
    confirm: tuple[str, ...] = ()


RUN_IN_KM = Decimal(1500)


@guarded
def running_in(km: Decimal, known_from_new: bool, served_before: bool) -> bool:
    """Whether fine shavings are to be expected: the first service, or below 1500 km [trade].

    A bike without records may have been served, so for it only the distance counts.
    """
    return km < RUN_IN_KM or (known_from_new and not served_before)


_FORMS = list(Form)
_PASTY = (Form.PASTE, Form.FUZZ)
_HALF = Decimal("0.5")
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
    pasty = all(part.form == Form.PASTE and _steel(part) for part in seen.parts)
    if pasty and _covers(seen.parts) <= _HALF:
        what = "Grey paste, the usual amount." if seen.parts else "Clean magnet."
        return RuleSpoke(rule="D1", level=Level.ROUTINE, origin="normal wear", text=what)
    return None


def fine_steel(seen: Observation) -> str:
    """What a finding shows of fine steel beyond the usual, in words; empty: no more than usual."""
    pasty = [p for p in seen.parts if p.form in _PASTY and _steel(p) and not _running_in(p, seen)]
    if any(part.form == Form.FUZZ for part in pasty):
        return "Fuzz on the magnet."
    # dark paste belongs to a primary and to a final drive
    if KINDS[seen.reservoir].clutch or KINDS[seen.reservoir].hypoid:
        return ""
    return "Paste over more than half the magnet." if _covers(pasty) > _HALF else ""


def _d2(seen: Observation) -> Spoken:
    text = fine_steel(seen)
    if not text:
        return None
    again = KINDS[seen.reservoir].gears and seen.fine_last_time
    said = f"{text} So it was last time." if again else text
    return RuleSpoke(
        rule="D2",
        level=Level.WATCH if again else Level.NOTE,
        origin="more fine steel than usual",
        text=said,
    )


def _d3(seen: Observation) -> Spoken:
    if not any(_running_in(part, seen) for part in seen.parts):
        return None
    text = "Running-in: expected once. Look again next time."
    return RuleSpoke(rule="D3", level=Level.ROUTINE, origin="running-in", text=text)


def _d4(seen: Observation) -> Spoken:
    if not any(
        p.form == Form.SLIVERS and _steel(p) and not _running_in(p, seen) for p in seen.parts
    ):
        return None
    text = "Slivers one can feel, after running-in."
    return RuleSpoke(rule="D4", level=Level.WATCH, origin="a steel edge being cut", text=text)


def _d5(seen: Observation) -> Spoken:
    if not any(p.form == Form.FLAKES and _steel(p) for p in seen.parts):
        return None
    level = Level.WATCH if seen.first_service else Level.INVESTIGATE
    return RuleSpoke(rule="D5", level=level, origin="bearing or gear surface", text="Steel flakes.")


def _d6(seen: Observation) -> Spoken:
    for part in seen.parts:
        chip = part.form == Form.CHIPS and _steel(part)
        # a chip nobody measured is taken as large: the safe side
        if part.form == Form.FRAGMENTS and FAMILY[part.matter] != Family.PIECES:
            return RuleSpoke(
                rule="D6", level=Level.HOLD, origin="gear tooth or broken part", text="A fragment."
            )
        if chip and (part.largest_mm is None or part.largest_mm >= 2):
            return RuleSpoke(
                rule="D6",
                level=Level.HOLD,
                origin="gear tooth",
                text="A steel chip of 2 mm or more.",
            )
    if any(p.form == Form.CHIPS and _steel(p) for p in seen.parts):
        return RuleSpoke(
            rule="D6", level=Level.INVESTIGATE, origin="gear tooth", text="Small steel chips."
        )
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
        return RuleSpoke(
            rule="D7", level=Level.INVESTIGATE, origin=origin, text="Flakes that a magnet ignores."
        )
    few = all(
        part.count <= 5 if part.count is not None else part.share <= Decimal("0.05")
        for part in bright
    )
    if few:
        return RuleSpoke(
            rule="D7",
            level=Level.NOTE,
            origin=origin,
            text="A few bright specks that a magnet ignores.",
        )
    return RuleSpoke(
        rule="D7",
        level=Level.WATCH,
        origin=origin,
        text="Many bright specks that a magnet ignores.",
    )


def _d8(seen: Observation) -> Spoken:
    yellow = [part for part in seen.parts if FAMILY[part.matter] == Family.YELLOW]
    if not yellow:
        return None
    bronze = any(part.matter == Matter.BRONZE for part in yellow)
    origin = "bearing" if bronze else "bush or thrust washer"
    if any(_from(part, Form.FLAKES) for part in yellow):
        return RuleSpoke(rule="D8", level=Level.HOLD, origin=origin, text="Brass or bronze flakes.")
    return RuleSpoke(
        rule="D8", level=Level.INVESTIGATE, origin=origin, text="Brass or bronze specks."
    )


def _d9(seen: Observation) -> Spoken:
    primary = KINDS[seen.reservoir].clutch
    if not (primary or seen.wet_clutch):
        return None
    friction = [part for part in seen.parts if FAMILY[part.matter] == Family.FRICTION]
    paste = [part for part in seen.parts if part.form == Form.PASTE]
    stringy = any(part.form != Form.PASTE for part in friction)
    if stringy or (not primary and _covers(friction) > _HALF):
        text = "Heavy or stringy friction matter: clutch slipped or dragging."
        return RuleSpoke(rule="D9", level=Level.WATCH, origin="clutch plates", text=text)
    if not friction and not (primary and paste):
        return None
    return RuleSpoke(
        rule="D9", level=Level.ROUTINE, origin="clutch plates", text="Friction dust, always there."
    )


def _d10(seen: Observation) -> Spoken:
    if not KINDS[seen.reservoir].hypoid:
        return None
    if any(_from(part, Form.SLIVERS) and _steel(part) for part in seen.parts):
        return RuleSpoke(
            rule="D10",
            level=Level.INVESTIGATE,
            origin="crown wheel or pinion",
            text="Bits in the drive.",
        )
    return None


def _d11(seen: Observation) -> Spoken:
    if OilLook.MILKY not in seen.oil:
        return None
    level = Level.HOLD if KINDS[seen.reservoir].milky_is_grave else Level.INVESTIGATE
    return RuleSpoke(rule="D11", level=level, origin="water or coolant", text="Milky oil.")


def _d12(seen: Observation) -> Spoken:
    smells = (
        (OilLook.FUEL, Level.INVESTIGATE, "fuel past the rings or a stuck float", "Fuel smell."),
        (OilLook.SPARKLE, Level.INVESTIGATE, "fine metal in suspension", "Sparkle in the light."),
        (OilLook.BURNT, Level.WATCH, "heat", "Burnt smell."),
    )
    for look, level, origin, text in smells:
        if look in seen.oil:
            return RuleSpoke(rule="D12", level=level, origin=origin, text=text)
    return None


def _d13(seen: Observation) -> Spoken:
    if seen.seal_missing:
        text = "A piece of the old seal is missing: find it, clean the pick-up screen."
        return RuleSpoke(
            rule="D13", level=Level.WATCH, origin="sealant, gasket or O-ring", text=text
        )
    if not any(FAMILY[part.matter] == Family.PIECES for part in seen.parts):
        return None
    text = "Sealant or rubber: find the missing piece, clean the pick-up screen."
    return RuleSpoke(rule="D13", level=Level.WATCH, origin="sealant, gasket or O-ring", text=text)


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


_EXCUSED = ("D4", "D7")  # what a flaking dipstick can explain


def _lowered(rule: RuleSpoke) -> RuleSpoke:
    return replace(rule, level=Level(max(rule.level - 1, Level.ROUTINE)))


def _d14(seen: Observation, spoke: list[RuleSpoke]) -> list[RuleSpoke]:
    """A flaking plated dipstick in a gearbox explains bright scales, once."""
    kind = KINDS[seen.reservoir]
    bright = any(rule.rule in _EXCUSED for rule in spoke)
    if not (seen.dipstick_flakes and kind.gears and not kind.hypoid) or seen.excused or not bright:
        return spoke
    text = "The dipstick's plating flakes and may be where it comes from, this once. Fit a new one."
    milder = [_lowered(rule) if rule.rule in _EXCUSED else rule for rule in spoke]
    return [*milder, RuleSpoke(rule="D14", level=Level.NOTE, origin="plated dipstick", text=text)]


_LOOSE = (Place.PAN, Place.OIL)


def _d16(seen: Observation, judged: Callable[[Observation], list[RuleSpoke]]) -> list[RuleSpoke]:
    """What lay in a pan nobody had cleaned, or swam in the oil, may be another bike's: it counts for one
    level less. What sits on the plug stands."""
    spoke = judged(seen)
    loose = [part for part in seen.parts if part.place in _LOOSE]
    if seen.pan_clean is not False or not (loose or seen.oil):
        return spoke
    sure = replace(
        seen, parts=tuple(p for p in seen.parts if p.place not in _LOOSE), oil=frozenset()
    )
    stands = {rule.rule: rule for rule in judged(sure)}
    held = []
    for rule in spoke:
        unsure = rule if rule.level <= Level.NOTE else _lowered(rule)
        held.append(max(unsure, stands.get(rule.rule, unsure), key=lambda one: one.level))
    text = "The pan was not clean before: what lay in it or in the oil is unsure."
    return [*held, RuleSpoke(rule="D16", level=Level.NOTE, origin="the pan", text=text)]


def _d15(growing: Growth | None, level: Level) -> RuleSpoke | None:
    """One level up, at most to investigate, where a fault is more than half as likely as not."""
    if growing is None or not growing.alarms or level >= Level.INVESTIGATE:
        return None
    return RuleSpoke(
        rule="D15",
        level=Level(level + 1),
        origin="something may be growing",
        text=growing_words(growing),
    )


def _times(ratio: float) -> str:
    return f"{min(ratio, 999):.0f} times" if ratio >= 2 else f"{ratio:.1f} times"


@guarded
def growing_words(growing: Growth) -> str:
    """The chance as odds, with its two reasons."""
    likely = min(max(growing.said, 0.001), 0.999)
    odds = likely / (1 - likely)
    said = f"{odds:.0f} to 1" if odds >= 1.5 else f"1 to {1 / odds:.0f}" if odds < 0.67 else "even"
    form = f"what is seen is {_times(growing.form)} as likely with a fault growing as without"
    much = "" if growing.amount is None else f", its amount {_times(growing.amount)}"
    return f"Odds {said} that a fault is growing: {form}{much}."


@guarded
def chance_words(said: float) -> str:
    """``under 1 %``, ``21 %``: no finer than it is known."""
    held = min(max(said, 0.0), 1.0)
    if held < 0.01:
        return "under 1 %"
    return "over 99 %" if held > 0.99 else f"{held * 100:.0f} %"


CONFIRM = {
    "D2": "Wipe it, ride 500 km, look again.",
    "D4": "Run a finger over it: slivers prick. Cut the filter open and look between the folds.",
    "D5": "Cut the filter open. Turn the shaft by hand and listen.",
    "D6": "Look for the place the piece came from before anything turns again.",
    "D7": "Try a second, stronger magnet: what it holds is steel.",
    "D8": "Cut the filter open; brass and bronze stay in its folds.",
    "D9": "Measure the clutch's free play; smell the oil.",
    "D10": "Turn the wheel by hand: rough or notchy?",
    "D11": "A drop on a hot plate crackles if it is water. Look at the coolant's level. Run it warm "
    "and look again.",
    "D12": "Sniff it warm; hold it in the sun; send a sample to a laboratory.",
    "D13": "Count the pieces of the old seal. Clean the pick-up screen.",
    "D14": "Wipe a new dipstick's place clean and look again.",
    "D15": "Send a sample to a laboratory. Look again at half the interval.",
    "D16": "Drain into a clean pan next time.",
}


@guarded
def verdict(seen: Observation, growing: Growth | None = None) -> Verdict:
    """Judge an observation: the highest of the rules that speak, with all of them as its why and what
    would confirm it. ``growing`` is the chance of a growing fault, where it is known; it never says
    less than the other rules."""

    def judged(one: Observation) -> list[RuleSpoke]:
        return _d14(one, [answer for rule in RULES if (answer := rule(one))])

    spoke = _d16(seen, judged)
    plain = max((rule.level for rule in spoke), default=Level.NOTE)
    raised = _d15(growing, plain)
    spoke += [raised] if raised else []
    top = max(spoke, key=lambda rule: rule.level, default=None)
    level = max(plain, top.level) if top else Level.NOTE
    reasons = tuple(Reason(rule.rule, rule.text, Source.TRADE) for rule in spoke)
    tests = [CONFIRM[rule.rule] for rule in spoke if rule.level and rule.rule in CONFIRM]
    return Verdict(
        level=level,
        origin=top.origin if top else "not in the rules",
        action=ACTIONS[level],
        spoke=tuple(spoke),
        wear=wear_index(seen.parts, seen.km_since_wiped),
        reasons=reasons,
        confirm=tuple(dict.fromkeys(tests)),
    )
