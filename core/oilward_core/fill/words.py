"""What the coach says, in a person's unit and in bottles."""

from decimal import Decimal

from ..quantity import bottle_words, convert, show
from ..said import fill as said
from .belief import Belief
from .coach import Advice


def say(advice: Advice, unit: str, bottle_ml: Decimal | None = None) -> str:
    """The advice in words: ml, the person's ``unit``, and how much of the bottle in hand.

    ``Pour 330 ml (11.2 fl oz): 330 ml of a 1 l bottle.``
    """
    if advice.action == "done":
        return said.done(show(advice.added, "ml"))
    if advice.action == "read":
        return said.read(show(advice.added, "ml"))
    if advice.action == "stop":
        return said.DISAGREE
    if advice.again:
        return said.drain_again(show(advice.ml, "ml"))
    pours = advice.action == "pour"
    own = show(advice.ml, unit) if unit != "ml" else ""
    of_bottle = bottle_words(advice.ml, bottle_ml) if bottle_ml and pours else ""
    return said.move(pours, show(advice.ml, "ml"), own, of_bottle)


def say_belief(belief: Belief, unit: str) -> str:
    """The belief in words: ``I expect 2.62 ± 0.06 l in all.``; an exact quantity is no belief."""
    shown = "l" if unit == "ml" else unit
    if not belief.sd:
        return said.all_of(show(Decimal(round(belief.mean)), unit))
    mean, sd = (convert(Decimal(round(value)), shown) for value in (belief.mean, belief.sd))
    return said.belief(f"{mean:.2f}", f"{sd:.2f}", shown)
