"""What is chosen and ticked at a step, and how a bike stands."""

from ..codes.options import (
    Draw,
    Emptied,
    Lamp,
    LegSeals,
    Look,
    Lost,
    Opens,
    Seal,
    Stayed,
    Thread,
    Tick,
    Tube,
)
from ..codes.poses import Pose
from ..guard import whole_table

OPENS: dict[Opens, str] = whole_table(Opens, {Opens.OPEN: "open", Opens.SEIZED: "seized"})
ON_A_LIFT = "on a lift"  # which tilts it, as likely as not
THREADS: dict[Thread, str] = whole_table(
    Thread, {Thread.GOOD: "good, both of them", Thread.HURT: "hurt"}
)
LAMPS: dict[Lamp, str] = whole_table(
    Lamp,
    {
        Lamp.WENT_OUT: "out within five seconds",
        Lamp.NOT_LIT: "was not lit with the ignition",
        Lamp.STAYED_ON: "stayed on",
        Lamp.LEVEL_ONLY: "shows the level only",
        Lamp.NO_LAMP: "has none",
    },
)
EMPTIED: dict[Emptied, str] = whole_table(
    Emptied,
    {
        Emptied.ALL_OUT: "all of it is out",
        Emptied.CLOSED_EARLY: "plug closed early, the rest is still in",
    },
)
LOST: dict[Lost, str] = whole_table(
    Lost,
    {
        Lost.TIGHTENED: "nothing, only tightened",
        Lost.NOT_OUT: "it was not out after all",
        Lost.NOTHING: "nothing but what was in the filter",
        Lost.SOME: "some ran out",
        Lost.ALL: "all of it",
    },
)


def lost(how: Lost, amount: str) -> str:
    """How much is gone: ``300 ml ran out``."""
    return f"{amount} ran out" if amount else LOST[how]


SEALS: dict[Seal, str] = whole_table(
    Seal,
    {
        Seal.NEW: "new",
        Seal.TURNED: "turned over",
        Seal.REUSED_GOOD: "reused, looks good",
        Seal.REUSED_ONLY: "reused, nothing else there",
    },
)
LOOKS: dict[Look, str] = whole_table(
    Look,
    {
        Look.FIRM: "dry and firm",
        Look.OILY: "oil on the shaft",
        Look.SOFT: "damping is gone",
        Look.LOOSE: "play in its bushes",
        Look.GAS_OFF: "gas off today's figure",
        Look.UNSEEN: "could not be seen",
        Look.BETWEEN: "between the marks",
        Look.TOPPED_UP: "low, topped up between the marks",
        Look.LOW_LEFT: "low, left as found",
        Look.ABOVE: "above the mark",
    },
)
TUBES: dict[Tube, str] = whole_table(
    Tube,
    {
        Tube.SMOOTH: "straight and smooth",
        Tube.POLISHED: "fine marks, polished out",
        Tube.NEW: "a new one fitted",
        Tube.SCORED: "pitted or scored where the seal runs",
        Tube.BENT: "bent on the V-blocks",
    },
)
LEG_SEALS: dict[LegSeals, str] = whole_table(
    LegSeals,
    {
        LegSeals.RENEWED: "oil seal, dust seal and clip new",
        LegSeals.BUSHES_TOO: "seals, clip and bushes new",
        LegSeals.STAY: "dry and soft, bushes good: they stay",
    },
)
STAYED: dict[Stayed, str] = whole_table(
    Stayed,
    {
        Stayed.AIR: "air was in it: stroked out, gap read again",
        Stayed.SPRING_IN: "the spring was in: out, gap read again",
        Stayed.OLD_OIL: "old oil had stayed in",
        Stayed.BORE: "the sheet's bore or amount is wrong",
        Stayed.RIGHT_SO: "looked at again: it is right so",
    },
)
DRAWS: dict[Draw, str] = whole_table(
    Draw, {Draw.TOP: "from the top", Draw.PLUG: "at the drain plug"}
)
TICKS: dict[Tick, str] = whole_table(
    Tick,
    {
        Tick.NO_LEAK: "No fresh oil under the bike",
        Tick.LAID_OUT: "Tools, seals and oil laid out",
        Tick.PAN_CLEAN: "Pan is clean",
        Tick.UPRIGHT: "Stands upright",
        Tick.STRAPPED: "Strapped down",
        Tick.BOTTLE: "Clean bottle at hand, labelled",
        Tick.BY_HAND: "Runs in by hand to contact",
        Tick.NEW_ONE: "A new plug: this one is used once",
        Tick.TIGHTENED: "Tightened: {text}",
        Tick.GASKET: "Old gasket came off with the old filter",
        Tick.SCREEN: "Screen washed, looked through, back in",
        Tick.LOCKER: "On the threads: {text}",
        Tick.NEW_SCREWS: "New ones: these are used once",
        Tick.WIRE: "Safety wire on, it pulls to the tight side",
        Tick.SPRING: "Spring and seal looked at",
        Tick.WAY_ROUND: "New filter in, right way round",
        Tick.COVER: "Cover tight",
        Tick.JOINT: "Joint clean, gasket or seal looked at",
        Tick.FILLER: "Filler closed",
        Tick.FILLER_TORQUED: "{whose} plug torqued to {text}",
        Tick.WASTE: "Waste oil in the container",
        Tick.WIPED: "Bike wiped down",
        Tick.FRONT_HELD: "Front is held and cannot tip",
        Tick.WHEEL_OUT: "Wheel out, calliper hung up",
        Tick.UPPER_LOOSE: "Upper pinch bolt slackened",
        Tick.CAP_LOOSE: "Cap loosened while the lower bridge holds the leg",
        Tick.LOWER_LOOSE: "Lower pinch bolts slackened",
        Tick.PRELOAD_OFF: "Preload backed off",
        Tick.LEG_OUT: "Leg out",
        Tick.LEG_IN: "In to its mark",
        Tick.LEG_TORQUED: "Cap and pinch bolts torqued",
        Tick.SETTINGS_BACK: "Adjusters back where they were read",
        Tick.HEIGHT_BACK: "Tube stands over the bridge as before",
        Tick.AXLE: "Axle and pinch bolts torqued",
        Tick.WHEEL_FREE: "Axle in, brake on, the wheel turns free",
        Tick.STROKED: "Fork stroked with the brake held",
        Tick.LEVER: "Brake lever is hard",
        Tick.SECOND_PERSON: "A second person has looked at axle and brake",
    },
)
TICKED: dict[Tick, str] = {
    Tick.JOINT: "joint looked at",
    Tick.NEW_SCREWS: "new ones",
    Tick.LOCKER: "threads treated",
    Tick.WIRE: "safety wire on",
}
POSES: dict[Pose, str] = whole_table(
    Pose,
    {
        Pose.UPRIGHT: "upright",
        Pose.SIDE_STAND: "side stand",
        Pose.LIFTED: "lifted",
        Pose.TILTED: "tilted",
    },
)


def tick(code: Tick, **facts: str) -> str:
    """What is ticked."""
    return TICKS[code].format(**facts)


def pose(code: str) -> str:
    """How a bike stands, as a choice; what is no pose says itself."""
    return POSES[Pose(code)] if code in tuple(Pose) else code


def stands(code: str) -> str:
    """How a bike stands, in a sentence: ``on the side stand``."""
    return "on the side stand" if code == Pose.SIDE_STAND else pose(code)
