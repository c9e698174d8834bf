"""What is written down at a step and is no work on it: each kind of it, in the same shape as work."""

from typing import Any

from ..acts import Act
from . import hands, opens, stands, takes, waits

ASIDE_ACTS: tuple[Act[Any, Any], ...] = (
    *takes.ACTS,
    *waits.ACTS,
    *stands.ACTS,
    *opens.ACTS,
    *hands.ACTS,
)
