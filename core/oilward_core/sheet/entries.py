"""Entries: the append-only things somebody recorded, and reading raw input into them."""

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass
from datetime import datetime
from decimal import Decimal, InvalidOperation
from typing import Any

from ..debris import Form, Matter, OilLook, Part
from ..errors import CoreError
from ..expected import Expected, hold_against
from ..guard import guarded
from ..quantity import Kind, Measure, Preference, parse_single, read_count, read_number
from ..spec import field_of, read_value
from .steps import Step, StepKind

Data = Mapping[str, Any]


@dataclass(frozen=True)
class Entry:
    """Something recorded: ``id`` is made by the client, ``at`` is when it happened, ``supersedes``
    the id of the entry it corrects. ``data`` is canonical and JSON-able (numbers as strings)."""

    id: str
    step: str
    kind: str
    data: Data
    at: datetime
    by: str
    supersedes: str | None = None


@dataclass(frozen=True)
class Speaker:
    """Who types: units taken by bare numbers and used in words, and their idea of an ounce."""

    volume: str = "ml"
    torque: str = "N·m"
    preference: Preference = "us"


# which entries a step takes; the first one completes it
KINDS: dict[StepKind, tuple[str, ...]] = {
    StepKind.LOOKUP: ("look up",),
    StepKind.CHECK: ("confirm",),
    StepKind.TIMER: ("stop", "start"),
    StepKind.GATE: ("answer",),
    StepKind.DRAIN: ("stop", "start"),
    StepKind.AMOUNT: ("amount",),
    StepKind.FINDING: ("finding",),
    StepKind.CHOICE: ("answer",),
    StepKind.TORQUE: ("torque",),
    StepKind.FILTER: ("filter",),
    StepKind.FILL: ("pour",),
    StepKind.LEVEL: ("level", "cause"),
    StepKind.LEAKS: ("leaks",),
}
DRY = "dry"
MOST_PIECES = 1000


def number(raw: Any, field: str, code: str) -> Decimal:
    """A number from JSON that nobody typed (a drag in the glass), or CoreError ``code`` at ``field``."""
    try:
        value = Decimal(str(raw))
    except (InvalidOperation, ValueError) as error:
        raise CoreError(code, field=field) from error
    if not value.is_finite():
        raise CoreError(code, field=field)
    return value


def _listed(raw: Data, name: str) -> list[Any]:
    """A list from JSON; anything else counts as an empty one."""
    found = raw.get(name)
    return found if isinstance(found, list) else []


def _held(said: Measure, raw: Data, expected: Expected | None) -> dict[str, Any]:
    """What was asked about an amount and answered “it stands”, to be kept with the entry."""
    asked = hold_against(said, expected, str(raw.get("sure") or ""))
    return {"asked": {"code": asked.code, "expected": asked.expected}} if asked else {}


def _volume(raw: Data, speaker: Speaker, expected: Expected | None) -> dict[str, Any]:
    measure = parse_single(
        str(raw.get("amount") or ""), Kind.VOLUME, speaker.volume, speaker.preference
    )
    held = _held(measure, raw, expected)
    return {"ml": str(measure.low), "said": measure.text, "unit": measure.unit, **held}


def _ticked(step: Step, raw: Data) -> list[str]:
    ticked = [item for item in step.items if item in _listed(raw, "items")]
    if len(ticked) < len(step.items):
        missing = next(item for item in step.items if item not in ticked)
        raise CoreError("sheet.not_ticked", field="items", item=missing)
    return ticked


def _confirm(step: Step, raw: Data, speaker: Speaker, expected: Expected | None) -> dict[str, Any]:
    return {"items": _ticked(step, raw)}


def _nothing(step: Step, raw: Data, speaker: Speaker, expected: Expected | None) -> dict[str, Any]:
    return {}


def _answer(step: Step, raw: Data, speaker: Speaker, expected: Expected | None) -> dict[str, Any]:
    value = raw.get("value")
    if value not in step.options:
        raise CoreError("sheet.choose", field="value", options=list(step.options))
    return {"value": value}


