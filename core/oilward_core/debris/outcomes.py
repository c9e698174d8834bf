"""What a finding asks for until somebody answers it. Common practice, no source."""

from collections.abc import Iterable, Sequence

from ..codes.debris import Level, Outcome
from ..guard import guarded

# what ends a finding's asking; a bike handed back stays on hold until a lead lifts it
_CLOSES = (
    Outcome.NOTHING,
    Outcome.FAULT,
    Outcome.LIFTED,
    Outcome.HANDED_OUT,
    Outcome.TOPPED_UP,
)


@guarded
def outcomes_of(level: Level) -> tuple[Outcome, ...]:
    """What may be answered to a finding of a level: *investigate* is closed by what was found, *hold*
    by a lead as well; anything milder asks for nothing beyond the next look."""
    found = (Outcome.NOTHING, Outcome.FAULT)
    if level == Level.INVESTIGATE:
        return found
    return (*found, Outcome.LIFTED, Outcome.HANDED_BACK) if level == Level.HOLD else ()


@guarded
def asks_on(level: Level, answers: Iterable[Outcome]) -> bool:
    """Whether a finding still asks: *investigate* and *hold* do until they are answered, whatever the
    next finding shows; *watch* asks for the next look only."""
    return level >= Level.INVESTIGATE and not any(answer in _CLOSES for answer in answers)


@guarded
def watched(level: Level, answers: Iterable[Outcome]) -> bool:
    """Whether the next look comes at half the interval and starts with a sample of the oil: *watch*
    asks for it, and so does anything graver in which no fault was put right."""
    return level >= Level.WATCH and Outcome.FAULT not in answers


@guarded
def still_asking(findings: Iterable[tuple[Level, tuple[Outcome, ...]]]) -> tuple[bool, ...]:
    """Which findings of a reservoir, newest first with their answers, still ask. What was found for one
    answers the earlier ones that were no graver."""
    said: list[bool] = []
    answered: Level | None = None
    for level, answers in findings:
        asks = asks_on(level, answers) and (answered is None or level > answered)
        said.append(asks)
        if answers and not asks_on(level, answers):
            answered = level if answered is None else max(answered, level)
    return tuple(said)


@guarded
def asks_most(still: Sequence[Level], newest: Level | None) -> int | None:
    """Which finding of a reservoir asks the most: of those ``still`` asking the gravest, by its place;
    where none is, the ``newest`` if it says *watch* (the place after the last); else None."""
    if still:
        return max(range(len(still)), key=lambda place: still[place])
    return len(still) if newest == Level.WATCH else None
