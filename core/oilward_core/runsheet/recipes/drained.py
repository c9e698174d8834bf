"""What is drained through a plug: engine, primary, gearbox, final drive."""

from collections.abc import Sequence
from decimal import Decimal

from ...drained import LEVELS
from ...quantity import show
from ...schools import RING, SEALANT, WASHER
from ...spec import Fastener, ReservoirSpec, Variant, field_of, what
from ..ids import Name, StepId, of_bike
from ..jobs import UPRIGHT, JobKind, minutes_of
from ..needs import Fact, Need, done
from ..steps import Ask, PlannedTask, Step, look_up_id, unchecked, where
from ..work import Work
from . import circuit, rounds

OPEN, SEIZED = "open", "seized"
NEW, TURNED = "new", "turned over"
REUSED = ("reused, looks good", "reused, nothing else there")
FILTER = "filter"
STRAPPED = Need(Fact.STRAPPED)


def write(work: Work, task: PlannedTask, circuits: Sequence[PlannedTask]) -> None:
    """From the filler to the fill. The filters of ``circuits`` that share its oil are changed while
    it is empty."""
    _look_ups(work, task)
    _open_up(work, task)
    _close_up(work, task)
    drain = done(StepId(task.spec.key, Name.DRAIN))
    shared = tuple(done(circuit.write(work, one, drain)) for one in circuits)
    rounds.fill(work, task, shared)


def _look_ups(work: Work, task: PlannedTask) -> None:
    for path in task.asks:
        hint = field_of(path).hint
        example = f" Type it as it stands there, like {hint}." if hint else ""
        work.step(
            Step(
                id=look_up_id(path),
                job=str(JobKind.COLD_CHECKS),
                ask=Ask.LOOKUP,
                title=f"Look up: {what(path)}",
                instruction=f"The spec sheet does not say.{example} Name the document and the page.",
                options=field_of(path).choices,
                path=path,
            )
        )


def _open_up(work: Work, task: PlannedTask) -> None:
    spec = task.spec
    label, key = spec.label, spec.key
    plug, filler = spec.fastener("drain plug"), spec.fastener("fill plug")
    job = work.job(JobKind.PROVE_FILLER, f"Prove the {label} filler opens", spec, attitude=UPRIGHT)
    work.step(
        Step(
            id=StepId(key, Name.FILLER),
            job=job,
            ask=Ask.GATE,
            title="Prove the filler opens",
            instruction="Clean round it, crack it open, leave it loosely in place. If it will not "
            "open, do not drain.",
            place=where(filler),
            spot=filler.spot if filler else None,
            options=(OPEN, SEIZED),
            stood=LEVELS if spec.level else (),
            needs=(done(of_bike(Name.SUPPORT)),),
        )
    )
    words = f"Drain the {label}"
    job = work.job(JobKind.DRAIN, words, spec, attitude=UPRIGHT, pan_until=JobKind.REFIT)
    sampled = (done(_sample(work, task, job)),) if task.sample else ()
    drain = work.step(
        Step(
            id=StepId(key, Name.DRAIN),
            job=job,
            ask=Ask.DRAIN,
            title=words,
            instruction="Break the plug loose, pan under, last turns by hand. Wait until dripping "
            "has stopped.",
            place=where(plug),
            spot=plug.spot if plug else None,
            minutes=Decimal(minutes_of(JobKind.DRAIN, work.learned)[1]),
            tilts=True,
            needs=(
                STRAPPED,
                Need(Fact.PROVEN, key),
                *sampled,
                *(done(look_up_id(path)) for path in task.asks),
            ),
        )
    )
    _read(work, task, done(drain))


def _sample(work: Work, task: PlannedTask, job: str) -> StepId:
    """Where the last finding was grave, a sample of the oil is worth more than any plug."""
    return work.step(
        Step(
            id=StepId(task.spec.key, Name.SAMPLE),
            job=job,
            ask=Ask.CHECK,
            title=f"Have a sample bottle ready for the {task.spec.label}",
            instruction="Its last plug asked to be watched. Let the first third run, catch the middle of "
            "the stream, close and label it.",
            items=("Clean bottle at hand, labelled",),
            skippable=True,
            needs=(Need(Fact.PROVEN, task.spec.key),),
        )
    )


def _read(work: Work, task: PlannedTask, drained: Need) -> None:
    spec = task.spec
    words = f"Measure, read the {spec.label} plug"
    job = work.job(JobKind.READ_PLUG, words, spec, attitude=UPRIGHT)
    work.step(
        Step(
            id=StepId(spec.key, Name.MEASURE),
            job=job,
            ask=Ask.AMOUNT,
            title="Measure what came out",
            instruction="Pour it into the jug, or weigh it. Less: burnt or leaked. More: overfilled, "
            "water, fuel.",
            skippable=True,
            density15=task.density15,
            needs=(drained,),
        )
    )
    work.step(
        Step(
            id=StepId(spec.key, Name.INSPECT),
            job=job,
            ask=Ask.FINDING,
            title="Read the plug",
            instruction="Look at magnet and oil before anything is wiped. Then clean the magnet.",
            skippable=True,
            needs=(drained,),
        )
    )


