"""What is said of how far a bike sinks."""

from ..codes.suspension import SagSays
from ..guard import whole_table

SAME = 0.05  # mm
BY_SHEET, COMMON = "by the sheet", "common practice, no source: the sheet gives none"
_SAYS = whole_table(
    SagSays,
    {
        SagSays.RIGHT: "Both are right: nothing to do.",
        SagSays.STICTION: "Let down and let up it settles {apart} apart: bushes and alignment first. No "
        "spring is judged before.",
        SagSays.PRELOAD: "Preload first{turns}, then measure anew. A spring is judged once the "
        "rider's sag is right.",
        SagSays.SOFTER: "The rider's is right and the bike alone sinks too far: the spring is too stiff, "
        "and is slackened to get there. A softer one.",
        SagSays.STIFFER: "The rider's is right and the bike alone hardly sinks: the spring is too soft, "
        "and is pressed together to get there. A stiffer one.",
    },
)


def bottoms(gap: str, apart: str, later: float) -> str:
    """What another gap than the sheet's changes near the end of the travel."""
    if abs(later) < SAME:
        return f"{gap} is as good as the sheet's."
    way = "later" if later > 0 else "earlier"
    what = "bottoms sooner: it carries" if later > 0 else "is firmer at the end: it carries"
    return f"{gap} {what} what the sheet's gap carries 5 mm before its end {apart} {way}."


def says(what: SagSays, apart: str, turns: str, inwards: bool) -> str:
    """What a sag says to do; ``turns`` of preload where its screw's pitch is known."""
    way = "in" if inwards else "out"
    told = f": {turns} turns {way}" if turns else f", {way}"
    return _SAYS[what].format(apart=apart, turns=told)
