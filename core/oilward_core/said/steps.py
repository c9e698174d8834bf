"""What jobs and steps are called, and what they tell."""

from collections.abc import Sequence
from dataclasses import dataclass

from ..codes.roles import Role
from ..codes.steps import JobKind, Name
from ..guard import whole_table
from .options import stands


@dataclass(frozen=True)
class Words:
    """A step's title and what it tells."""

    title: str
    text: str

    def of(self, **facts: str) -> "Words":
        """With the facts put in."""
        return Words(self.title.format(**facts), self.text.format(**facts))


_PULL = "One slow pull, hand in the middle of the grip.{crow_foot}{then}"
STEPS: dict[Name, Words] = whole_table(
    Name,
    {
        Name.LOOK_UP: Words(
            "Look up: {what}",
            "The spec sheet does not say.{example} Name the document and the page.",
        ),
        Name.COLD: Words("Cold checks", "Look the bike over before the engine is warm."),
        Name.CAME: Words(
            "The level as it came",
            "Before it is started: bike {stands}, {look}.{cold} Below low it is topped up "
            "first.{left}",
        ),
        Name.TOPPED: Words(
            "How much was topped up?",
            "Into the {label}, before it was started. It counts as what was in.",
        ),
        Name.VALVES: Words(
            "Valve clearances, engine cold six hours",
            "As found, then as left. Where nothing was changed, as found is enough.",
        ),
        Name.TYRES: Words(
            "Tyre pressures, cold",
            "As found, then as left. Where nothing was changed, as found is enough.",
        ),
        Name.WARM: Words("Warm it up", "{how}"),
        Name.SUPPORT: Words(
            "Support the bike", "Upright on its stand or the lift, and strapped down."
        ),
        Name.FILLER: Words(
            "Prove the filler opens",
            "Clean round it, crack it open, leave it loosely in place. If it will not open, do not "
            "drain.{left}",
        ),
        Name.SAMPLE: Words(
            "Have a sample bottle ready for the {label}",
            "Its last plug asked to be watched. Let the first third run, catch the middle of the "
            "stream, close and label it.",
        ),
        Name.DRAIN: Words(
            "Drain the {label}",
            "Break the plug loose, pan under, last turns by hand. Wait until dripping has stopped.",
        ),
        Name.MEASURE: Words(
            "Measure what came out",
            "Pour it into the jug, or weigh it. Less: burnt or leaked. More: overfilled, water, fuel.",
        ),
        Name.INSPECT: Words(
            "Read the plug",
            "Look at magnet and oil before anything is wiped. Then clean the magnet.",
        ),
        Name.ALL_OUT: Words(
            "Is it all out?",
            "Much less came out than was in. Still dripping, the wrong plug, or shut again before it had "
            "run empty? If the jug was misread, put the amount right.",
        ),
        Name.RAN_OUT: Words("What ran out?", "{what} {opened}. What is gone of what was in?"),
        Name.WASHER: Words(
            "Seal on the plug", "{seal}: {school}. The old one must be off the case."
        ),
        Name.REFIT: Words(
            "Refit the plug by hand",
            "On the threads: {sealant}. Start it with the fingers. Tight, loose, tight again is a "
            "seal tearing: out with it.",
        ),
        Name.TORQUE: Words("Torque the plug", _PULL),
        Name.THREAD: Words(
            "Look at the thread",
            "{pulled}. Take it out, look at both threads and the face before anything else.",
        ),
        Name.COVER: Words(
            "Close the cover", "Joint clean, gasket or seal looked at, then its screws.{torque}"
        ),
        Name.FILTER: Words("Change the filter", "{how}"),
        Name.ELEMENT: Words("Change the {what}", "{how}"),
        Name.TORQUE_LEVEL: Words(
            "Torque the level plug",
            _PULL,
        ),
        Name.TORQUE_COVER: Words("Close the {what}", "All screws by hand first.{crow_foot}{then}"),
        Name.TORQUE_FILTER: Words("Torque the {what}", _PULL),
        Name.TORQUE_FILLER: Words("Torque the filler", _PULL),
        Name.CIRCUIT: Words(
            "Change the {label} filter",
            "Mind which way round it sits.{direction} Cover back on:{tight}",
        ),
        Name.FILL: Words("Fill", "Measure it, pour slowly."),
        Name.CLOSE: Words(
            "Close the filler",
            "Before anything runs. A cap by hand; a plug by hand until the level is right.",
        ),
        Name.LAMP: Words(
            "Start it, watch the oil light",
            "Neutral. Lit with the ignition, out within five seconds of the start: if not, stop the "
            "engine. Then leave it running.",
        ),
        Name.RUN: Words(
            "Run the engine",
            "Neutral. Oil light on with the ignition, out within seconds: if not, stop the "
            "engine.{then}",
        ),
        Name.SETTLE: Words("Let it settle", "Engine off, bike {stands}. The oil has to run down."),
        Name.LEVEL: Words("Read the level", "{engine} {stands}, {look}.{latest}"),
        Name.WHEEL_OUT: Words(
            "Lift the front, wheel and brake off",
            "Front lifted and held, calliper hung up by a strap, never by its hose.",
        ),
        Name.LEG_SET: Words(
            "{label}: read its adjusters, mark its height",
            "Before anything is slackened. Damping: in until it stops, counting, and out again. Preload: "
            "its lines, or its turns.{sheet}",
        ),
        Name.LEG_AIR: Words(
            "{label}: write its air down, let it off",
            "Wheel in the air. Read the gauge, let all of it off, read again: the cap stays shut until "
            "the gauge is at 0.",
        ),
        Name.LEG_OUT: Words(
            "{label}: take it out",
            "Preload backed off. Slacken the upper pinch bolt where there is one, then the cap while the "
            "lower bridge holds the leg, then the lower bolts. Face away from the cap.",
        ),
        Name.LEG_DRAIN: Words(
            "{label}: open it, pour out, hang it to drip",
            "Stroke it over the pan until nothing comes, then hang it upside down.",
        ),
        Name.LEG_SPRING: Words(
            "{label}: measure its spring",
            "Free, on a flat bench, wiped.{sheet} Renewed: its own length as found, the new one's as "
            "left.",
        ),
        Name.LEG_TUBE: Words(
            "{label}: look along the tube",
            "Clean it, feel for pits and scores where the seal runs, roll it on V-blocks.",
        ),
        Name.LEG_SEALS: Words(
            "{label}: seals and bushes",
            "Clip and dust seal off with the tube's face covered. A new seal goes on over tape, oiled, "
            "lips the way the old ones looked, and is driven home square.",
        ),
        Name.LEG_FILL: Words("{label}: fill a little over, stroke the air out", "{how}"),
        Name.LEG_GAP: Words(
            "{label}: draw down to the air gap, close it",
            "Leg collapsed, spring out: {wanted}both legs alike unless the sheet says otherwise.",
        ),
        Name.LEG_STAYED: Words(
            "{label}: what stayed in it?",
            "{odd} Look for the cause before it is closed.",
        ),
        Name.LEG_IN: Words(
            "{label}: put it back",
            "To its mark in the bridge. Lower bolts first, then the cap, the upper bolt last, each by "
            "the manual's value.",
        ),
        Name.LEG_PRESSURE: Words(
            "{label}: pump it",
            "Leg extended, wheel in the air, its cap torqued.{sheet} Read the gauge with the pump still "
            "on: taking it off loses its own air, not the leg's.",
        ),
        Name.LEG_BACK: Words(
            "{label}: set it as it was", "Damping from closed, preload by its lines or turns.{read}"
        ),
        Name.TORQUE_LEG: Words("Torque the {what}", _PULL),
        Name.WHEEL_IN: Words(
            "Front wheel and brake on",
            "Axle in, brake on and pumped until it is hard, the fork stroked with the brake held, then "
            "the axle's pinch bolts: each by the manual's value.",
        ),
        Name.TORQUE_WHEEL: Words("Torque the {what}", _PULL),
        Name.STROKE: Words(
            "Pump the brake, stroke the fork",
            "Pump until the lever is hard. Let the front down on its wheel and stroke the fork a few "
            "times, brake held: the legs find their place on the axle before its pinch bolts hold it.",
        ),
        Name.WHEEL_LOOKED: Words(
            "A second person looks at axle and brake",
            "Axle and pinch bolts torqued, callipers on, the lever hard, the wheel turns free.",
        ),
        Name.SHOCK_FELT: Words(
            "Feel and time the {label}",
            "Weight off the wheel: how far do its bushes give? Weight on: push it down all the way, let "
            "go, and time it until it stands still, three times.{gas} Nothing of it is opened.",
        ),
        Name.LOOK: Words("Look at the {label}", "{how}"),
        Name.LEAKS: Words(
            "Look for leaks",
            "Wipe everything first, run it briefly, look again at each place. Strapped down before "
            "anybody goes under it.",
        ),
        Name.STANDS: Words("Let it stand", "Engine off. What creeps out shows by and by."),
        Name.LEAKS_AGAIN: Words(
            "Look for leaks again",
            "After it stood, after the ride, or the next day: each place once more, and the ground "
            "under it.",
        ),
        Name.FINISH: Words("Finish", "{reset}"),
    },
)
BY_HAND = Words("Tighten the plug", "No wrench here: as the manual says, and no more.")
DRAIN_AGAIN = Words("Drain it again", "All of it out, and measured.")
TOP_UP, DRAW_OFF = "Top up", Words("Draw the excess off", "Take out what the coach says, measured.")

