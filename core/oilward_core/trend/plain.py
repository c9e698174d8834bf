"""A finding in plain words, for whoever owns the bike. Common practice, no source."""

from ..debris import Level
from ..guard import guarded
from ..said import wear as say


@guarded
def owner_words(label: str, level: Level, origin: str) -> str:
    """``Gearbox: there was … It most likely comes from: a bearing.``"""
    return say.to_the_owner(label, level, origin if level >= Level.WATCH else "")