def _amount(step: Step, raw: Data, speaker: Speaker, expected: Expected | None) -> dict[str, Any]:
    return _volume(raw, speaker, expected)


def _filter(step: Step, raw: Data, speaker: Speaker, expected: Expected | None) -> dict[str, Any]:
    ticked = _ticked(step, raw)
    said = str(raw.get("amount") or "").strip()
    prefill = (
        _volume(raw, speaker, expected)
        if said not in ("", "0")
        else {"ml": "0", "said": said, "unit": speaker.volume}
    )
    return {"items": ticked, **prefill}


def _torque(step: Step, raw: Data, speaker: Speaker, expected: Expected | None) -> dict[str, Any]:
    said = str(raw.get("reading") or "")
    unit = str(raw.get("unit") or speaker.torque)
    measure = parse_single(said, Kind.TORQUE, unit)
    held = _held(measure, raw, expected)
    return {"nm": str(measure.low), "said": said, "wrench": str(raw.get("wrench") or ""), **held}


def _one_of(value: Any, words: type[Form] | type[Matter] | type[OilLook], field: str) -> Any:
    try:
        return words(value)
    except ValueError as error:
        raise CoreError("sheet.choose", field=field, options=[str(w) for w in words]) from error


def _count(raw: Any) -> int | None:
    if raw in (None, ""):
        return None
    try:
        return read_count(str(raw), MOST_PIECES)
    except CoreError as error:
        raise CoreError("finding.count", field="count") from error


def _percent(raw: Any) -> Decimal:
    try:
        return read_number(str(raw).strip().removesuffix("%"), Decimal(0), Decimal(100)) / 100
    except CoreError as error:
        raise CoreError("finding.share", field="share") from error


def read_part(raw: Data, speaker: Speaker) -> Part:
    """One kind of debris as typed: share in percent, largest piece with or without a unit (mm)."""
    share = _percent(raw.get("share_percent", 0))
    said = str(raw.get("largest") or "").strip()
    largest = None
    if said:
        try:
            largest = parse_single(said, Kind.LENGTH, "mm", speaker.preference).low
        except CoreError as error:
            raise error.at("largest") from error
    magnetic = raw.get("magnetic")
    return Part(
        _one_of(raw.get("form"), Form, "form"),
        _one_of(raw.get("matter"), Matter, "matter"),
        share,
        largest,
        _count(raw.get("count")),
        magnetic if isinstance(magnetic, bool) else None,
    )


@guarded
def part_data(part: Part) -> dict[str, Any]:
    """A part as JSON-able data; `part_from` is its way back."""
    return {
        "form": part.form.value,
        "matter": part.matter.value,
        "share": str(part.share),
        "largest_mm": None if part.largest_mm is None else str(part.largest_mm),
        "count": part.count,
        "magnetic": part.magnetic,
    }


@guarded
def part_from(data: Data) -> Part:
    """A part from stored data."""
    largest = data.get("largest_mm")
    return Part(
        Form(data["form"]),
        Matter(data["matter"]),
        Decimal(data["share"]),
        None if largest is None else Decimal(largest),
        data.get("count"),
        data.get("magnetic"),
    )


def _finding(step: Step, raw: Data, speaker: Speaker, expected: Expected | None) -> dict[str, Any]:
    parts = [read_part(part, speaker) for part in _listed(raw, "parts") if isinstance(part, dict)]
    if sum(part.share for part in parts) > 1:
        raise CoreError("finding.share_sum", field="share")
    oil = [_one_of(look, OilLook, "oil") for look in _listed(raw, "oil")]
    return {
        "parts": [part_data(part) for part in parts],
        "oil": [look.value for look in oil],
        "note": str(raw.get("note") or "")[:2000],
    }


SIGHTS = ("seen", "below", "above")


