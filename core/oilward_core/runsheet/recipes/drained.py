"""What is drained through a plug: engine, primary, gearbox, final drive."""

from collections.abc import Sequence
from decimal import Decimal

from ...codes.debris import AT_A_PLUG
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
from ...said import options as choices
from ...said import steps as words
from ...schools import RING, SEALANT, WASHER
from ...spec import Fastener, FillRule, ReservoirSpec, field_of, what
from ..ids import StepId, cover_id, of_bike, ran_out_id
from ..jobs import UPRIGHT, job_id, minutes_of
from ..needs import Need, done
from ..openings import Opening, is_element, is_ring, openings
from ..steps import Option, PlannedTask, Step, chosen, look_up_id, ticks, unchecked, where
from ..work import Opened, Work
from . import circuit, rounds
from .cards import STRAPPED, asked_at, carded, crow_foot, look_at_threads, looked_at


def write(work: Work, task: PlannedTask, circuits: Sequence[PlannedTask]) -> None:
    """From the filler to the fill. The filters of ``circuits`` that share its oil are changed while
    it is empty."""
    opened = openings(task.spec, task.variant)
    plugs = _plugs(work, task, opened)
    _look_ups(work, task)
    _open_up(work, task, plugs)
    _close_up(work, task, plugs, opened)
    key = task.spec.key
    out = Need(Fact.PLUG_OUT, key)
    shared = [done(circuit.write(work, one, out)) for one in circuits]
    if key in work.rounds.little:
        shared.append(done(StepId(key, Name.ALL_OUT)))
    rounds.fill(work, task, tuple(shared))
    _covers_on(work, task, opened)


def _plugs(work: Work, task: PlannedTask, opened: Sequence[Opening]) -> list[Opening]:
    """Its drain plugs, the first of them before all; without those a visit is past already."""
    found = [one for one in opened if one.role == Role.DRAIN_PLUG]
    return found[:1] + [one for one in found[1:] if one.card not in work.rounds.unasked]


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
                waiting=task.waiting.get(path),
            )
        )


def _open_up(work: Work, task: PlannedTask, plugs: Sequence[Opening]) -> None:
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
            options=chosen(choices.OPENS, Opens),
            stood=chosen(said_drained.STOOD, AS_OPENED) if looked else (),
            needs=(done(of_bike(Name.SUPPORT)),),
        )
    )
    job = work.job(JobKind.DRAIN, spec, attitude=UPRIGHT, pan_until=JobKind.REFIT, heat=_heat(spec))
    sampled = (done(_sample(work, task, job)),) if task.sample else ()
    drained = [_drain(work, task, job, sampled)]
    drained += [_drain(work, task, job, sampled, one) for one in plugs[1:]]
    _read(work, task, plugs, tuple(done(step) for step in drained))


def _heat(spec: ReservoirSpec) -> int:
    """How warm its oil is after the warm-up: an engine's most, then the case beside it, gears least."""
    facts = spec.facts
    return 3 if facts.runs_engine else 2 if facts.clutch else 1


def _is_looked_at(work: Work, spec: ReservoirSpec) -> bool:
    """Whether its level is looked at as it is opened: it has one, and nobody asked before."""
    return spec.level is not None and StepId(spec.key, Name.CAME) not in work.named(Name.CAME)


def _drain(
    work: Work,
    task: PlannedTask,
    job: str,
    sampled: tuple[Need, ...],
    further: Opening | None = None,
) -> StepId:
    """Its oil let out, at its drain plug, or at a ``further`` one."""
    spec = task.spec
    plug = further.fastener if further else spec.fastener(Role.DRAIN_PLUG)
    said = words.step(Name.DRAIN, label=spec.label)
    return work.step(
        Step(
            id=further.step(Name.DRAIN) if further else StepId(spec.key, Name.DRAIN),
            job=job,
            ask=Ask.DRAIN,
            title=words.at_part(said.title, further.part) if further else said.title,
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


def _read(
    work: Work, task: PlannedTask, plugs: Sequence[Opening], drained: tuple[Need, ...]
) -> None:
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
            needs=drained,
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
                options=chosen(choices.EMPTIED, Emptied),
                needs=(done(StepId(spec.key, Name.MEASURE)),),
            )
        )
    no_magnet = bool(plugs) and all(one.fastener.no_magnet for one in plugs)
    said = words.NO_MAGNET if no_magnet else words.step(Name.INSPECT)
    work.step(
        Step(
            id=StepId(spec.key, Name.INSPECT),
            job=job,
            ask=Ask.FINDING,
            title=said.title,
            instruction=said.text + (words.READ_ALL if len(plugs) > 1 else ""),
            skippable=True,
            no_magnet=no_magnet,
            found_in=AT_A_PLUG,
            needs=drained,
        )
    )


