"""The wrench card of a fastener that was opened."""

from collections.abc import Iterable, Iterator

from ...codes.entries import Ask
from ...codes.facts import Fact
from ...codes.options import RINGS, Seal, Thread, Tick
from ...codes.roles import Role
from ...codes.steps import Name
from ...quantity import show
from ...said import options as choices
from ...said import steps as words
from ...spec import Fastener, ReservoirSpec
from ...torque import ring_order
from ..ids import StepId
from ..needs import Need, done
from ..openings import Opening, seal_at
from ..steps import Option, PlannedTask, Step, chosen, unchecked, where
from ..work import Work

STRAPPED = Need(Fact.STRAPPED)


def crow_foot(plug: Fastener | None) -> str:
    """With how long a crow-foot it is reached, in words; empty without one."""
    if plug is None or plug.adapter is None:
        return ""
    return words.crow_foot(f"{plug.adapter.normalize():f}", f"{plug.adapter_angle.normalize():f}")


def tells(plug: Fastener) -> str:
    """In what order it is pulled, where it is several screws, and how it is reached, in words."""
    ordered = ""
    if plug.ring:
        ordered = words.in_order(ring_order(plug.count, plug.pattern))
    return ordered + crow_foot(plug)


def _locks(plug: Fastener) -> bool:
    """Whether what goes on its threads is asked at the card: all of it, but the paste of a plug that was
    started by hand with it."""
    if plug.role == Role.DRAIN_PLUG:
        return "lock" in plug.sealant.lower()
    return bool(plug.sealant)


def asked_at(opening: Opening) -> Iterator[Option]:
    """What is ticked at the card of a fastener: its joint, new screws, what goes on the threads, its
    safety wire."""
    plug = opening.closes
    if opening.covered:
        yield Option(Tick.JOINT, choices.tick(Tick.JOINT))
    # a drain plug that is used once was asked for at its refit
    if plug.one_use and plug.role != Role.DRAIN_PLUG:
        yield Option(Tick.NEW_SCREWS, choices.tick(Tick.NEW_SCREWS))
    if _locks(plug):
        yield Option(Tick.LOCKER, choices.tick(Tick.LOCKER, text=plug.sealant))
    if plug.safety_wire:
        yield Option(Tick.WIRE, choices.tick(Tick.WIRE))


def _seals(opening: Opening) -> tuple[Seal, ...]:
    """What seal may have gone on, by its kind; of none nothing is asked."""
    if not seal_at(opening) or not opening.by_wrench:
        return ()
    kind = opening.closes.seal_kind or opening.fastener.seal_kind
    if kind in ("folded", "bonded"):
        return (Seal.NEW,)
    return (Seal.NEW, Seal.TURNED, Seal.REUSED_GOOD) if kind == "flat" else RINGS


def carded(
    work: Work,
    opening: Opening,
    job: str,
    what: str,
    needs: Iterable[Need],
    *,
    stays_on: bool = False,
) -> StepId:
    """The wrench card of a fastener; where no wrench closes its cover, a tick. ``stays_on``: it may not
    have been opened at all, which is said with a reason."""
    plug, step = opening.closes, opening.card
    turned = plug.torque.then_words if plug.torque and opening.by_wrench else ""
    facts = {"crow_foot": tells(plug), "then": words.sentence(turned)}
    said = words.step(Name(step.name), what=what, **facts)
    ticked = tuple(asked_at(opening))
    if not opening.by_wrench:
        tight = plug.torque.text if plug.torque else words.NOT_SAID
        ticked += (Option(Tick.TIGHTENED, choices.tick(Tick.TIGHTENED, text=tight)),)
    spec = next(task.spec for task in work.tasks if task.spec.key == step.reservoir)
    return work.step(
        Step(
            id=step,
            job=job,
            ask=Ask.TORQUE if opening.by_wrench else Ask.CHECK,
            title=said.title,
            instruction=said.text,
            place=where(plug),
            spot=plug.spot,
            fastener=plug if opening.by_wrench else None,
            turn=turned,
            items=ticked,
            options=chosen(choices.SEALS, _seals(opening)),
            unchecked=unchecked(spec, f"{plug.key or plug.role}/torque"),
            needs=tuple(needs),
            skippable=stays_on,
        )
    )


def carded_each(
    work: Work,
    held: Iterable[tuple[PlannedTask, Opening]],
    job: str,
    before: tuple[Need, ...],
) -> tuple[Need, ...]:
    """The cards of what is torqued on a fork, one after another; what the last of them brings about."""
    for task, one in held:
        what = words.of_leg(one.part, task.spec.label)
        needs = (*before, STRAPPED, *looked_at(work, task.spec))
        before = (done(carded(work, one, job, what, needs)),)
    return before


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
                options=chosen(choices.THREADS, Thread),
            )
        )
    return looked_at(work, spec)
