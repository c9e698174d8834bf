"""What is said at the bench: what was written down, how things stand, what is open, what stops."""

from collections.abc import Iterable, Mapping, Sequence
from decimal import Decimal
from typing import Any

from ..codes.bench import Sight, Stands
from ..codes.options import Lamp, Stood
from ..codes.poses import Pose
from ..codes.roles import Role
from ..codes.steps import WaitsFor
from ..debris import OilLook, Part, Place
from ..guard import whole_table
from ..quantity import show
from . import drained, options

DONE, SKIPPED, DRY = "done", "skipped", "dry"
LOOKED_TOO_SOON = "Looked at too soon: once more when it has stood."

STANDS: dict[Stands, str] = whole_table(
    Stands,
    {
        Stands.CLOSED: "closed",
        Stands.OUT: "out",
        Stands.LOOSE: "opened, loose",
        Stands.FINGER_TIGHT: "finger-tight only",
        Stands.PULLED: "pulled",
        Stands.TIGHT: "tight",
        Stands.LEAKING: "leaking",
        Stands.SEIZED: "seized",
        Stands.NEW: "new one on",
        Stands.UNPROVEN: "not proven",
        Stands.IN: "in",
        Stands.TORQUED: "torqued",
        Stands.OLD: "old one",
    },
)
PARTS = {
    Role.DRAIN_PLUG: "Drain plug",
    Role.FILL_PLUG: "Filler",
    Role.FILTER: "Filter",
    Role.LEVEL_PLUG: "Level plug",
    Role.COVER_SCREW: "Cover",
    "cover": "Cover",
}
WAITS: dict[WaitsFor, str] = whole_table(
    WaitsFor,
    {
        WaitsFor.PART: "a part",
        WaitsFor.COLD: "a cold engine",
        WaitsFor.ANSWER: "an answer",
        WaitsFor.ELSE: "something else",
    },
)
NOT_RIGHT_YET = "pulled, not right yet"
PULLED_NOT_DONE = "pulled, something still to do"
NOT_TORQUED = "not torqued"
TIGHT_BY_FEEL = "tight by feel"
NOT_CLOSED_YET = "not closed yet"
NOTHING_SEEN = "nothing to see"
NOT_PULLED = "Not pulled yet."
BY_FEEL = "by feel, without a wrench"
FIRST_PASS = "First pass: all of them to half."
SECOND_PASS = "Second pass: all of them to the full torque."
SECOND_LOOKS = "A second person looks at it and says so."
THREAD_FIRST = "Pulled too far: look at the thread first."
TORE = "tight, loose, tight: its ring tore"
ONE_PAIR_OF_EYES = "one pair of eyes"


def at_torque(stands: str, reading: str) -> str:
    """``torqued, 29.0 N·m``."""
    return f"{stands}, {reading}" if reading else stands


def still_to_tick(what: str) -> str:
    """What is done besides the pull, and was not yet."""
    return f"Still to do: {what[0].lower()}{what[1:]}."


def of_ring(pulled: str, *, half: bool, screw: int | None) -> str:
    """A pull at a ring of screws: all of them to half or full, or one alone."""
    if screw is not None:
        return f"screw {screw}: {pulled}"
    return f"all to half, {pulled}" if half else f"all of them, {pulled}"


def ticked(items: Sequence[str]) -> str:
    """What was done besides the pull."""
    return ", ".join(_called(code, options.TICKED) for code in items)


def looked_second(name: str, *, alone: bool) -> str:
    """Who stood for it beside whoever did it."""
    return f"{name} looked again ({ONE_PAIR_OF_EYES})" if alone else f"{name} looked at it"


TOO_FAR = "pulled too far"
OPENED_SINCE = "Opened since. Pull it again."


def part(one: Part) -> str:
    """``fuzz of steel, 10%, 2 mm high``; elsewhere ``flakes of steel, about 3 (filter)``."""
    much = f"{one.share:.0%}"
    if one.place != Place.PLUG and one.count:
        much = f"about {one.count}"
    pile = f", {one.pile_mm.normalize():f} mm high" if one.pile_mm else ""
    where = "" if one.place == Place.PLUG else f" ({one.place})"
    return f"{one.form} of {one.matter}, {much}{pile}{where}"


