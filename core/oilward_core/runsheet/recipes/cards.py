"""The wrench card of a fastener that was opened."""

from ...codes.entries import Ask
from ...codes.facts import Fact
from ...codes.options import Thread
from ...codes.steps import Name
from ...quantity import show
from ...said import steps as words
from ...spec import Fastener, ReservoirSpec
from ..ids import StepId
from ..needs import Need, done
from ..steps import Step, chosen, where
from ..work import Work

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


def looked_at(work: Work, spec: ReservoirSpec) -> tuple[Need, ...]:
    """That every thread of it that was pulled too far has been looked at."""
    return tuple(done(step) for step, _ in work.rounds.over.get(spec.key, ()))


def look_at_threads(work: Work, spec: ReservoirSpec, job: str) -> tuple[Need, ...]:
    """Threads that were pulled too far are looked at before anything is done there again: that need."""
    for step, nm in work.rounds.over.get(spec.key, ()):
        pulled = words.pulled_too_far(show(nm, "N·m") if nm else "")
        said = words.step(Name.THREAD, pulled=pulled)
        work.step(
            Step(
                id=step,
                job=job,
                ask=Ask.CHOICE,
                title=said.title,
                instruction=said.text,
                options=chosen(words.THREADS, Thread),
            )
        )
    return looked_at(work, spec)
