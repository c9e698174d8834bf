"""What the coach says, in a person's unit and in bottles."""

from collections.abc import Iterator
from decimal import Decimal

from ..quantity import Kind, bottle_words, convert, parse_single, show
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
        if not advice.runs:
            return said.settle(show(advice.added, "ml"))
        return said.read(show(advice.added, "ml"), advice.enough)
    if advice.action == "look":
        return said.look(show(advice.added, "ml"), advice.enough)
    if advice.action == "stop":
        mean = show(Decimal(round(advice.belief.mean)), "ml")
        return said.disagree(show(advice.added, "ml"), mean)
    if advice.again:
        return said.drain_again(show(advice.ml, "ml"))
    pours = advice.action == "pour"
    own = show(advice.ml, unit) if unit != "ml" else ""
    of_bottle = bottle_words(advice.ml, bottle_ml) if bottle_ml and pours else ""
    return said.move(pours, show(advice.ml, "ml"), own, of_bottle)


_LITTLE = 1000  # ml: less is poured, and said, in ml


def say_belief(belief: Belief, unit: str) -> str:
    """The belief in words: ``I expect 2.62 ± 0.06 l in all.``; an exact quantity is no belief."""
    if not belief.sd:
        return said.all_of(show(Decimal(round(belief.mean)), unit))
    if unit in ("ml", "l") and belief.mean < _LITTLE:
        return said.belief(f"{belief.mean:.0f}", f"{max(belief.sd, 1):.0f}", "ml")
    shown = "l" if unit == "ml" else unit
    mean, sd = (convert(Decimal(round(value)), shown) for value in (belief.mean, belief.sd))
    return said.belief(f"{mean:.2f}", f"{sd:.2f}", shown)


def _offered(ml: Decimal, unit: str, bottle_ml: Decimal | None) -> Iterator[tuple[Decimal, str]]:
    """Amounts a hand can measure at once, each in words: of the bottle in hand, and a whole unit."""
    if bottle_ml:
        yield bottle_ml, said.ONE_BOTTLE
        yield bottle_ml / 2, said.HALF_A_BOTTLE
        rest = bottle_ml - ml
        if 0 < rest < bottle_ml / 2:
            yield ml, said.all_but(show(rest, "ml"))
    whole = "qt" if unit in ("qt", "fl oz") else "l"
    yield round(parse_single(f"1 {whole}", Kind.VOLUME, "ml").low, 0), f"1 {whole}"


def taps(advice: Advice, unit: str, bottle_ml: Decimal | None) -> tuple[tuple[str, str], ...]:
    """What may go in at one tap: the amount as it is written down, and how it is called. Nothing that
    would be more than is safe to pour, and nothing twice."""
    if advice.action != "pour":
        return ()
    found: dict[Decimal, str] = {}
    for ml, words in _offered(advice.ml, unit, bottle_ml):
        if ml <= advice.ml:
            found.setdefault(ml, words)
    return tuple((f"{ml.normalize():f} ml", words) for ml, words in found.items())
