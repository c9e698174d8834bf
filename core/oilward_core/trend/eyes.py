"""How eyes differ, kindly said: no eye is wrong, each writes in its own hand."""

from dataclasses import dataclass

from ..debris import Eye
from ..guard import Sound, guarded
from ..said import wear as say

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
        return say.as_often(what)
    if factor > 1:
        return say.oftener(what, factor)
    return say.less_often(what, 1 / factor)


@guarded
def eye_words(eye: Eye, anybody: Eye, graded: int) -> EyeWords:
    """What may be said of how somebody reads plugs, beside everybody of the workshop: what they write
    more or less often, and how much of it. Nobody is spoken of on fewer than fifteen plugs."""
    fuzz, slivers = eye.fuzz / anybody.fuzz, eye.slivers / anybody.slivers
    amount = 10.0 ** (eye.offset - anybody.offset)
    if graded < LEAST_GRADED:
        words = say.few_read(graded)
        return EyeWords(fuzz=fuzz, slivers=slivers, amount=amount, words=words)
    much = say.AS_MUCH if 1 / NEAR <= amount <= NEAR else say.much(amount)
    words = say.eye(_oftener(fuzz, "fuzz"), _oftener(slivers, "slivers"), much, graded)
    return EyeWords(fuzz=fuzz, slivers=slivers, amount=amount, words=words)
