"""From what was typed to what is kept: one way, whatever kind of entry it is."""

from ..codes.entries import EntryKind
from ..errors import CoreError
from ..expected import Expected
from ..guard import guarded
from ..runsheet import Step, TaskPlan
from .acts import Hearing
from .asks import ACTS, ALWAYS, ASKS
from .entries import Data, Entry, Speaker
from .fold.state import TaskState
from .typed import Raw, typed


@guarded
def kind_of(text: str) -> EntryKind:
    """The kind of entry a word names. Raises CoreError ``entry.no_kind``."""
    found = next((kind for kind in EntryKind if kind == text), None)
    if found is None:
        raise CoreError("entry.no_kind", field="kind", name=text[:40])
    return found


@guarded
def read_entry(
    step: Step, kind: EntryKind, raw: Raw, speaker: Speaker, expected: Expected | None = None
) -> Data:
    """What was typed, as it is kept, held against what is ``expected`` of it.

    ``sure`` among the raw input is the answer to an earlier question. Raises the questions
    ``expected.slip``, ``expected.far`` and ``expected.vessel``, and CoreError with the field it belongs
    to under ``field``: quantity codes, ``entry.*``, ``finding.*``, ``sheet.choose``,
    ``sheet.not_ticked``, ``sheet.reason``, ``sheet.no_skip``, ``sheet.wrong_kind``.
    """
    act = ACTS[kind]
    if kind not in ALWAYS and act not in ASKS[step.ask].acts:
        raise CoreError("sheet.wrong_kind", step=step.title)
    try:
        data: Data = act.read(Hearing(step, speaker, expected), typed(act.typed, raw))
    except CoreError as error:
        raise error.at(act.field) from error
    return data


@guarded
def expected_at(
    task: TaskPlan,
    state: TaskState,
    step: Step,
    kind: EntryKind,
    raw: Raw,
    corrected: bool = False,
) -> Expected | None:
    """What a typed amount or reading of a step is held against; None where nothing is known. Raises
    CoreError ``entry.*`` for what does not fit its kind."""
    act = ACTS[kind]
    if act not in ASKS[step.ask].acts:
        return None
    return ASKS[step.ask].expects(task, state, step, typed(act.typed, raw), corrected)


@guarded
def as_before(old: Entry, raw: Raw) -> Raw:
    """The raw input of a correction, with what it does not speak of as it was written down before:
    whether the filler was closed, which oil, where it was drawn off, which wrench."""
    silent = [group for group in ACTS[old.kind].keeps if not any(name in raw for name in group)]
    kept = {name: getattr(old.data, name) for group in silent for name in group}
    return {**{name: value for name, value in kept.items() if value != ""}, **raw}
