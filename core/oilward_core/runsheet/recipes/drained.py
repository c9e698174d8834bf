"""What is drained through a plug: engine, primary, gearbox, final drive."""

from collections.abc import Sequence
from decimal import Decimal

from ...codes.entries import Ask
from ...codes.facts import Fact
from ...codes.options import (
    AS_OPENED,
    RINGS,
    WASHERS,
    Emptied,
    Lost,
    Opens,
    Seal,
    Tick,
)
from ...codes.roles import Role
from ...codes.steps import JobKind, Name
from ...quantity import show
from ...said import drained as said_drained
from ...said import fill as said_fill
from ...said import steps as words
from ...schools import RING, SEALANT, WASHER
from ...spec import Fastener, ReservoirSpec, Variant, field_of, what
from ..ids import StepId, cover_id, of_bike, ran_out_id
from ..jobs import UPRIGHT, minutes_of
from ..needs import Need, done
from ..steps import Option, PlannedTask, Step, chosen, look_up_id, ticks, unchecked, where
from ..work import Opened, Work
from . import circuit, rounds
from .cards import STRAPPED, by_wrench, carded, crow_foot, look_at_threads, looked_at


def write(work: Work, task: PlannedTask, circuits: Sequence[PlannedTask]) -> None:
    """From the filler to the fill. The filters of ``circuits`` that share its oil are changed while
    it is empty."""
    _look_ups(work, task)
    _open_up(work, task)
    _close_up(work, task)
    key = task.spec.key
    out = Need(Fact.PLUG_OUT, key)
    shared = [done(circuit.write(work, one, out)) for one in circuits]
    if key in work.rounds.little:
        shared.append(done(StepId(key, Name.ALL_OUT)))
    rounds.fill(work, task, tuple(shared))


def _look_ups(work: Work, task: PlannedTask) -> None:
    for path in task.asks:
        field = field_of(path)
        said = words.step(Name.LOOK_UP, what=what(path), example=words.example(field.hint))
        work.step(
            Step(
                id=look_up_id(path),
                job=str(JobKind.COLD_CHECKS),
                ask=Ask.LOOK_UP,
                title=said.title,
                instruction=said.text,
                options=tuple(Option(choice, choice) for choice in field.choices),
                path=path,
            )
        )


def _open_up(work: Work, task: PlannedTask) -> None:
    spec = task.spec
    key, filler = spec.key, spec.fastener(Role.FILL_PLUG)
    job = work.job(JobKind.PROVE_FILLER, spec, attitude=UPRIGHT)
    looked = _is_looked_at(work, spec)
    left = words.left_last(said_fill.LEFT[task.left]) if looked and task.left else ""
    said = words.step(Name.FILLER, left=left)
    work.step(
        Step(
            id=StepId(key, Name.FILLER),
            job=job,
            ask=Ask.GATE,
            title=said.title,
            instruction=said.text,
            place=where(filler),
            spot=filler.spot if filler else None,
            options=chosen(words.OPENS, Opens),
            stood=chosen(said_drained.STOOD, AS_OPENED) if looked else (),
            needs=(done(of_bike(Name.SUPPORT)),),
        )
    )
    job = work.job(JobKind.DRAIN, spec, attitude=UPRIGHT, pan_until=JobKind.REFIT)
    sampled = (done(_sample(work, task, job)),) if task.sample else ()
    _read(work, task, done(_drain(work, task, job, sampled)))


def _is_looked_at(work: Work, spec: ReservoirSpec) -> bool:
    """Whether its level is looked at as it is opened: it has one, and nobody asked before."""
    return spec.level is not None and StepId(spec.key, Name.CAME) not in work.named(Name.CAME)


def _drain(work: Work, task: PlannedTask, job: str, sampled: tuple[Need, ...]) -> StepId:
    spec = task.spec
    plug = spec.fastener(Role.DRAIN_PLUG)
    said = words.step(Name.DRAIN, label=spec.label)
    return work.step(
        Step(
            id=StepId(spec.key, Name.DRAIN),
            job=job,
            ask=Ask.DRAIN,
            title=said.title,
            instruction=said.text,
            place=where(plug),
            spot=plug.spot if plug else None,
            minutes=Decimal(minutes_of(JobKind.DRAIN, work.learned)[1]),
            tilts=True,
            needs=(
                STRAPPED,
                Need(Fact.PROVEN, spec.key),
                *sampled,
                *(done(look_up_id(path)) for path in task.asks),
            ),
        )
    )