def _close_up(
    work: Work, task: PlannedTask, plugs: Sequence[Opening], opened: Sequence[Opening]
) -> None:
    spec = task.spec
    job = work.job(JobKind.REFIT, spec, attitude=UPRIGHT)
    _ran_out(work, spec, job, opened)
    _covers(work, spec, job)
    looked = look_at_threads(work, spec, job)
    none = Opening(
        fastener=NOBODY, closes=NOBODY, part=Role.DRAIN_PLUG, card=StepId(spec.key, Name.TORQUE)
    )
    refits = [(plug, _refit(work, task, job, plug, looked)) for plug in plugs or [none]]
    job = work.job(JobKind.TORQUE, spec, attitude=UPRIGHT)
    for plug, refit in refits:
        _tighten(work, spec, job, plug, done(refit))
    filters = [one for one in opened if one.card.name == Name.TORQUE_FILTER]
    if filters:
        job = work.job(JobKind.FILTER, spec, attitude=UPRIGHT)
    for one in filters:
        _filter(work, spec, job, one)


# a drain plug that the sheet does not have
NOBODY = Fastener(
    role=Role.DRAIN_PLUG,
    place="",
    thread="",
    drive="",
    magnet=False,
    soft=False,
    torque=None,
    seal="",
)


def _refit(
    work: Work, task: PlannedTask, job: str, opened: Opening, looked: tuple[Need, ...]
) -> StepId:
    """A seal on a drain plug, and the plug back by hand."""
    spec, plug = task.spec, opened.fastener
    seal = plug.seal or words.SEAL
    ring = is_ring(plug)
    school = task.schools.of(spec.kind, RING if ring else WASHER)
    inspected = done(StepId(spec.key, Name.INSPECT))
    several = opened.card.part

    def title(text: str) -> str:
        return words.at_part(text, several) if several else text

    said = words.step(Name.WASHER, seal=seal, school=str(school))
    washer = work.step(
        Step(
            id=opened.step(Name.WASHER),
            job=job,
            ask=Ask.CHOICE,
            title=title(said.title),
            instruction=said.text,
            options=chosen(choices.SEALS, _seals(work, opened)),
            needs=(inspected, *looked),
        )
    )
    manual = plug.sealant
    sealant = words.sealant(manual) if manual else str(task.schools.of(spec.kind, SEALANT))
    said = words.step(Name.REFIT, sealant=sealant)
    return work.step(
        Step(
            id=opened.step(Name.REFIT),
            job=job,
            ask=Ask.CHECK,
            title=title(said.title),
            instruction=said.text,
            place=where(plug) if plug is not NOBODY else "",
            spot=plug.spot,
            items=ticks(*((Tick.NEW_ONE,) if plug.one_use else ()), Tick.BY_HAND),
            tears=ring,
            needs=(STRAPPED, done(washer), inspected),
        )
    )


def _seals(work: Work, opened: Opening) -> tuple[Seal, ...]:
    """A flat washer is turned over once, a folded or bonded one never; a ring that tore is gone
    [trade]."""
    gone = opened.step(Name.WASHER) in work.rounds.gone
    if gone or opened.fastener.seal_kind in ("folded", "bonded"):
        return (Seal.NEW,)
    return RINGS if is_ring(opened.fastener) else WASHERS


def _covers(work: Work, spec: ReservoirSpec, job: str) -> None:
    """Each time a cover leaked that has no card of its own it is closed."""
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


def _covers_on(work: Work, task: PlannedTask, opened: Sequence[Opening]) -> None:
    """The cover of a case that is filled and looked into through it, once it is full."""
    spec, level = task.spec, task.spec.level
    by_level = spec.fill_rule == FillRule.LEVEL and level is not None
    full = Fact.RIGHT if by_level and not (level and level.run_minutes) else Fact.POURED
    for one in opened:
        if one.card.name != Name.TORQUE_COVER or one.card in work.rounds.unasked:
            continue
        needs = (STRAPPED, Need(full, spec.key), *looked_at(work, spec))
        other = spec.fastener(Role.FILL_PLUG) is not None
        job = job_id(JobKind.FILL, spec.key)
        carded(work, one, job, words.cover(one.part), needs, stays_on=other)


def _lost(again: Opened, opened: Sequence[Opening]) -> tuple[Lost, ...]:
    """What can be gone of it: a filter or a cover that is off may stand above the oil, a plug that is out
    not."""
    if not again.out:
        return (Lost.TIGHTENED, Lost.SOME, Lost.ALL)
    low = any(one.part == again.part and one.role == Role.DRAIN_PLUG for one in opened)
    above = () if low or again.part == Role.DRAIN_PLUG else (Lost.NOTHING,)
    return (Lost.NOT_OUT, *above, Lost.SOME, Lost.ALL)


def _ran_out(work: Work, spec: ReservoirSpec, job: str, opened: Sequence[Opening]) -> None:
    """Each time oil got out of it while it was full, somebody says how much is gone."""
    for one in work.rounds.opened.get(spec.key, ()):
        place = words.leak_place(one.part, spec.label, work.several)
        how = words.OPENED if one.out else words.LEAKED
        said = words.step(Name.RAN_OUT, what=place, opened=how)
        work.step(
            Step(
                id=ran_out_id(spec.key, one.entry),
                job=job,
                ask=Ask.RAN_OUT,
                title=said.title,
                instruction=said.text,
                options=chosen(choices.LOST, _lost(one, opened)),
            )
        )


