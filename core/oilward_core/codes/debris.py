"""What plugs and oil show, how grave that is, and what came of it. Codes."""

from enum import IntEnum, StrEnum

from ..guard import whole_table


class Form(StrEnum):
    """Shape of the debris, from the most harmless up."""

    PASTE = "paste"
    FUZZ = "fuzz"
    SPECKS = "specks"
    SLIVERS = "slivers"
    FLAKES = "flakes"
    CHIPS = "chips"
    FRAGMENTS = "fragments"


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
# whether the growth filter looks at it: what falls off a bearing or a gear; the rest is other rules'
COUNTED: dict[Family, bool] = whole_table(
    Family,
    {
        Family.FERROUS: True,
        Family.LIGHT: False,
        Family.YELLOW: True,
        Family.FRICTION: False,
        Family.PIECES: False,
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


class Place(StrEnum):
    """Where debris was found."""

    PLUG = "plug"
    OIL = "oil"
    PAN = "pan"
    FILTER = "filter"
    SCREEN = "screen"
    LEG = "leg"


# where bits can be, the usual place first: a fork leg has neither plug nor filter
AT_A_PLUG = (Place.PLUG, Place.OIL, Place.PAN, Place.FILTER, Place.SCREEN)
IN_A_LEG = (Place.LEG,)


class Warmth(StrEnum):
    """How warm oil is to a gloved hand, where nobody holds a thermometer into it."""

    COLD = "cold"
    WARM = "hand-warm"
    HOT = "hot"


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


class Outcome(StrEnum):
    """What came of looking into a finding."""

    NOTHING = "nothing found"
    FAULT = "a fault was found, and put right"
    LIFTED = "lifted"
    HANDED_BACK = "handed back, not to be ridden"
    HANDED_OUT = "handed out to a specialist"
    TOPPED_UP = "topped up"


class Rule(StrEnum):
    """The rules a finding is judged by: D of plugs and oil, L of looks."""

    USUAL = "D1"
    FINE = "D2"
    RUN_IN = "D3"
    SLIVERS = "D4"
    FLAKES = "D5"
    CHIPS = "D6"
    BRIGHT = "D7"
    YELLOW = "D8"
    CLUTCH = "D9"
    HYPOID = "D10"
    MILKY = "D11"
    LOOKS = "D12"
    SEALS = "D13"
    DIPSTICK = "D14"
    GROWING = "D15"
    PAN = "D16"
    LOW_LEFT = "L1"
    LOW_TOPPED_UP = "L2"
    ABOVE = "L3"
    COOLANT_TOPPED_UP = "L4"
    COOLANT_LOW_AGAIN = "L5"
    COOLANT_LEFT = "L6"
    SHAFT_OILY = "L7"
    DAMPING_GONE = "L8"
    BUSH_PLAY = "L9"
    GAS_OFF = "L10"
