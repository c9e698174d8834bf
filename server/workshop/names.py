"""What is called how. Who has things with names says so here, so that a page below can name them."""

import re
from collections.abc import Callable, Iterable
from uuid import UUID

Knows = Callable[[set[UUID]], dict[UUID, str]]
Finds = Callable[[str], Iterable[UUID]]
_who: list[Knows] = []
_finds: list[Finds] = []
_ID = re.compile(r"[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}")


def knows(who: Knows) -> None:
    """From now on ``who`` is asked what these ids are called; it leaves out what is none of its own."""
    _who.append(who)


def finds(who: Finds) -> None:
    """From now on ``who`` is asked what has a word in its name."""
    _finds.append(who)


def with_word(word: str) -> list[str]:
    """The ids of all that has a word in its name."""
    return [str(key) for who in _finds for key in who(word)]


def named(texts: Iterable[str]) -> list[str]:
    """The same texts with names in the place of ids, where somebody knows one."""
    told = list(texts)
    ids = {UUID(found) for text in told for found in _ID.findall(text)}
    names = {str(key): name for who in _who for key, name in who(ids).items()} if ids else {}
    return [_ID.sub(lambda found: names.get(found[0], found[0]), text) for text in told]