def _sample(work: Work, task: PlannedTask, job: str) -> StepId:
    """Where the last finding was grave, a sample of the oil is worth more than any plug."""
    said = words.step(Name.SAMPLE, label=task.spec.label)
    return work.step(
        Step(
            id=StepId(task.spec.key, Name.SAMPLE),
            job=job,
            ask=Ask.CHECK,
            title=said.title,
            instruction=said.text,
            items=ticks(Tick.BOTTLE),
            skippable=True,
            needs=(Need(Fact.PROVEN, task.spec.key),),
        )
    )


def _read(work: Work, task: PlannedTask, drained: Need) -> None:
    spec = task.spec
    job = work.job(JobKind.READ_PLUG, spec, attitude=UPRIGHT)
    said = words.step(Name.MEASURE)
    work.step(
        Step(
            id=StepId(spec.key, Name.MEASURE),
            job=job,
            ask=Ask.AMOUNT,
            title=said.title,
            instruction=said.text,
            skippable=True,
            density15=task.density15,
            needs=(drained,),
        )
    )
    if spec.key in work.rounds.little:
        said = words.step(Name.ALL_OUT)
        work.step(
            Step(
                id=StepId(spec.key, Name.ALL_OUT),
                job=job,
                ask=Ask.CHOICE,
                title=said.title,
                instruction=said.text,
                options=chosen(words.EMPTIED, Emptied),
                needs=(done(StepId(spec.key, Name.MEASURE)),),
            )
        )
    said = words.step(Name.INSPECT)
    work.step(
        Step(
            id=StepId(spec.key, Name.INSPECT),
            job=job,
            ask=Ask.FINDING,
            title=said.title,
            instruction=said.text,
            skippable=True,
            needs=(drained,),
        )
    )


def _close_up(work: Work, task: PlannedTask) -> None:
    spec = task.spec
    key, plug = spec.key, spec.fastener(Role.DRAIN_PLUG)
    job = work.job(JobKind.REFIT, spec, attitude=UPRIGHT)
    seal = (plug.seal if plug else "") or words.SEAL
    ring = "o-ring" in seal.lower()
    school = task.schools.of(spec.kind, RING if ring else WASHER)
    inspected = done(StepId(key, Name.INSPECT))
    _ran_out(work, spec, job)
    _covers(work, spec, job)
    looked = look_at_threads(work, spec, job)
    said = words.step(Name.WASHER, seal=seal, school=str(school))
    washer = work.step(
        Step(
            id=StepId(key, Name.WASHER),
            job=job,
            ask=Ask.CHOICE,
            title=said.title,
            instruction=said.text,
            options=chosen(words.SEALS, RINGS if ring else _washers(work, key)),
            needs=(inspected, *looked),
        )
    )
    manual = plug.sealant if plug else ""
    sealant = words.sealant(manual) if manual else str(task.schools.of(spec.kind, SEALANT))
    said = words.step(Name.REFIT, sealant=sealant)
    refit = work.step(
        Step(
            id=StepId(key, Name.REFIT),
            job=job,
            ask=Ask.CHECK,
            title=said.title,
            instruction=said.text,
            place=where(plug),
            spot=plug.spot if plug else None,
            items=ticks(*((Tick.NEW_ONE,) if plug and plug.one_use else ()), Tick.BY_HAND),
            needs=(STRAPPED, done(washer), inspected),
        )
    )
    _tighten(work, spec, plug, done(refit))
    if task.variant in (Variant.WITH_FILTER, Variant.DRY) and spec.fastener(Role.FILTER):
        _filter(work, spec)


def _washers(work: Work, key: str) -> tuple[Seal, ...]:
    """A flat washer is turned over once [trade]."""
    return (Seal.NEW,) if key in work.rounds.turned else WASHERS


