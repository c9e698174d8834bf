"""One fork leg: out, opened, looked over in parts, filled, closed, back. What is asked of it is what its
sheet says it has."""

from collections.abc import Sequence
from decimal import Decimal
from typing import Any

from ...codes.debris import IN_A_LEG
from ...codes.entries import Ask
from ...codes.options import LegSeals, Stayed, Tick, Tube
from ...codes.roles import Role
from ...codes.steps import JobKind, Name
from ...codes.suspension import LegFunction, LegKind
from ...quantity import show
from ...said import options as choices
from ...said import steps as words
from ...spec import ReservoirSpec
from ...suspension import over_filled, surface, volume_of
from ..ids import StepId
from ..jobs import LIFTED, job_id, minutes_of
from ..needs import Need, done
from ..openings import Opening
from ..steps import SETTING, Measured, PlannedTask, Step, chosen, ticks
from ..work import LegSoFar, Work
from .cards import STRAPPED, carded_each, look_at_threads

# what can be there at all [trade: common practice, no source]
GAPS = (Decimal(50), Decimal(280))  # mm
SPRINGS = (Decimal(100), Decimal(700))  # mm
HEIGHTS = (Decimal(0), Decimal(60))  # mm
AIR = (Decimal(0), Decimal(2000))  # kPa

_LOOSENED = (
    (Tick.UPPER_LOOSE, (Role.UPPER_PINCH,)),
    (Tick.CAP_LOOSE, (Role.FORK_CAP, Role.CAP)),
    (Tick.LOWER_LOOSE, (Role.LOWER_PINCH, Role.PINCH_BOLT)),
)
# whose oil is set by quantity, and not by a gap
_BY_QUANTITY = (LegKind.SEALED_CARTRIDGE, LegKind.AIR)
_SPRUNG = (None, LegFunction.ALL, LegFunction.SPRING)
_ADJUSTERS = ("compression", "rebound", "preload")


def _loosened(spec: ReservoirSpec) -> tuple[Tick, ...]:
    """What is ticked as a leg comes out, in the order of the hands: the cap while the lower bridge holds
    it."""
    first = (Tick.PRELOAD_OFF,) if spec.leg.preload is not None else ()
    there = (tick for tick, roles in _LOOSENED if any(map(spec.fastener, roles)))
    return (*first, *there, Tick.LEG_OUT)


def has_air(spec: ReservoirSpec) -> bool:
    """Whether a leg is under pressure before it is opened."""
    return spec.leg.kind == LegKind.AIR or bool(spec.leg.pressure)


def has_gap(spec: ReservoirSpec) -> bool:
    """Whether its oil is drawn down to a gap: the sheet gives one, or nothing that it is set by else."""
    return spec.air_gap is not None or spec.leg.kind not in _BY_QUANTITY


def _adjusters(spec: ReservoirSpec) -> list[str]:
    return [name for name in _ADJUSTERS if getattr(spec.leg, name) is not None]


def _read_before(spec: ReservoirSpec) -> tuple[Measured, ...]:
    """What is read before anything is slackened, to be the same again."""
    settings = tuple(Measured(name, SETTING, once=True) for name in _adjusters(spec))
    height = Measured("tube over bridge", "length", *HEIGHTS, usual=spec.leg.height, once=True)
    return (*settings, *((height,) if spec.leg.height is not None else ()))


def _set_back(spec: ReservoirSpec) -> tuple[Tick, ...]:
    settings = (Tick.SETTINGS_BACK,) if _adjusters(spec) else ()
    return (*settings, *((Tick.HEIGHT_BACK,) if spec.leg.height is not None else ()))


def _spring(spec: ReservoirSpec) -> tuple[Measured, ...]:
    """A spring whose length the sheet says something of."""
    leg = spec.leg
    sprung = leg.kind != LegKind.AIR and leg.function in _SPRUNG
    told = leg.spring_new is not None or leg.spring_limit is not None
    length = Measured("free length", "length", *SPRINGS, usual=leg.spring_new)
    return (length,) if sprung and told else ()


