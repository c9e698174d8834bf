"""What is said of wear over time: of a group of bikes, of an eye that reads plugs, to an owner."""

from ..codes.debris import Level
from ..guard import whole_table

NORMAL = "The magnet on its drain plug catches the fine steel every engine and gearbox sheds."
TO_THE_OWNER: dict[Level, str] = whole_table(
    Level,
    {
        Level.ROUTINE: "What we found is what a healthy one shows. Nothing to do.",
        Level.NOTE: "There was a little more than usual. That happens; we wrote it down and compare "
        "it next time.",
        Level.WATCH: "There was something we want to see again soon, so the next look comes at half "
        "the interval. Ride on, and tell us of any new noise.",
        Level.INVESTIGATE: "There were bits that a healthy one does not shed. Please let us look "
        "further before the next long ride.",
        Level.HOLD: "Something has broken or is about to. It must not be ridden until it has been "
        "looked into.",
    },
)
AS_MUCH = "about as much"


def to_the_owner(label: str, level: Level, origin: str) -> str:
    """``Gearbox: … It most likely comes from: a bearing.``"""
    name = label[:1].upper() + label[1:]
    whence = f" It most likely comes from: {origin}." if origin else ""
    return f"{name}: {NORMAL} {TO_THE_OWNER[level]}{whence}"


def how_many(bikes: int, findings: int) -> str:
    """What a claim rests on."""
    of = "1 bike" if bikes == 1 else f"{bikes} bikes"
    return f"{of}, 1 finding" if findings == 1 else f"{of}, {findings} findings"


def too_few(seen: str) -> str:
    """Nothing may be claimed."""
    return f"Too few to say anything: {seen}."


def times_the_others(ratio: float, low: float, high: float, differs: bool, seen: str) -> str:
    """A group's wear beside the others'."""
    times = f"{ratio:.1f} times the others' wear ({low:.1f} to {high:.1f})"
    return f"{times}, {seen}." if differs else f"No difference to be seen: {times}, {seen}."


def as_often(what: str) -> str:
    """An eye that writes it as the others do."""
    return f"{what} as often as the others"


def oftener(what: str, times: float) -> str:
    """An eye that writes it more often."""
    return f"{what} {times:.1f} times as often"


def less_often(what: str, times: float) -> str:
    """An eye that writes it less often."""
    return f"{what} {times:.1f} times less often"


def much(times: float) -> str:
    """How much of what lies there an eye writes."""
    return f"{times:.1f} times as much"


def few_read(plugs: int) -> str:
    """An eye of which too little is known."""
    return f"{plugs} plugs read: too few to say how this eye differs."


def eye(fuzz: str, slivers: str, much: str, plugs: int) -> str:
    """How an eye reads."""
    return f"Sees {fuzz}, {slivers}; writes {much} of what lies there. Of {plugs} plugs."


def beside_kind(times: float, inside: bool) -> str:
    """One bike beside its kind."""
    where = "within" if inside else "outside"
    return f"Its middle is {times:.1f} times its kind's, {where} where eight in ten lie."