def finding(
    *,
    parts: Sequence[str],
    oil: Iterable[OilLook],
    pan_dirty: bool,
    dipstick: bool,
    seal: bool,
    kept: str,
    no_magnet: bool,
) -> str:
    """What a plug and its oil showed, in short; ``no_magnet``: of oil alone, or of bits found
    elsewhere."""
    also = (
        (pan_dirty, "pan not clean before"),
        (dipstick, "dipstick flakes"),
        (seal, "a piece of the seal missing"),
        (bool(kept), f"kept: {kept}"),
    )
    nothing = NOTHING_SEEN if no_magnet else "clean magnet"
    looks = [f"oil {look}" for look in oil]
    return "; ".join([*(parts or [nothing]), *looks, *(text for so, text in also if so)])


def volume(ml: Decimal, unit: str, brought_from: str = "") -> str:
    """An amount in ml and in the person's unit; ``brought_from``: as it was read, before it was
    brought to 20 °C."""
    base = f" at 20 °C ({brought_from})" if brought_from else ""
    own = "" if unit == "ml" else f" ({show(ml, unit)})"
    return f"{show(ml, 'ml')}{own}{base}"


def drawn(amount: str) -> str:
    """What was taken out."""
    return f"{amount} out"


def prefilled(amount: str) -> str:
    """What went into a filter."""
    return f"pre-filled {amount}" if amount else "not pre-filled"


def level(sight: Sight, position: Decimal, attitude: str, amount: str = "") -> str:
    """A reading of a gauge, or a look at an edge, with what ran out there."""
    unseen = {
        Sight.BELOW: "below the low mark",
        Sight.ABOVE: "above the high mark",
        Sight.RUNS_OUT: f"{amount or 'oil'} ran out at the edge",
        Sight.DRY: "dry at the edge",
    }
    between = f"{position:.0%} between the marks"
    return f"{unseen.get(sight, between)}, {options.pose(attitude)}"


def pulled(reading: str, turned: Decimal | None) -> str:
    """A reading of a wrench, and the angle after it."""
    return reading + (f", then {turned.normalize():f}°" if turned else "")


def turned_wrong(turned: Decimal, wanted: str) -> str:
    """An angle that is not what the manual says."""
    return f"Turned {turned.normalize():f}°; the manual says {wanted}."


def measured(found: Mapping[str, str], left: Mapping[str, str]) -> str:
    """``inlet 0.08 mm, left 0.10 mm``."""
    words = []
    for name in dict.fromkeys((*found, *left)):
        both = [found[name]] if name in found else []
        both += [f"left {left[name]}"] if name in left else []
        words.append(f"{name} {', '.join(both)}")
    return "; ".join(words)


def _called(code: str, *tables: Mapping[Any, str]) -> str:
    """What a code is called; one nobody knows says itself."""
    return next((words for table in tables for key, words in table.items() if key == code), code)


_CHOICES = (
    options.OPENS,
    options.SEALS,
    options.LOOKS,
    options.LAMPS,
    options.EMPTIED,
    options.THREADS,
    drained.STOOD,
)


def piece_missing(label: str) -> str:
    """A piece of the old seal is somewhere inside."""
    return (
        f"A piece of the {label}'s old seal is missing. Find it before anything runs, and say where it "
        "was; or that all of it is there."
    )


def chosen(value: str, stood: str) -> str:
    """``open; level as it came: lower half``."""
    said = _called(value, *_CHOICES)
    return f"{said}; level as it came: {_called(stood, drained.STOOD)}" if stood else said


_KEEPS_SHUT: dict[str, str] = {
    Stood.LOW: "Do not start it like this: top it up between the marks, then say so here.",
    Lamp.NOT_LIT: "Engine off. A light that does not come on would not warn: bulb, fuse or switch first.",
    Lamp.STAYED_ON: "Engine off. No pressure, as far as anybody can tell: oil, filter, switch.",
}


def keeps_shut(value: str) -> str:
    """What is to be done before the same is asked again."""
    return _KEEPS_SHUT.get(value, "")


def stands_though(result: str, expected: str) -> str:
    """What was asked about and stands."""
    return f"{result}; it stands, though {expected}"


def leak(place: str) -> str:
    """What a leak asks for."""
    return f"Leak at the {place.lower()}. Put it right, wipe, run, look again."


def fastener(role: str) -> str:
    """What a fastener is called at the bench."""
    return PARTS.get(role, role.capitalize())


def seized(label: str) -> str:
    """A filler that does not open."""
    return f"The {label}'s filler is seized. Do not drain it. Free it, or close the visit as it stands."