def _level(step: Step, raw: Data, speaker: Speaker, expected: Expected | None) -> dict[str, Any]:
    if raw.get("attitude") not in step.options:
        raise CoreError("sheet.attitude", field="attitude", options=list(step.options))
    sight = raw.get("sight", "seen")
    if sight not in SIGHTS:
        raise CoreError("sheet.choose", field="sight", options=list(SIGHTS))
    position = number(raw.get("position", 0), "position", "sheet.position")
    if not Decimal("-0.5") <= position <= Decimal("1.5"):
        raise CoreError("sheet.position", field="position")
    return {"sight": sight, "position": str(position), "attitude": raw["attitude"]}


def _cause(step: Step, raw: Data, speaker: Speaker, expected: Expected | None) -> dict[str, Any]:
    cause = str(raw.get("cause") or "").strip()
    if not cause:
        raise CoreError("sheet.reason", field="cause")
    return {"cause": cause[:500]}


def _look_up(step: Step, raw: Data, speaker: Speaker, expected: Expected | None) -> dict[str, Any]:
    assert step.path is not None
    written = str(raw.get("written") or "").strip()
    read_value(field_of(step.path), written)
    document = str(raw.get("document") or "").strip()[:120]
    if not document:
        raise CoreError("spec.no_source", field="document")
    page = str(raw.get("page") or "").strip()[:20]
    return {"path": str(step.path), "written": written, "document": document, "page": page}


def _leaks(step: Step, raw: Data, speaker: Speaker, expected: Expected | None) -> dict[str, Any]:
    result = raw.get("result")
    if result != DRY and result not in step.items:
        raise CoreError("sheet.choose", field="result", options=[DRY, *step.items])
    return {"result": result}


def _skip(step: Step, raw: Data, speaker: Speaker, expected: Expected | None) -> dict[str, Any]:
    if not step.skippable:
        raise CoreError("sheet.no_skip", step=step.title)
    reason = str(raw.get("reason") or "").strip()
    if not reason:
        raise CoreError("sheet.reason", field="reason")
    return {"reason": reason[:500]}


_Reader = Callable[[Step, Data, Speaker, Expected | None], dict[str, Any]]
# raw field that a quantity error belongs to, and the reader, by entry kind
_READERS: dict[str, tuple[str, _Reader]] = {
    "look up": ("written", _look_up),
    "confirm": ("items", _confirm),
    "start": ("", _nothing),
    "stop": ("", _nothing),
    "answer": ("value", _answer),
    "amount": ("amount", _amount),
    "pour": ("amount", _amount),
    "filter": ("amount", _filter),
    "torque": ("reading", _torque),
    "finding": ("parts", _finding),
    "level": ("position", _level),
    "cause": ("cause", _cause),
    "leaks": ("result", _leaks),
    "skip": ("reason", _skip),
}


def read_entry(
    step: Step, kind: str, raw: Data, speaker: Speaker, expected: Expected | None = None
) -> dict[str, Any]:
    """Raw input of an entry as canonical data, held against what is ``expected`` of it.

    ``sure`` among the raw input is the answer to an earlier question. Raises the questions
    ``expected.slip`` and ``expected.far``, and CoreError with the field it belongs to under
    ``field``: quantity codes, ``finding.*``, ``sheet.choose``, ``sheet.not_ticked``,
    ``sheet.reason``, ``sheet.no_skip``, ``sheet.wrong_kind``.
    """
    if kind not in (*KINDS[step.kind], "skip"):
        raise CoreError("sheet.wrong_kind", step=step.title)
    field, reader = _READERS[kind]
    try:
        return reader(step, raw, speaker, expected)
    except CoreError as error:
        raise error.at(field) from error


def in_order(entries: Iterable[Entry]) -> list[Entry]:
    """Entries by time, each id once, without those that a later one corrects.

    Whatever order and repetition they arrive in, the same list comes out.
    """
    unique = {entry.id: entry for entry in entries}
    corrected = {entry.supersedes for entry in unique.values() if entry.supersedes}
    kept = [entry for entry in unique.values() if entry.id not in corrected]
    return sorted(kept, key=lambda entry: (entry.at, entry.id))
