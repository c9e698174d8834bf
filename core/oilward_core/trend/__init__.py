"""Findings over time: what the eye sees in a row of plugs, and what may be claimed of it."""

from .claims import Claim, compare_groups
from .ewma import Controlled, controlled, ewma, ewma_limits
from .eyes import EyeWords, eye_words
from .plain import owner_words
from .wear import Band, Lean, band, beside_kind, charted, lean, wear_of

__all__ = [
    "Band",
    "Claim",
    "Controlled",
    "EyeWords",
    "Lean",
    "band",
    "beside_kind",
    "charted",
    "compare_groups",
    "controlled",
    "ewma",
    "ewma_limits",
    "eye_words",
    "lean",
    "owner_words",
    "wear_of",
]
