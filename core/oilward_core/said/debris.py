"""What is said of a finding: signs, likely origins, what to do, what would confirm it."""

from collections.abc import Sequence

from ..codes.debris import Level, LevelWord, Rule
from ..guard import whole_table

ACTIONS: dict[Level, str] = whole_table(
    Level,
    {
        Level.ROUTINE: "Wipe the magnet and go on.",
        Level.NOTE: "Wipe the magnet, keep the note, compare next time.",
        Level.WATCH: "Look again at half the interval.",
        Level.INVESTIGATE: "Keep oil and debris. Get a second opinion before the next long ride.",
        Level.HOLD: "Do not run it. Keep oil and debris, and call the lead.",
    },
)
LEVELS: dict[LevelWord, str] = whole_table(LevelWord, {word: word.value for word in LevelWord})
# likely origins
NORMAL = "normal wear"
FINE = "more fine steel than usual"
RUNNING_IN = "running-in"
EDGE = "a steel edge being cut"
SURFACE = "bearing or gear surface"
TOOTH, TOOTH_OR_PART = "gear tooth", "gear tooth or broken part"
LIGHT = "casting flash, clutch plates"
BEARING, BUSH = "bearing", "bush or thrust washer"
COATING, LEG_BUSH, IN_A_LEG = "coating of the tube or a bush", "bush", "tube, spring or piston"
OVERLAY = "bearing overlay or piston"
CHAIN = "chain, tensioner or compensator"
CLUTCH = "clutch plates"
CROWN_WHEEL = "crown wheel or pinion"
WATER = "water or coolant"
FUEL_FROM = "fuel past the rings or a stuck float"
FINE_METAL = "fine metal in suspension"
HEAT = "heat"
SEAL = "sealant, gasket or O-ring"
DIPSTICK = "plated dipstick"
PAN = "the pan"
GROWING = "something may be growing"
NOT_IN_THE_RULES = "not in the rules"
# signs
CLEAN, USUAL_PASTE = "Clean magnet.", "Grey paste, the usual amount."
FUZZ = "Fuzz on the magnet."
STEEL_SPECKS = "Bright specks on the magnet."
DARK_PASTE = "Dark paste: usual in a final drive, however much."
MUCH_PASTE = "Paste over more than half the magnet."
EXPECTED_ONCE = "Running-in: expected once. Look again next time."
SLIVERS = "Slivers one can feel, after running-in."
STEEL_FLAKES = "Steel flakes."
FRAGMENT = "A fragment."
BIG_CHIP, SMALL_CHIPS = "A steel chip of 2 mm or more.", "Small steel chips."
BRIGHT_FLAKES = "Flakes that a magnet ignores."
FEW_SPECKS = "A few bright specks that a magnet ignores."
MANY_SPECKS = "Many bright specks that a magnet ignores."
YELLOW_FLAKES, YELLOW_SPECKS = "Brass or bronze flakes.", "Brass or bronze specks."
STRINGY = "Heavy or stringy friction matter: clutch slipped or dragging."
FRICTION = "Friction dust, always there."
BITS = "Bits in the drive."
MILKY = "Milky oil."
FUEL, SPARKLE, BURNT = "Fuel smell.", "Sparkle in the light.", "Burnt smell."
SEAL_MISSING = (
    "A piece of the old seal is missing: find it before the engine runs, clean the pick-up screen."
)
SEAL_PIECES = "Sealant or rubber: find the missing piece, clean the pick-up screen."
DIPSTICK_FLAKES = (
    "The dipstick's plating flakes and may be where it comes from, this once. Fit a new one."
)
PAN_NOT_CLEAN = "The pan was not clean before: what lay in it or in the oil is unsure."

CONFIRM: dict[Rule, str] = {
    Rule.FINE: "Wipe it, ride 500 km, look again.",
    Rule.SLIVERS: "Run a finger over it: slivers prick. Cut the filter open and look between the "
    "folds.",
    Rule.FLAKES: "Cut the filter open. Turn the shaft by hand and listen.",
    Rule.CHIPS: "Look for the place the piece came from before anything turns again.",
    Rule.BRIGHT: "Try a second, stronger magnet: what it holds is steel.",
    Rule.YELLOW: "Cut the filter open; brass and bronze stay in its folds.",
    Rule.CLUTCH: "Measure the clutch's free play; smell the oil.",
    Rule.HYPOID: "Turn the wheel by hand: rough or notchy?",
    Rule.MILKY: "A drop on a hot plate crackles if it is water. Look at the coolant's level. Run it "
    "warm and look again.",
    Rule.LOOKS: "Sniff it warm; hold it in the sun; send a sample to a laboratory.",
    Rule.SEALS: "Count the pieces of the old seal. Clean the pick-up screen.",
    Rule.DIPSTICK: "Wipe a new dipstick's place clean and look again.",
    Rule.GROWING: "Send a sample to a laboratory. Look again at half the interval.",
    Rule.PAN: "Drain into a clean pan next time.",
}


def all_of(origins: Sequence[str]) -> str:
    """Several likely origins."""
    return "; ".join(origins)


def seldom(sign: str) -> str:
    """A sign that means less here, by what was seen before."""
    return f"{sign} By all that was seen here before, a fault that grows is unlikely."


def again(sign: str) -> str:
    """A sign that was there last time too."""
    return f"{sign} So it was last time."


def _times(ratio: float) -> str:
    return f"{min(ratio, 999):.0f} times" if ratio >= 2 else f"{ratio:.1f} times"


def _odds(likely: float) -> str:
    odds = likely / (1 - likely)
    return f"{odds:.0f} to 1" if odds >= 1.5 else f"1 to {1 / odds:.0f}" if odds < 0.67 else "even"


def growing(likely: float, form: float, amount: float | None) -> str:
    """A chance as odds, with its two reasons: how many times likelier form and amount are with a fault
    growing than without."""
    seen = f"what is seen is {_times(form)} as likely with a fault growing as without"
    much = "" if amount is None else f", its amount {_times(amount)}"
    return f"Odds {_odds(likely)} that a fault is growing: {seen}{much}."


def chance(likely: float) -> str:
    """``under 1 %``, ``21 %``: no finer than it is known."""
    if likely < 0.01:
        return "under 1 %"
    return "over 99 %" if likely > 0.99 else f"{likely * 100:.0f} %"


def origin_of_bike(label: str, origin: str, action: str) -> str:
    """A finding that holds a visit."""
    return f"{label.capitalize()}: {origin}. {action}"


def in_short(level: str, action: str) -> str:
    """A finding at its step."""
    return f"{level.capitalize()}: {action}"


# what would change a verdict
def magnet(held: bool, form: str) -> str:
    """Were it the other way with a magnet."""
    return f"If a magnet {'ignores' if held else 'holds'} the {form}"


NO_BIG_CHIP, ONE_BIG_CHIP = "If no chip is 2 mm or longer", "If a chip is 2 mm or longer"
NO_LONG_SLIVER = "If no sliver is longer than 1 mm"
SLIVERS_NOT_FLAKES = "If they are slivers, not flakes"
NO_WATER = "If no drop crackles on a hot plate"
PAN_WAS_DIRTY = "If the pan was not clean before"
PLATING_FLAKES = "If the dipstick's plating flakes"


def then(when: str, level: str) -> str:
    """What a finding would be said to be then."""
    return f"{when}: {level}."