AIR_STILL_IN = "There is still air in it: the cap stays shut. Let it off until the gauge is at 0."


def leg_oil(poured: str, inside: str) -> str:
    """``492 ml poured, 474 ml in it``."""
    return f"{poured} poured, {inside} in it" if inside else f"{poured} poured"


LEG_SPRING, LEG_AIR = "Spring", "Air"


def at_least(length: str, least: str) -> str:
    """``290.0 mm, at least 285.0 mm``."""
    return f"{length}, at least {least}" if least else length


def left_at(found: str, left: str) -> str:
    """``102 mm, left at 112 mm``."""
    return f"{found}, left at {left}" if found else left


def beside(amount: str, more: bool) -> str:
    """One leg took another amount than the other one, at the same gap."""
    which = "more" if more else "less"
    return f"{amount} {which} than in the other leg at the same gap: what stayed in one of them?"


def off_book(percent: int, more: bool) -> str:
    """A leg took another amount than its sheet gives, at the right gap."""
    if more:
        return f"{percent} % more than the sheet gives, at its gap: another bore, or oil beside it?"
    why = "air in the cartridge, old oil left, or the spring still in?"
    return f"{percent} % less than the sheet gives, at its gap: {why}"


NO_AIR = "There is no air in it: pump it before the wheel goes in."
OTHER_SPRING_DONE = "The other leg's was done: both springs are renewed."
TUBE_DONE = "The seal will not hold on it, or it binds: straighten nothing, renew it."
GAP_ANEW = "Out with it, then read the gap again."


def as_read(values: Mapping[str, str]) -> str:
    """How a leg was set before it came out: `` As read: rebound 11 clicks, preload 4 lines.``"""
    return f" As read: {', '.join(f'{name} {value}' for name, value in values.items())}."


def start_with(amount: str) -> str:
    """How much a leg is begun with whose sheet gives no amount."""
    return f"Start with {amount}: what came out and 5 % more. The gap decides."


def median_of(took: str) -> str:
    """The middle of three times."""
    return f"The middle one: {took}."


def measured_before(values: Sequence[str]) -> str:
    """What was measured before, the newest first; empty where nothing was."""
    return f"Before: {', '.join(values[:3])}." if values else ""


def on_its_way(percent: int, limit: str) -> str:
    """How far a spring is on its way from new to its limit."""
    if percent <= 0:
        return "As long as new."
    share = "Half" if percent == 50 else f"{percent} %"
    return f"{share} of the way from new to its limit, {limit}."


def spring_short(limit: str) -> str:
    """A spring that is done."""
    return f"Under its limit, {limit}: both springs are renewed."


def springs_apart(length: str, longer: bool) -> str:
    """Two springs that are no pair."""
    than = "longer" if longer else "shorter"
    return f"{length} {than} than in the other leg: both springs are renewed."


OLD_OIL_STAYED = "Old oil had stayed in it."
RAN_OUT = "Oil ran out of it on the way."


def wrong_oil(label: str, fluid: str) -> str:
    """An oil went in that is refused there."""
    what = fluid or "What was chosen"
    return (
        f"{what} may not go into the {label}. Drain it again, all of it, before anything runs; or a lead "
        "says why it stays."
    )


def overfilled(label: str, added: str, book: str) -> str:
    """More is in than the book says it holds."""
    return f"{label.capitalize()}: {added} is in, and the book says {book}. A lead has to look."


def far_overfilled(label: str, added: str, book: str) -> str:
    """Far more is in than the book says it holds."""
    return (
        f"{label.capitalize()}: {added} cannot be in where the book says {book}. Correct the amount, or "
        "look the capacity up with its page."
    )


def left_here(reason: str) -> str:
    """A level that stands beside its target, inside its marks."""
    return f"Left inside the marks, not at the target: {reason}. Look at it next time."


HANDED_BACK = "it goes back to its owner, not to be ridden"


def done_although(title: str, why: Iterable[str]) -> str:
    """Something was done against a need."""
    return f"“{title}” was done although {'; '.join(why)}. Say what you found."


# why a reading is kept and not used
TOO_SHORT = "The engine ran too short. Kept, not used. Correct the run, then read again."
ENGINE_OFF = "Read with the engine off; this one is read idling. Kept, not used. Read again."


TANK_BEFORE = "Before the engine has run, this one tells nothing. Kept, not used."
RUNNING_DOWN = (
    "Read while the oil was still running down. Kept, not used. Give it a minute, look again."
)


