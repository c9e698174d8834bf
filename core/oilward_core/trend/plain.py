"""A finding in plain words, for whoever owns the bike. Common practice, no source."""

from ..debris import Level
from ..guard import guarded, whole_table

_NORMAL = "The magnet on its drain plug catches the fine steel every engine and gearbox sheds."
SENTENCES: dict[Level, str] = whole_table(
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


@guarded
def owner_words(label: str, level: Level, origin: str) -> str:
    """``Gearbox: there was … It most likely comes from a bearing.``"""
    whence = f" It most likely comes from: {origin}." if level >= Level.WATCH and origin else ""
    name = label[:1].upper() + label[1:]
    return f"{name}: {_NORMAL} {SENTENCES[level]}{whence}"
