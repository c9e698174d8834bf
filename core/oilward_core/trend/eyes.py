"""How eyes differ, kindly said: no eye is wrong, each writes in its own hand."""

from dataclasses import dataclass

from ..debris import Eye
from ..guard import Sound, guarded

LEAST_GRADED = 15  # findings before an eye is spoken of [def]
NEAR = 1.15  # times, either way: about the same


@dataclass(frozen=True, kw_only=True)
class EyeWords(Sound):
    """How one eye reads beside the others' in this workshop."""

    fuzz: float
    slivers: float
    amount: float
    words: str


def _oftener(factor: float, what: str) -> str:
    if 1 / NEAR <= factor <= NEAR:
        return f"{what} as often as the others"
    if factor > 1:
        return f"{what} {factor:.1f} times as often"
    return f"{what} {1 / factor:.1f} times less often"


@guarded
def eye_words(eye: Eye, anybody: Eye, graded: int) -> EyeWords:
    """What may be said of how somebody reads plugs, beside everybody of the workshop: what they write
    more or less often, and how much of it. Nobody is spoken of on fewer than fifteen plugs."""
    fuzz, slivers = eye.fuzz / anybody.fuzz, eye.slivers / anybody.slivers
    amount = 10.0 ** (eye.offset - anybody.offset)
    if graded < LEAST_GRADED:
        words = f"{graded} plugs read: too few to say how this eye differs."
        return EyeWords(fuzz=fuzz, slivers=slivers, amount=amount, words=words)
    much = "about as much" if 1 / NEAR <= amount <= NEAR else f"{amount:.1f} times as much"
    said = [_oftener(fuzz, "fuzz"), _oftener(slivers, "slivers")]
    words = f"Sees {said[0]}, {said[1]}; writes {much} of what lies there. Of {graded} plugs."
    return EyeWords(fuzz=fuzz, slivers=slivers, amount=amount, words=words)
