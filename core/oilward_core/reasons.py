"""Every computed answer carries its why."""

from dataclasses import dataclass
from enum import StrEnum


class Source(StrEnum):
    """Where a rule comes from: a standard, the trade, our own definition, or the bike's manual."""

    STANDARD = "standard"
    TRADE = "common practice, no source"
    DEFINED = "our definition"
    DERIVED = "derived"
    MANUAL = "spec sheet"
    HISTORY = "this bike's history"


@dataclass(frozen=True)
class Reason:
    """One step of a why: the rule or formula, a sentence with its inputs, and its source."""

    rule: str
    text: str
    source: Source
