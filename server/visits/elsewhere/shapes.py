"""What was done without a run sheet, as the API takes it."""

from dataclasses import dataclass, field
from typing import Literal

from workshop.shapes import upto

What = Literal["service", "top-up"]


@dataclass(frozen=True, kw_only=True)
class Elsewhere:
    """A service or a top-up that no run sheet led through: by the owner, in another workshop, from an
    old invoice. ``id`` is the client's, ``done_on`` the day, ``odometer`` what it showed then and
    ``amount`` what went in, both as typed; ``by`` did it, ``proof`` says so (empty: only a word);
    ``sure``: the answers to earlier questions."""

    id: str
    what: What
    reservoir: str = upto(40, blank=True)
    done_on: str = upto(40, blank=True)
    odometer: str = upto(200, blank=True)
    fluid: str = upto(80, blank=True, default="")
    amount: str = upto(200, blank=True, default="")
    by: str = upto(60, blank=True, default="")
    proof: str = upto(200, blank=True, default="")
    sure: list[str] = field(default_factory=list)
