"""The why of an answer, as it goes over the wire."""

from oilward_core.reasons import Reason

from .shapes import Why


def whys(reasons: tuple[Reason, ...]) -> list[Why]:
    """Each step of an answer's why."""
    return [Why(reason.rule, reason.text, reason.source.value) for reason in reasons]