JOBS: dict[JobKind, str] = whole_table(
    JobKind,
    {
        JobKind.COLD_CHECKS: "Look it over cold, lay out",
        JobKind.COLD: "{label}",
        JobKind.WARM_UP: "Warm it up, let it cool a little",
        JobKind.SUPPORT: "Support it, strap it down",
        JobKind.PROVE_FILLER: "Prove the {label} filler opens",
        JobKind.DRAIN: "Drain the {label}",
        JobKind.READ_PLUG: "Measure, read the {label} plug",
        JobKind.REFIT: "New seal, {label} plug in by hand",
        JobKind.TORQUE: "Torque the {label} plug",
        JobKind.FILTER: "Change the {label} filter",
        JobKind.CIRCUIT_FILTER: "Change the {label} filter, look at spring and seal",
        JobKind.FILL: "Fill the {label}",
        JobKind.RUN: "Run the engine, watch the oil light",
        JobKind.SETTLE: "{label} settles",
        JobKind.LEVEL: "Read the {label} level",
        JobKind.TORQUE_FILLER: "Torque the {label} filler",
        JobKind.LEAKS: "Look for leaks",
        JobKind.LEAKS_AGAIN: "Look for leaks again",
        JobKind.FINISH: "Finish, waste oil, sign",
        JobKind.WHEEL_OUT: "Lift the front, wheel and brake off",
        JobKind.LEG_OUT: "{label}: take it out",
        JobKind.LEG_DRAIN: "{label}: open it, pour out, hang it to drip",
        JobKind.LEG_LOOK: "{label}: look it over, in parts",
        JobKind.LEG_FILL: "{label}: fill a little over, stroke the air out",
        JobKind.LEG_GAP: "{label}: draw down to the air gap, close it",
        JobKind.LEG_IN: "{label}: put it back",
        JobKind.WHEEL_IN: "Front wheel and brake on",
        JobKind.LOOK: "Look at the {label}",
    },
)