def _covers(work: Work, spec: ReservoirSpec, job: str) -> None:
    """Each time a cover leaked it is closed."""
    screw = spec.fastener(Role.COVER_SCREW)
    torque = words.cover_tight(screw.torque.text if screw and screw.torque else "")
    for entry in work.rounds.covers.get(spec.key, ()):
        said = words.step(Name.COVER, torque=torque)
        work.step(
            Step(
                id=cover_id(spec.key, entry),
                job=job,
                ask=Ask.CHECK,
                title=said.title,
                instruction=said.text,
                items=ticks(Tick.JOINT, Tick.COVER),
                needs=(STRAPPED,),
            )
        )


def _lost(opened: Opened) -> tuple[Lost, ...]:
    """What can be gone of it: a filter that is off may stand above the oil, a plug that is out not."""
    if not opened.out:
        return (Lost.TIGHTENED, Lost.SOME, Lost.ALL)
    above = (Lost.NOTHING,) if opened.part == Role.FILTER else ()
    return (Lost.NOT_OUT, *above, Lost.SOME, Lost.ALL)


def _ran_out(work: Work, spec: ReservoirSpec, job: str) -> None:
    """Each time oil got out of it while it was full, somebody says how much is gone."""
    for one in work.rounds.opened.get(spec.key, ()):
        place = words.leak_place(one.part, spec.label, work.several)
        opened = words.OPENED if one.out else words.LEAKED
        said = words.step(Name.RAN_OUT, what=place, opened=opened)
        work.step(
            Step(
                id=ran_out_id(spec.key, one.entry),
                job=job,
                ask=Ask.RAN_OUT,
                title=said.title,
                instruction=said.text,
                options=chosen(words.LOST, _lost(one)),
            )
        )


def _tighten(work: Work, spec: ReservoirSpec, plug: Fastener | None, refit: Need) -> None:
    """The plug by wrench; by turns or by hand where the manual says so."""
    job = work.job(JobKind.TORQUE, spec, attitude=UPRIGHT)
    torque = plug.torque if plug else None
    by_hand = torque is not None and not torque.by_wrench
    turned = torque.then_words if torque and not by_hand else ""
    tightened = Tick.TIGHTENED
    said = words.BY_HAND
    if not by_hand:
        said = words.step(Name.TORQUE, crow_foot=crow_foot(plug), then=words.sentence(turned))
    work.step(
        Step(
            id=StepId(spec.key, Name.TORQUE),
            job=job,
            ask=Ask.CHECK if by_hand else Ask.TORQUE,
            title=said.title,
            instruction=said.text,
            place=where(plug),
            items=(Option(tightened, words.tick(tightened, text=torque.text)),)
            if torque and by_hand
            else (),
            spot=plug.spot if plug else None,
            fastener=None if by_hand else plug,
            turn=turned,
            unchecked=unchecked(spec, f"{plug.key or plug.role}/torque") if plug else (),
            needs=(STRAPPED, refit),
        )
    )


def _filter(work: Work, spec: ReservoirSpec) -> None:
    unit = spec.fastener(Role.FILTER)
    job = work.job(JobKind.FILTER, spec, attitude=UPRIGHT)
    said = words.step(
        Name.FILTER,
        prefill=words.prefill(show(spec.prefill, "ml")) if spec.prefill else "",
        direction=words.as_written(unit.direction if unit else ""),
        then=words.FILTER_BY_WRENCH
        if by_wrench(unit)
        else words.filter_by_hand(unit.torque.text if unit and unit.torque else words.NOT_SAID),
    )
    on = work.step(
        Step(
            id=StepId(spec.key, Name.FILTER),
            job=job,
            ask=Ask.FILTER,
            title=said.title,
            instruction=said.text,
            place=where(unit),
            spot=unit.spot if unit else None,
            unchecked=unchecked(spec, f"{unit.key or unit.role}/torque") if unit else (),
            items=ticks(Tick.GASKET),
            skippable=spec.key in work.rounds.early,
            # any time from the plug being out, before or after it is back
            needs=(STRAPPED, Need(Fact.PLUG_OUT, spec.key)),
        )
    )
    name = StepId(spec.key, Name.TORQUE_FILTER)
    if unit and by_wrench(unit) and name not in work.rounds.unasked:
        work.step(
            carded(
                name, job, unit, words.FILTER_ITSELF, (STRAPPED, done(on), *looked_at(work, spec))
            )
        )
