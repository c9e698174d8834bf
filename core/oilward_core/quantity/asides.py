"""What is printed beside an amount and is none: a rule's *every*, *approx.* behind it, how it was read.

Only these words, each in its own place; whatever else stands beside an amount is refused by the grammar.
Notations are common practice, no source.
"""

import re
from dataclasses import dataclass
from decimal import Decimal
from typing import Literal

from .units import Kind

FilterAside = Literal["", "with filter", "without filter"]

_ABOUT = re.compile(r" ?\(?(?:approx(?:imately)?|about|ca|circa|roughly)\.?\)?$")
# the words of a language that writes ten thousand with a dot
_EVERY = re.compile(r"^(?:alle|tous les) (?=\d)")
_DOTTED = re.compile(r"(?<![\d.,])\d{1,3}(?:\.\d{3})+(?![\d.,])")
_FILTER = re.compile(
    r" ?\(?(?:(?P<with>incl(?:uding|usive of|\.)?|with|w/)|(?P<without>excl(?:uding|\.)?|without|w/o))"
    r" ?(?:an? |the |new )?(?:oil )?filter(?: change| element)?\)?$"
)
_COLD = re.compile(r" ?\(?cold\)?$")
_AT = re.compile(r" ?(?:\(|\bat |@ ?)(?P<number>\d{1,3}(?:[.,]\d)?) ?°? ?c\)?$")
_CLOCK = re.compile(r"^(\d{1,3}) ?h ?([0-5]\d)$")


@dataclass(frozen=True)
class Aside:
    """What stood beside an amount: whether a filter is counted in, and at how many °C it was measured."""

    filter: FilterAside = ""
    celsius: Decimal | None = None


def aside(said: str, kind: Kind | None) -> tuple[str, Aside]:
    """A plain text (`plain.plain`) without what is printed beside its amount, and what that was."""
    if _EVERY.match(said):
        said = _DOTTED.sub(lambda match: match.group().replace(".", ""), _EVERY.sub("", said))
    found = Aside()
    if kind in (Kind.VOLUME, None) and (match := _FILTER.search(said)):
        said = said[: match.start()]
        found = Aside(filter="with filter" if match["with"] else "without filter")
    elif kind in (Kind.PRESSURE, None) and _COLD.search(said):
        said = _COLD.sub("", said)
    elif kind == Kind.VISCOSITY and (match := _AT.search(said)):
        said = said[: match.start()]
        found = Aside(celsius=Decimal(match["number"].replace(",", ".")))
    if kind in (Kind.TIME, None):
        said = _CLOCK.sub(lambda match: f"{match[1]} h {int(match[2])} min", said)
    # only behind an amount: “about” alone is nobody's amount
    if re.search(r"\d", said):
        said = _ABOUT.sub("", said)
    return said.rstrip(" .,;:") if found != Aside() else said, found