def step(name: Name, **facts: str) -> Words:
    """A step's title and text."""
    return STEPS[name].of(**facts) if facts else STEPS[name]


def job(kind: JobKind, label: str = "") -> str:
    """What a job is called."""
    return JOBS[kind].format(label=label)


def cold_job(name: Name) -> str:
    """What a job on the cold engine is called."""
    return STEPS[name].title


def pulled_too_far(amount: str) -> str:
    """How far it was pulled, where anybody knows."""
    return (
        f"{amount} is over its torque by far" if amount else "Pulled too far, nobody knows how far"
    )


FILTER_COVER, FILTER_ITSELF = "filter cover", "filter"  # what of a filter is torqued
READ_ALL = " Every plug of it."
NO_MAGNET = Words("Look at plug and oil", "Look at both before anything is wiped. No magnet here.")
LEG_OIL = Words(
    "{label}: look at its oil",
    "Into a clean tray. Grey is usual; flakes of a coating, brass or bits are not.",
)
LEG_CAME_OUT = Words(
    "{label}: measure what came out",
    "Into the jug: what it gave says what it wants, and what was in.",
)
WASH_SCREEN = "Out, looked at before it is washed, held against the light, back in."


def in_order(order: Sequence[int]) -> str:
    """In what order screws are pulled, and that it takes two passes."""
    return f" Screws {' '.join(map(str, order))}: once round to half, once round to full."