def wrong_attitude(read: str, gauge: str, wanted: str) -> str:
    """Read with the bike standing otherwise."""
    return (
        f"Read {options.pose(read)}; this {gauge} is read {options.pose(wanted)}. Kept, not used. "
        "Stand it right and read again."
    )


def hurt(label: str, pulled: str) -> str:
    """A thread that was pulled too far (empty: nobody knows how far), and does not look good."""
    after = f" after {pulled}" if pulled else ""
    return (
        f"{label.capitalize()}: its thread is hurt{after}. Mend it, and a lead says how; or hand the "
        "bike back, not to be ridden."
    )


def on_a_lift(wanted: str) -> str:
    """Read on a lift, of which nobody knows yet how far it is out."""
    return (
        f"A lift that tilts the bike reads wrong. Kept, not used. Read it {options.pose(wanted)} too, "
        "with nothing poured between: how far the lift is out is learned."
    )


def tilted(share: Decimal, seen: int, stands: Decimal) -> str:
    """Read on a lift of which it is known how far it is out."""
    way = "high" if share >= 0 else "low"
    return (
        f"On the lift this bike reads {abs(share) * 100:.0f}% of the glass too {way}, as seen {seen} "
        f"times: counted as {stands * 100:.0f}%."
    )


def too_soon(minutes: str) -> str:
    """Read before it had settled."""
    return f"Read before it had settled for {minutes}. Kept, not used. Read again."


def will_rise(amount: str) -> str:
    """Cold oil on marks for warm oil."""
    return f"Read colder than its marks are for: warm, {amount} more will stand there. Counted so."


def too_late(minutes: str) -> str:
    """Read after oil had drained back, or gone cold."""
    return (
        f"Read more than {minutes} after the engine stopped: the oil stands otherwise by then. Kept, "
        "not used. Run it again, then read."
    )


def strapped(pose: Pose, is_strapped: bool) -> str:
    """``upright, strapped down``."""
    return f"{options.stands(pose)}, {'strapped down' if is_strapped else 'not strapped'}"


def waits_for(what: WaitsFor, words: str) -> str:
    """``a part: crush washer 12 mm``."""
    if what == WaitsFor.ELSE:
        return words
    return ": ".join(text for text in (WAITS[what], words) if text)


def waiting(words: str) -> str:
    """What a visit waits for, as the ward says it."""
    return f"Waits for {words}"


def needs_hands(by: str) -> str:
    """Somebody calls for a second pair of hands."""
    return f"{by} needs a second pair of hands"


SIGN, STOPPED = "Sign", "Stopped"


def about(labels: Sequence[str]) -> str:
    """What a visit is about: its reservoirs by name, the first three of many."""
    more = f" and {len(labels) - 3} more" if len(labels) > 3 else ""
    return ", ".join(labels[:3]) + more


# open points
ENGINE_RUNS = "the engine runs; stop it before you go"
TILTED = "the bike is tilted, not strapped; nobody goes under it"


def apart(label: str) -> str:
    """Something is off the bike."""
    return f"{label}: apart; nobody sits on the bike"


def draining(label: str) -> str:
    """Oil runs out."""
    return f"{label}: draining; the pan stays under it"


def empty(label: str) -> str:
    """No oil is in."""
    return f"{label}: no oil in; nobody starts the engine"


def not_right_yet(label: str) -> str:
    """The level is not right yet."""
    return f"{label}: level not right yet"


def open_fastener(label: str, name: str, stands: str) -> str:
    """A fastener that must not be forgotten."""
    return f"{label}: {name.lower()} {stands}"


# how a reservoir stands
OIL, FOUND, WORK, AIR_GAP = "Oil", "Found", "Work", "Air gap"
OLD_OIL, DRAINING, EMPTY = "old oil in", "draining", "drained, empty"
OPENED, NOT_LOOKED_AT = "opened", "not looked at"


def short_by(amount: str) -> str:
    """Its plug was closed early: so much is missing."""
    return f"short by {amount}"


def oil_right(amount: str) -> str:
    """The level is right."""
    return f"level right, {amount} in"


def oil_in(amount: str) -> str:
    """Some is in."""
    return f"{amount} in, level not right yet"


def disagreed(cause: str) -> str:
    """Why what a reservoir took is not learned from."""
    return f"Gauge and book disagreed. Named as the cause: {cause}"
