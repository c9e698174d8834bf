"""What is said of a look at a fluid between its marks, or at a shock."""

from typing import NamedTuple

from ..codes.debris import Rule


class LookWords(NamedTuple):
    """What was seen, what it likely comes from, and what to do about it."""

    sign: str
    origin: str
    action: str


_PADS = "worn pads or a leak"
LOOKS: dict[Rule, LookWords] = {
    Rule.LOW_LEFT: LookWords(
        "Low, and left as found.",
        _PADS,
        "Not to be ridden like this. Find where the fluid went, and top it up.",
    ),
    Rule.LOW_TOPPED_UP: LookWords(
        "It was low, and topped up.", _PADS, "Look at the pads and for leaks next."
    ),
    Rule.ABOVE: LookWords("Above the mark.", "filled too far", "Keep the note, compare next time."),
    Rule.COOLANT_TOPPED_UP: LookWords(
        "It was low, and topped up.",
        "a little lost",
        "Keep the note. If it is low again next time, look for the leak.",
    ),
    Rule.COOLANT_LOW_AGAIN: LookWords(
        "It was low, and topped up, a second time running.",
        "a leak",
        "Look for the leak: hoses, clips, pump, radiator, oil.",
    ),
    Rule.COOLANT_LEFT: LookWords(
        "Low, and left as found.", "a leak", "Top it up, cold, and look for the leak."
    ),
    Rule.SHAFT_OILY: LookWords(
        "Oil on the shaft.",
        "the shaft's seal",
        "Hand it out to a specialist before the next long ride.",
    ),
    Rule.DAMPING_GONE: LookWords(
        "Damping is gone.",
        "the shock's oil or gas",
        "Not to be ridden like this. Hand it out to a specialist.",
    ),
    Rule.BUSH_PLAY: LookWords(
        "Play in its bushes.",
        "worn bushes or a loose bolt",
        "Look at its bolts, then at bushes and bearings, before its damping is judged.",
    ),
    Rule.GAS_OFF: LookWords(
        "Its gas is more than 0.5 bar off today's figure.",
        "gas lost past its piston or valve",
        "Hand it out to a specialist; nobody charges it here.",
    ),
}