def _close_up(work: Work, task: PlannedTask) -> None:
    spec = task.spec
    key, plug = spec.key, spec.fastener("drain plug")
    words = f"New seal, {spec.label} plug in by hand"
    job = work.job(JobKind.REFIT, words, spec, attitude=UPRIGHT)
    seal = (plug.seal if plug else "") or "Seal"
    ring = "o-ring" in seal.lower()
    school = task.schools.of(spec.kind, RING if ring else WASHER)
    inspected = done(StepId(key, Name.INSPECT))
    washer = work.step(
        Step(
            id=StepId(key, Name.WASHER),
            job=job,
            ask=Ask.CHOICE,
            title="Seal on the plug",
            instruction=f"{seal}: {school}. The old one must be off the case.",
            options=(NEW, *REUSED) if ring else (NEW, TURNED),
            needs=(inspected,),
        )
    )
    manual = plug.sealant if plug else ""
    sealant = f"{manual}, as the manual says" if manual else task.schools.of(spec.kind, SEALANT)
    refit = work.step(
        Step(
            id=StepId(key, Name.REFIT),
            job=job,
            ask=Ask.CHECK,
            title="Refit the plug by hand",
            instruction=f"On the threads: {sealant}. Start it with the fingers. Tight, loose, tight "
            "again is a seal tearing: out with it.",
            place=where(plug),
            spot=plug.spot if plug else None,
            items=("Runs in by hand to contact",),
            needs=(STRAPPED, done(washer), inspected),
        )
    )
    _tighten(work, spec, plug, done(refit))
    if task.variant in (Variant.WITH_FILTER, Variant.DRY) and spec.fastener(FILTER):
        _filter(work, spec)


def _tighten(work: Work, spec: ReservoirSpec, plug: Fastener | None, refit: Need) -> None:
    """The plug by wrench; by turns or by hand where the manual says so."""
    job = work.job(JobKind.TORQUE, f"Torque the {spec.label} plug", spec, attitude=UPRIGHT)
    torque = plug.torque if plug else None
    by_hand = torque is not None and not torque.by_wrench
    turned = torque.then_words if torque and not by_hand else ""
    then = f" {turned[0].upper()}{turned[1:]}." if turned else ""
    work.step(
        Step(
            id=StepId(spec.key, Name.TORQUE),
            job=job,
            ask=Ask.CHECK if by_hand else Ask.TORQUE,
            title="Tighten the plug" if by_hand else "Torque the plug",
            instruction="No wrench here: as the manual says, and no more."
            if by_hand
            else f"One slow pull, hand in the middle of the grip.{_crow_foot(plug)}{then}",
            place=where(plug),
            items=(f"Tightened: {torque.text}",) if torque and by_hand else (),
            spot=plug.spot if plug else None,
            fastener=None if by_hand else plug,
            turn=turned,
            unchecked=unchecked(spec, f"{plug.key or plug.role}/torque") if plug else (),
            needs=(STRAPPED, refit),
        )
    )


def _crow_foot(plug: Fastener | None) -> str:
    if plug is None or plug.adapter is None:
        return ""
    return f" With the {plug.adapter.normalize():f} mm crow-foot, in line with the handle."


def _filter(work: Work, spec: ReservoirSpec) -> None:
    unit = spec.fastener(FILTER)
    prefill = f" Pre-fill about {show(spec.prefill, 'ml')}." if spec.prefill else ""
    direction = f" {unit.direction.capitalize()}." if unit and unit.direction else ""
    turn = unit.torque.text if unit and unit.torque else "as the manual says"
    job = work.job(JobKind.FILTER, f"Change the {spec.label} filter", spec, attitude=UPRIGHT)
    work.step(
        Step(
            id=StepId(spec.key, Name.FILTER),
            job=job,
            ask=Ask.FILTER,
            title="Change the filter",
            instruction=f"Oil the new gasket.{prefill}{direction} Spin to contact, then {turn}. By "
            "hand only.",
            place=where(unit),
            spot=unit.spot if unit else None,
            unchecked=unchecked(spec, f"{unit.key or unit.role}/torque") if unit else (),
            items=("Old gasket came off with the old filter",),
            needs=(
                STRAPPED,
                done(StepId(spec.key, Name.DRAIN)),
                done(StepId(spec.key, Name.TORQUE)),
            ),
        )
    )
