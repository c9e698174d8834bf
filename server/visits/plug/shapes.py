"""What the API takes to judge a plug while it is being read."""

from dataclasses import dataclass, field
from typing import Any

from workshop.shapes import upto


@dataclass(frozen=True)
class PlugSoFar:
    """A plug as read so far, at one of the visit's steps. Nothing of it is kept."""

    step: str = upto(200)
    data: dict[str, Any] = field(default_factory=dict)