def _worth(spec: ReservoirSpec) -> Decimal | None:
    """How much oil a millimetre of level is, ml, if the sheet knows the bore."""
    bore = surface(spec.leg)
    return Decimal(volume_of(1.0, bore)) if bore else None


def _over(spec: ReservoirSpec) -> str:
    """What is poured first where the gap is set by drawing down, if the sheet knows the bore."""
    book, bore = next(iter(spec.capacities.values()), None), surface(spec.leg)
    if not book or bore is None or spec.air_gap is None or spec.leg.kind in _BY_QUANTITY:
        return ""
    return show(Decimal(round(over_filled(float(book), bore))), "ml")


def _mm(value: Decimal | None, how: str) -> str:
    return how.format(show(value, "mm")) if value is not None else ""


def _facts(spec: ReservoirSpec, so_far: LegSoFar) -> dict[Name, dict[str, str]]:
    """What the sheet says, and what was found so far, put into what a step tells."""
    leg, book = spec.leg, next(iter(spec.capacities.values()), None)
    lengths = (
        _mm(leg.spring_new, words.NEW_LENGTH),
        _mm(leg.spring_limit, words.LEAST_LENGTH),
    )
    air = words.AIR_AT_20.format(show(leg.pressure, "bar")) if leg.pressure else ""
    over_bridge = _mm(leg.height, words.OVER_BRIDGE)
    by_gap, amount = has_gap(spec), show(book, "ml") if book else ""
    how = words.leg_fill(amount, _over(spec)) if by_gap else words.leg_amount(amount)
    return {
        Name.LEG_SET: {"sheet": words.by_the_sheet(over_bridge)},
        Name.LEG_SPRING: {"sheet": words.by_the_sheet(*lengths)},
        Name.LEG_PRESSURE: {"sheet": words.by_the_sheet(air)},
        Name.LEG_FILL: {"how": so_far.begin or how},
        Name.LEG_STAYED: {"odd": so_far.odd},
        Name.LEG_BACK: {"read": so_far.read},
        Name.LEG_GAP: {
            "wanted": words.gap_wanted(show(spec.air_gap, "mm") if spec.air_gap else "")
        },
    }


class _Hands:
    """A leg's steps as they are written down, each after what is ``before`` it."""

    def __init__(self, work: Work, task: PlannedTask, after: Need) -> None:
        self.work, self.spec = work, task.spec
        self.before: tuple[Need, ...] = (after,)
        self.label = task.spec.label.capitalize()
        self.so_far = work.rounds.legs.get(task.spec.key, LegSoFar())
        self.facts = _facts(task.spec, self.so_far)

    def job(self, kind: JobKind, attitude: str = "") -> tuple[str, str]:
        """A job of this leg, and how the bike stands in it."""
        return self.work.job(kind, self.spec, label=self.label, attitude=attitude), attitude

    def any_order(
        self, job: tuple[str, str], name: Name, ask: Ask, **more: Any
    ) -> tuple[Need, ...]:
        """A step beside others; what it brings about: nothing where the visit is past it."""
        if StepId(self.spec.key, name) in self.work.rounds.unasked:
            return ()
        said = more.pop("said", None) or words.step(name)
        said = said.of(label=self.label, **self.facts.get(name, {}))
        also = (STRAPPED,) if job[1] == LIFTED else ()
        step = self.work.step(
            Step(
                id=StepId(self.spec.key, name),
                job=job[0],
                ask=ask,
                title=said.title,
                instruction=said.text,
                needs=(*self.before, *also),
                **more,
            )
        )
        return (done(step),)

    def step(self, job: tuple[str, str], name: Name, ask: Ask = Ask.CHECK, **more: Any) -> None:
        """The next step, before all that follow."""
        self.before = self.any_order(job, name, ask, **more) or self.before


