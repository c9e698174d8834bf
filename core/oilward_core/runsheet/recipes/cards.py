"""The wrench card of a fastener that was opened."""

from ...codes.entries import Ask
from ...codes.facts import Fact
from ...codes.steps import Name
from ...said import steps as words
from ...spec import Fastener
from ..ids import StepId
from ..needs import Need
from ..steps import Step, where

STRAPPED = Need(Fact.STRAPPED)


def crow_foot(plug: Fastener | None) -> str:
    """With how long a crow-foot it is reached, in words; empty without one."""
    if plug is None or plug.adapter is None:
        return ""
    return words.crow_foot(f"{plug.adapter.normalize():f}")


def by_wrench(plug: Fastener | None) -> bool:
    """Whether its sheet names a torque for it."""
    return plug is not None and plug.torque is not None and plug.torque.by_wrench


def carded(step: StepId, job: str, plug: Fastener, what: str, needs: tuple[Need, ...]) -> Step:
    """A wrench card for a fastener that was closed by hand before."""
    turned = plug.torque.then_words if plug.torque else ""
    facts = {"crow_foot": crow_foot(plug), "then": words.sentence(turned)}
    said = words.step(Name(step.name), what=what, **facts)
    return Step(
        id=step,
        job=job,
        ask=Ask.TORQUE,
        title=said.title,
        instruction=said.text,
        place=where(plug),
        spot=plug.spot,
        fastener=plug,
        turn=turned,
        needs=needs,
    )