def _tighten(work: Work, spec: ReservoirSpec, job: str, opened: Opening, refit: Need) -> None:
    """The plug by wrench; by turns or by hand where the manual says so."""
    plug = opened.fastener
    torque = plug.torque
    by_hand = torque is not None and not torque.by_wrench
    turned = torque.then_words if torque and not by_hand else ""
    said = words.BY_HAND
    items: tuple[Option, ...] = ()
    if torque is not None and by_hand:
        items = (Option(Tick.TIGHTENED, choices.tick(Tick.TIGHTENED, text=torque.text)),)
    elif not by_hand:
        said = words.step(Name.TORQUE, crow_foot=crow_foot(plug), then=words.sentence(turned))
    several = opened.card.part
    work.step(
        Step(
            id=opened.card,
            job=job,
            ask=Ask.CHECK if by_hand else Ask.TORQUE,
            title=words.at_part(said.title, several) if several else said.title,
            instruction=said.text,
            place=where(plug) if plug is not NOBODY else "",
            items=(*asked_at(opened), *items),
            tears=is_ring(plug),
            spot=plug.spot,
            fastener=None if by_hand or plug is NOBODY else plug,
            turn=turned,
            unchecked=unchecked(spec, f"{plug.key or plug.role}/torque"),
            needs=(STRAPPED, refit),
        )
    )


def _filter(work: Work, spec: ReservoirSpec, job: str, opened: Opening) -> None:
    """A filter or a screen, and its wrench."""
    if opened.card.part and opened.card in work.rounds.unasked:
        return
    element = opened.role != Role.SCREEN and is_element(opened.fastener, spec)
    # any time from the plug being out, before or after it is back
    needs = (STRAPPED, Need(Fact.PLUG_OUT, spec.key))
    on = (_element if opened.card.part else _main_filter)(work, spec, job, opened, needs)
    if opened.by_wrench and opened.card not in work.rounds.unasked:
        what = words.FILTER_COVER if element else words.FILTER_ITSELF
        called = words.of_several(what, opened.card.part)
        ready = (STRAPPED, done(on), *looked_at(work, spec))
        carded(work, opened, job, called, ready, stays_on=opened.role == Role.SCREEN)


def _put_in(opened: Opening, element: bool) -> tuple[Tick, ...]:
    """What is ticked as a filter goes on: an element's way round, a spun-on one's old gasket."""
    if opened.role == Role.SCREEN:
        return (Tick.SCREEN,)
    if not element:
        return (Tick.GASKET,)
    return (Tick.WAY_ROUND, *(() if opened.by_wrench else (Tick.COVER,)))


def _how_on(opened: Opening, element: bool, prefill: str = "") -> str:
    """How it is put on, and what tightens it."""
    torque, direction = opened.closes.torque, words.as_written(opened.fastener.direction)
    if opened.role == Role.SCREEN:
        return words.WASH_SCREEN
    tight = torque.text if torque else words.NOT_SAID
    if element:
        return words.element("" if opened.by_wrench else tight, direction)
    then = words.FILTER_BY_WRENCH if opened.by_wrench else words.filter_by_hand(tight)
    return words.spun_on(then, prefill, direction)


def _main_filter(
    work: Work, spec: ReservoirSpec, job: str, opened: Opening, needs: tuple[Need, ...]
) -> StepId:
    unit, element = opened.fastener, is_element(opened.fastener, spec)
    prefill = words.prefill(show(spec.prefill, "ml")) if spec.prefill else ""
    said = words.step(Name.FILTER, how=_how_on(opened, element, prefill))
    return work.step(
        Step(
            id=StepId(spec.key, Name.FILTER),
            job=job,
            ask=Ask.FILTER,
            title=said.title,
            instruction=said.text,
            place=where(unit),
            spot=unit.spot,
            unchecked=unchecked(spec, f"{unit.key or unit.role}/torque"),
            items=ticks(*_put_in(opened, element)),
            skippable=spec.key in work.rounds.early,
            needs=needs,
        )
    )


def _element(
    work: Work, spec: ReservoirSpec, job: str, opened: Opening, needs: tuple[Need, ...]
) -> StepId:
    """A second filter, or a screen."""
    unit = opened.fastener
    element = opened.role != Role.SCREEN and is_element(unit, spec)
    said = words.step(Name.ELEMENT, what=opened.part, how=_how_on(opened, element))
    return work.step(
        Step(
            id=opened.step(Name.ELEMENT),
            job=job,
            ask=Ask.CHECK,
            title=said.title,
            instruction=said.text,
            place=where(unit),
            spot=unit.spot,
            items=ticks(*_put_in(opened, element)),
            skippable=opened.role == Role.SCREEN,
            needs=needs,
        )
    )