def at_part(title: str, part: str) -> str:
    """A step's title, where its reservoir has several of what it is about."""
    return f"{title}: {part}"


FILTER_BY_WRENCH = "the wrench comes next"


def spun_on(then: str, prefill: str, direction: str) -> str:
    """A filter that is spun on."""
    return f"Oil the new gasket.{prefill}{direction} Spin to contact, {then}."


def element(tight: str, direction: str) -> str:
    """A filter behind a cover; ``tight``: how tight that is, where no wrench comes next."""
    closed = f"Cover on: {tight}." if tight else "Cover on by hand, its screws next."
    return f"Mind the way it sits, its spring and its seat; new one in.{direction} {closed}"


def cover(part: str) -> str:
    """What a cover is called: by its screws in the sheet."""
    return part.removesuffix(" screws").removesuffix(" screw")


def of_several(what: str, part: str) -> str:
    """``filter cover (second filter)``."""
    return f"{what} ({part})" if part else what


def filter_by_hand(turn: str) -> str:
    """How far a filter is turned on that no wrench tightens."""
    return f"then {turn}. By hand only"


IDLE_AIR = (
    "Five minutes at idle, no more: no wind cools it; or a short ride. Then a few minutes to cool. Warm "
    "oil carries the dirt out."
)
IDLE = "Ten minutes at idle or a short ride, then a few minutes to cool. Warm oil carries the dirt out."
_RIDE = "A ride of ten to fifteen minutes, then a few to cool: idling does not warm {what}."


def ride(labels: list[str]) -> str:
    """What idling does not warm wants a ride."""
    return _RIDE.format(what=" or ".join(f"the {label}" for label in labels))


def example(hint: str) -> str:
    """How a value to look up is typed."""
    return f" Type it as it stands there, like {hint}." if hint else ""


_UNCHECKED = "Nobody has checked {what} against the manual. Look at it yourself."


def unchecked(what: str) -> str:
    """A value that no second person has checked."""
    return _UNCHECKED.format(what=what)


_ONE_PAIR = "One pair of eyes alone has checked {what}. Look at it yourself."


def one_pair(what: str) -> str:
    """A value that whoever wrote it compared alone."""
    return _ONE_PAIR.format(what=what)


def crow_foot(length: str, angle: str) -> str:
    """That the plug is only reached with an adapter, and how that stands to the handle."""
    way = "in line with" if angle == "0" else f"at {angle}° to"
    return f" With the {length} mm crow-foot, {way} the handle."


def sentence(text: str) -> str:
    """Something the sheet says, as a sentence of its own behind another."""
    return f" {text[0].upper()}{text[1:]}." if text else ""


def as_written(text: str) -> str:
    """Something the sheet says, as a sentence of its own, in small letters but its first."""
    return f" {text.capitalize()}." if text else ""


def prefill(amount: str) -> str:
    """How much a filter is filled before it goes on."""
    return f" Pre-fill about {amount}."


NOT_SAID = "as the manual says"


def cover_tight(text: str) -> str:
    """How tight a cover is."""
    return f" {text}." if text else f" {NOT_SAID}."


def sealant(manual: str) -> str:
    """The manual's own word for a thread."""
    return f"{manual}, as the manual says"


SEAL = "Seal"
THEN_IDLES = " Leave it running: the level is read at idle."


def engine(idles: bool) -> str:
    """How the engine is while a level is read."""
    return "Engine idling, bike" if idles else "Bike"


def edge(name: str, stands: str) -> str:
    """How a level plug, or an overflow, is looked at."""
    return (
        f"Bike {stands}. Pan under it, open the {name}. What is too much runs out: wait until it only "
        "drips, and measure what came. Dry: more goes in."
    )


def left_last(why: str) -> str:
    """That its level was left where it stood last time."""
    return f" Last time it was left where it stood: {why}."


