"""How the second description of the work put things: its words were what was stored. They stay as they
were, whatever is said today."""

import re

from ...codes.facts import Fact
from ...codes.fill import Cause
from ...codes.options import Draw, Look, Seal, Tick
from ...codes.roles import Role
from ...codes.steps import Name

UNMET: dict[Fact, str] = {
    Fact.DONE: "“{label}” is not done",
    Fact.PROVEN: "the {label}'s filler is not proven",
    Fact.SHUT: "the {label} is not closed below",
    Fact.FULL: "the {label} is not filled",
    Fact.FILLERS_SHUT: "the {label}'s filler is open",
    Fact.RAN: "the engine has not run for the {label}'s level",
    Fact.POURED: "nothing is poured into the {label} yet",
    Fact.RIGHT: "the {label}'s level is not right",
    Fact.STRAPPED: "the bike is not strapped down",
}
# what each step was called, ``{label}`` standing for its reservoir
TITLES: dict[str, tuple[str, ...]] = {
    Name.COLD: ("Cold checks",),
    Name.VALVES: ("Valve clearances, engine cold six hours",),
    Name.TYRES: ("Tyre pressures, cold",),
    Name.WARM: ("Warm it up",),
    Name.SUPPORT: ("Support the bike",),
    Name.FILLER: ("Prove the filler opens",),
    Name.SAMPLE: ("Have a sample bottle ready for the {label}",),
    Name.DRAIN: ("Drain the {label}",),
    Name.MEASURE: ("Measure what came out",),
    Name.INSPECT: ("Read the plug",),
    Name.WASHER: ("Seal on the plug",),
    Name.REFIT: ("Refit the plug by hand",),
    Name.TORQUE: ("Torque the plug", "Tighten the plug"),
    Name.FILTER: ("Change the filter",),
    Name.CIRCUIT: ("Change the {label} filter",),
    Name.FILL: ("Fill", "Top up", "Draw the excess off"),
    Name.CLOSE: ("Close the filler",),
    Name.RUN: ("Run the engine",),
    Name.SETTLE: ("Let it settle",),
    Name.LEVEL: ("Read the level",),
    Name.WHEEL_OUT: ("Lift the front, wheel and brake off",),
    Name.LEG_OUT: ("{Label}: take it out",),
    Name.LEG_DRAIN: ("{Label}: open it, pour out, hang it to drip",),
    Name.LEG_FILL: ("{Label}: fill a little over, stroke the air out",),
    Name.LEG_GAP: ("{Label}: draw down to the air gap, close it",),
    Name.LEG_IN: ("{Label}: put it back",),
    Name.WHEEL_IN: ("Front wheel and brake on",),
    Name.LOOK: ("Look at the {label}",),
    Name.LEAKS: ("Look for leaks",),
    Name.FINISH: ("Finish",),
}
OPTIONS: dict[str, str] = {
    "turned over": Seal.TURNED,
    "reused, looks good": Seal.REUSED_GOOD,
    "reused, nothing else there": Seal.REUSED_ONLY,
    "dry and firm": Look.FIRM,
    "oil on the shaft": Look.OILY,
    "damping is gone": Look.SOFT,
    "could not be seen": Look.UNSEEN,
    "between the marks": Look.BETWEEN,
    "low, topped up between the marks": Look.TOPPED_UP,
    "low, left as found": Look.LOW_LEFT,
    "above the mark": Look.ABOVE,
}
DRAWS: dict[str, str] = {"from the top": Draw.TOP, "at the drain plug": Draw.PLUG}
CAUSES: dict[str, Cause] = {
    "Old oil left in: was everything drained?": Cause.OLD_OIL,
    "Bike in the wrong attitude for the gauge.": Cause.ATTITUDE,
    "Read too soon: oil still running down.": Cause.TOO_SOON,
    "Leak, or the drain plug is not in.": Cause.LEAK,
    "Wrong capacity or unit on the spec sheet.": Cause.CAPACITY,
    "Filter not counted, or amount typed wrong.": Cause.NOT_COUNTED,
    "Amount poured typed wrong.": Cause.AMOUNT,
    "Gauge misread, or dipstick seated differently.": Cause.MISREAD,
    "Bike not standing as the spec sheet asks.": Cause.NOT_AS_ASKED,
}
_TICKS: dict[str, Tick] = {
    "No fresh oil under the bike": Tick.NO_LEAK,
    "Tools, seals and oil laid out": Tick.LAID_OUT,
    "Pan is clean": Tick.PAN_CLEAN,
    "Stands upright": Tick.UPRIGHT,
    "Strapped down": Tick.STRAPPED,
    "Clean bottle at hand, labelled": Tick.BOTTLE,
    "Runs in by hand to contact": Tick.BY_HAND,
    "Old gasket came off with the old filter": Tick.GASKET,
    "Spring and seal looked at": Tick.SPRING,
    "New filter in, right way round": Tick.WAY_ROUND,
    "Cover tight": Tick.COVER,
    "Filler closed": Tick.FILLER,
    "Waste oil in the container": Tick.WASTE,
    "Bike wiped down": Tick.WIPED,
    "Front is held and cannot tip": Tick.FRONT_HELD,
    "Wheel out, calliper hung up": Tick.WHEEL_OUT,
    "Cap loosened, leg out": Tick.LEG_OUT,
    "In to its mark": Tick.LEG_IN,
    "Cap and pinch bolts torqued": Tick.LEG_TORQUED,
    "Axle and pinch bolts torqued": Tick.AXLE,
    "Brake lever is hard": Tick.LEVER,
    "A second person has looked at axle and brake": Tick.SECOND_PERSON,
}
_TORQUED = re.compile(r"(?:(?P<whose>.+): )?[Ff]ill plug torqued to ")
LEAKS: dict[str, str] = {
    "plug": Role.DRAIN_PLUG,
    "filter": Role.FILTER,
    "filler": Role.FILL_PLUG,
    "cover": "cover",
}
# how fasteners were said to stand
STANDS: dict[str, str] = {
    "closed": "closed",
    "out": "out",
    "opened, loose": "loose",
    "finger-tight only": "finger tight",
    "pulled": "pulled",
    "pulled, not right yet": "pulled",
    "tight": "tight",
    "leaking": "leaking",
    "seized": "seized",
    "new one on": "new",
    "not proven": "unproven",
    "in": "in",
    "torqued": "torqued",
    "old one": "old",
}
PARTS: dict[str, str] = {
    "Drain plug": Role.DRAIN_PLUG,
    "Filler": Role.FILL_PLUG,
    "Filter": Role.FILTER,
    "Cover": "cover",
}


def tick(words: str) -> str:
    """The code of what was ticked; words nobody knows stay as they are."""
    if words.startswith("Tightened: "):
        return Tick.TIGHTENED
    torqued = _TORQUED.match(words)
    if torqued:
        return f"{Tick.FILLER_TORQUED}:{(torqued['whose'] or '').lower()}"
    return _TICKS.get(words, words)


def titles(name: str, label: str) -> tuple[str, ...]:
    """What a step can have been called."""
    return tuple(
        title.format(label=label, Label=label.capitalize()) for title in TITLES.get(name, ())
    )
