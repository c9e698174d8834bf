"""What is only looked at: shocks, and what stands between two marks."""

from decimal import Decimal

from ...away import WARMTHS
from ...codes.entries import Ask
from ...codes.options import MARK_LOOKS, SHOCK_LOOKS
from ...codes.steps import JobKind, Name
from ...quantity import show
from ...said import options as choices
from ...said import steps as words
from ...spec import Recipe, ReservoirSpec
from ..ids import StepId, of_bike
from ..jobs import UPRIGHT
from ..needs import Need, done
from ..steps import Measured, PlannedTask, Step, chosen
from ..work import Work

# as long as anything takes to come back up, min; and as far as bushes give, mm [our definitions]
_REBOUNDS, _PLAYS = (Decimal("0.1") / 60, Decimal(10) / 60), (Decimal(0), Decimal(10))
# of the sheet's gas: less or more is another unit's number before it is a leak [our definition]
_GAS = Decimal("0.25"), Decimal("2.5")
_USUAL = Decimal("0.6") / 60, Decimal("0.2"), Decimal(20)
GAS, TEMPERATURE, BUSH_PLAY = "gas", "temperature", "bush play"
TIMES = ("rebound, first", "rebound, second", "rebound, third")
_OPTIONS = {Recipe.SHOCK: SHOCK_LOOKS, Recipe.WATCHED: MARK_LOOKS}


def _how(spec_recipe: Recipe, hydraulic: bool) -> str:
    """What its own sheet warns of stands beside it already."""
    said = words.LOOK_AT_SHOCK if spec_recipe == Recipe.SHOCK else words.LOOK_AT_MARKS
    return f"{said} {words.LOW_FLUID}" if hydraulic else said


def _felt(spec: ReservoirSpec) -> tuple[Measured, ...]:
    """What is felt and timed of a shock; its gas only where its sheet lets it be read."""
    took, play, warm = _USUAL
    timed = (Measured(name, "time", *_REBOUNDS, usual=took, once=True) for name in TIMES)
    bushes = Measured(BUSH_PLAY, "length", *_PLAYS, usual=play, once=True)
    charged = _gas_read(spec)
    if charged is None:
        return (bushes, *timed)
    least, most = (share * charged for share in _GAS)
    gas = Measured(GAS, "pressure", least, most, usual=charged, once=True)
    warmth = Measured(TEMPERATURE, "temperature", *WARMTHS, usual=warm, once=True)
    return (bushes, *timed, gas, warmth)


def _gas_read(spec: ReservoirSpec) -> Decimal | None:
    """What its gas is charged to, where its sheet lets it be read."""
    return spec.ride.gas if spec.ride.gas_read else None


def _feel(work: Work, spec: ReservoirSpec, job: str) -> tuple[Need, ...]:
    """Felt and timed before it is said how it is; what that brings about."""
    step = StepId(spec.key, Name.SHOCK_FELT)
    if spec.facts.recipe != Recipe.SHOCK or step in work.rounds.unasked:
        return ()
    charged = _gas_read(spec)
    gas = words.READ_GAS.format(show(charged, "bar")) if charged else ""
    said = words.step(Name.SHOCK_FELT, label=spec.label, gas=gas)
    felt = work.step(
        Step(
            id=step,
            job=job,
            ask=Ask.MEASURE,
            title=said.title,
            instruction=said.text,
            measured=_felt(spec),
            skippable=True,
            needs=(done(of_bike(Name.SUPPORT)),),
        )
    )
    return (done(felt),)


def write(work: Work, task: PlannedTask) -> None:
    """One look, said in one tap; a shock is felt and timed before."""
    spec = task.spec
    facts = spec.facts
    job = work.job(JobKind.LOOK, spec, attitude=UPRIGHT)
    said = words.step(
        Name.LOOK, label=spec.label, how=_how(facts.recipe, facts.hydraulic and not spec.caution)
    )
    before = _feel(work, spec, job)
    work.step(
        Step(
            id=StepId(spec.key, Name.LOOK),
            job=job,
            ask=Ask.CHOICE,
            title=said.title,
            instruction=said.text,
            options=chosen(choices.LOOKS, _OPTIONS[facts.recipe]),
            needs=(done(of_bike(Name.SUPPORT)), *before),
        )
    )
