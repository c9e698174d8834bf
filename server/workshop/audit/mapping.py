"""What was written down of a change, in words."""

import re
from typing import Any

# what it is, where the name behind it does not say so by itself
_KINDS = {
    "bike": "", "person": "", "tablet": "", "model": "", "owner": "", "workshop": "the workshop",
    "sheet": "spec sheet", "calendar": "calendar",
}  # fmt: skip
_CODE = re.compile(r"[0-9a-f-]{36}")


def about_words(about: str) -> str:
    """``Grey Heron, engine, capacity, with filter`` for ``bike/Grey Heron/engine//capacity.with filter``:
    a value has its place in a sheet, behind whose it is."""
    first, *rest = [part for part in about.split("/") if part] or [""]
    rest = [*rest[:2], *(part.replace(".", ", ") for part in rest[2:])]
    kind = _KINDS.get(first)
    if kind is None:
        return ", ".join((first, *rest))
    # an id that nobody knows a name for says nothing
    rest = [part for part in rest if not _CODE.fullmatch(part)]
    if kind.endswith("sheet"):
        kind, rest = " ".join((kind, *rest[:1])), rest[1:]
    return ", ".join(filter(None, (kind, *rest)))


def was_words(was: dict[str, Any]) -> str:
    """What stood there before: what each is called, and what it was."""
    return "; ".join(f"{_key(key)}: {_said(value)}" for key, value in was.items() if value != "")


def _key(key: str) -> str:
    """What a column, or a place in a sheet, is called."""
    place = key.replace(".", ", ").replace("_", " ")
    return ", ".join(part for part in place.split("/") if part)


def _said(value: Any) -> str:
    return ", ".join(map(str, value)) if isinstance(value, list) else str(value)
