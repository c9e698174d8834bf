"""An entry as an earlier release stored it."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime
from typing import Any

Document = Mapping[str, Any]


@dataclass(frozen=True, kw_only=True)
class Written:
    """Kind and data as they stand in a row of then: a word, and JSON. ``description``: of which
    description of the work it is."""

    id: str
    step: str
    kind: str
    data: Document
    at: datetime
    by: str
    who: str
    description: int
    supersedes: str | None = None