def write(
    work: Work, task: PlannedTask, out: Need, held: Sequence[tuple[PlannedTask, Opening]]
) -> tuple[Need, ...]:
    """One fork leg, from the front wheel being ``out``; its waits are long. ``held``: what a wrench
    closes. What its end brings about."""
    hands = _Hands(work, task, out)
    _comes_out(hands)
    _looked_over(hands)
    _filled(hands)
    _goes_back(hands, held)
    return hands.before


def _comes_out(hands: _Hands) -> None:
    spec = hands.spec
    job = hands.job(JobKind.LEG_OUT, LIFTED)
    if before := _read_before(spec):
        hands.step(job, Name.LEG_SET, Ask.MEASURE, measured=before, skippable=True)
    if has_air(spec):
        air = (Measured("air", "pressure", *AIR, usual=spec.leg.pressure),)
        hands.step(job, Name.LEG_AIR, Ask.MEASURE, measured=air)
    hands.step(job, Name.LEG_OUT, items=ticks(*_loosened(spec)))
    minutes = Decimal(minutes_of(JobKind.LEG_DRAIN, hands.work.learned)[1])
    hands.step(hands.job(JobKind.LEG_DRAIN), Name.LEG_DRAIN, Ask.TIMER, minutes=minutes)


# nothing of it is on a magnet
_NO_PLUG: dict[str, Any] = {"no_magnet": True, "found_in": IN_A_LEG}


def _looked_over(hands: _Hands) -> None:
    """What came out, how it looks, and the parts it came from."""
    job, more = hands.job(JobKind.LEG_LOOK), {"skippable": True}
    seen = [
        hands.any_order(job, Name.MEASURE, Ask.AMOUNT, said=words.LEG_CAME_OUT, **more),
        hands.any_order(job, Name.INSPECT, Ask.FINDING, said=words.LEG_OIL, **_NO_PLUG, **more),
    ]
    if spring := _spring(hands.spec):
        seen.append(hands.any_order(job, Name.LEG_SPRING, Ask.MEASURE, measured=spring, **more))
    parts = {
        Name.LEG_TUBE: chosen(choices.TUBES, tuple(Tube)),
        Name.LEG_SEALS: chosen(choices.LEG_SEALS, tuple(LegSeals)),
    }
    for name, options in parts.items():
        seen.append(hands.any_order(job, name, Ask.CHOICE, options=options, **more))
    hands.before = tuple(need for needs in seen for need in needs) or hands.before


def _filled(hands: _Hands) -> None:
    spec = hands.spec
    hands.step(hands.job(JobKind.LEG_FILL), Name.LEG_FILL, Ask.AMOUNT)
    if not has_gap(spec):
        return
    job = hands.job(JobKind.LEG_GAP)
    gap = (Measured("air gap", "length", *GAPS, _worth(spec), spec.air_gap),)
    hands.step(job, Name.LEG_GAP, Ask.MEASURE, measured=gap)
    if hands.so_far.odd:
        why = chosen(choices.STAYED, tuple(Stayed))
        hands.step(job, Name.LEG_STAYED, Ask.CHOICE, options=why)


def _goes_back(hands: _Hands, held: Sequence[tuple[PlannedTask, Opening]]) -> None:
    spec = hands.spec
    job = hands.job(JobKind.LEG_IN, LIFTED)
    ticked = (Tick.LEG_IN,) if held else (Tick.LEG_IN, Tick.LEG_TORQUED)
    hands.step(job, Name.LEG_IN, items=ticks(*ticked))
    look_at_threads(hands.work, spec, job_id(JobKind.LEG_IN, spec.key))
    hands.before = carded_each(hands.work, held, job[0], hands.before)
    if has_air(spec):
        air = (Measured("air", "pressure", *AIR, usual=spec.leg.pressure),)
        hands.step(job, Name.LEG_PRESSURE, Ask.MEASURE, measured=air)
    if back := _set_back(spec):
        hands.step(job, Name.LEG_BACK, items=ticks(*back))