def cold_at_warm_marks(amount: str) -> str:
    """By how much oil that is still cold stands lower at marks for a warm engine."""
    return f" These marks are for warm oil: cold it stands about {amount} lower."


def latest(minutes: str) -> str:
    """By when it has to be read."""
    return f" No later than {minutes} after the engine stopped: then the oil stands otherwise."


def look_at(gauge: str, held: str, *, drawn: bool) -> str:
    """How a gauge is read: a glass at eye level; one that is ``drawn`` is wiped and seated as its sheet
    says before."""
    if not drawn:
        return f"eye level with the {gauge}"
    return f"wipe the {gauge}, seat it {held or NOT_SAID}, draw it: the lowest wet edge counts"


def reading(gauge: str, held: str, stands_so: str, *, drawn: bool) -> str:
    """How the bike stands while a gauge is looked at, and how that is read."""
    return f"{stands(stands_so)}, {look_at(gauge, held, drawn=drawn)}"


HOLDS_UPRIGHT = "holds it upright while you read"
HOLDS_FRONT = "holds the front while the axle comes out"
HOLDS_WHEEL = "holds the wheel up while the axle goes in, then looks at axle and brake"


def leg_fill(book: str, over: str) -> str:
    """How much goes into a leg; ``over``: that with 10 mm of level more, where its bore is known."""
    if over:
        return f"Pour {over}: the sheet's {book}, and 10 mm of level more. The rest is drawn down."
    if book:
        return f"The sheet gives {book}; a little over, the rest is drawn down."
    return "As the manual says, and a little over: the rest is drawn down."


def leg_amount(book: str) -> str:
    """How much goes into a leg that is set by quantity."""
    given = f"The sheet gives {book}. " if book else ""
    return f"{given}Measure all of it; air, cartridge and cap by the manual. Then close it."


def by_the_sheet(*told: str) -> str:
    """What the sheet gives, at the end of a sentence: `` The sheet: 350 mm new, 343 mm at the least.``"""
    there = [one for one in told if one]
    return f" The sheet: {', '.join(there)}." if there else ""


LIKE_SETTING = "12 clicks"
OVER_BRIDGE = "{} over the bridge"
NEW_LENGTH, LEAST_LENGTH, AIR_AT_20 = "{} new", "{} at the least", "{} at 20 °C"


def gap_wanted(gap: str) -> str:
    """The air gap the sheet gives."""
    return f"{gap} by the sheet, " if gap else ""


READ_GAS = " Gas at its valve, as the sheet allows: {} at 20 °C."
LOOK_AT_SHOCK = "Shaft, seal and damping. A rebuild or a charge is a specialist's work."
LOOK_AT_MARKS = "Bike upright, at eye level. As found, and as left."
LOW_FLUID = "Low brake fluid usually means worn pads or a leak: look for which."


def resets(written: list[str]) -> str:
    """How the service indicator is reset."""
    if written:
        return f"Service indicator: {'; '.join(written)}."
    return "Service indicator reset as the manual says."


LEAKED, OPENED = "let oil out", "was out again"
OUT_AGAIN: dict[Role, str] = {
    Role.DRAIN_PLUG: "The plug is out again",
    Role.FILTER: "The filter is off again",
    Role.COVER_SCREW: "The cover is off again",
}
LEAK_AT = {
    Role.DRAIN_PLUG: "Plug",
    Role.FILTER: "Filter",
    Role.FILL_PLUG: "Filler",
    "cover": "Cover",
}


def of_leg(part: str, label: str) -> str:
    """What holds a leg or the wheel in it: ``upper pinch bolt, fork, left``."""
    return f"{part}, {label}"


def leak_place(part: str, label: str, several: bool) -> str:
    """Somewhere oil can get out."""
    word = LEAK_AT.get(part, "") or cover(part).capitalize()
    return f"{label.capitalize()}: {word.lower()}" if several else word


def tip_at(reservoir: str, fastener: str) -> str:
    """``the engine's drain plug``: what a tip is about."""
    return f"the {reservoir}'s {fastener}"


def where(place: str, drive: str) -> str:
    """A fastener's place, and what opens it."""
    return f"{place} · {drive}"
