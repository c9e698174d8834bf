"""Raw input of an entry as canonical data: what was typed, ticked, dragged or tapped."""

from collections.abc import Callable
from dataclasses import replace
from decimal import Decimal, InvalidOperation
from enum import StrEnum
from typing import Any

from ..debris import Form, Matter, OilLook, Part, Place
from ..drained import DEGREES, USUAL_DENSITY, Warmth, at_20, weighed
from ..errors import CoreError
from ..expected import Expected, hold_against
from ..guard import guarded, whole_table
from ..quantity import Kind, Measure, parse, parse_single, read_count, read_number
from ..runsheet import Aside, Ask, Pose, Step, WaitsFor
from ..spec import field_of, read_value
from .entries import ANSWERED, DRY, GRADINGS, SKIP, Data, Speaker, part_data

# which entries a step takes; the first one completes it
KINDS: dict[Ask, tuple[str, ...]] = whole_table(
    Ask,
    {
        Ask.LOOKUP: ("look up",),
        Ask.CHECK: ("confirm",),
        Ask.TIMER: ("stop", "start"),
        Ask.GATE: ("answer",),
        Ask.DRAIN: ("stop", "start"),
        Ask.AMOUNT: ("amount",),
        Ask.FINDING: GRADINGS,
        Ask.CHOICE: ("answer",),
        Ask.TORQUE: ("torque",),
        Ask.FILTER: ("filter",),
        Ask.FILL: ("pour", "draw"),
        Ask.WAIT: ("stop", "start"),
        Ask.LEVEL: ("level", "cause"),
        Ask.LEAKS: ("leaks",),
        Ask.MEASURE: ("measure",),
    },
)
# what may be written down on any step: why it is skipped, what was found of a stop, whose it is
ALWAYS = (SKIP, ANSWERED, *Aside)
MOST_WORDS = 500
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


def _words(raw: Data, name: str) -> str:
    """A sentence somebody has to give."""
    said = str(raw.get(name) or "").strip()
    if not said:
        raise CoreError("sheet.reason", field=name)
    return said[:MOST_WORDS]


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


def _start(step: Step, raw: Data, speaker: Speaker, expected: Expected | None) -> dict[str, Any]:
    """Where oil is caught, whether its pan was clean before."""
    pan = raw.get("pan_clean")
    return {"pan_clean": pan} if step.ask == Ask.DRAIN and isinstance(pan, bool) else {}


def _answer(step: Step, raw: Data, speaker: Speaker, expected: Expected | None) -> dict[str, Any]:
    value, stood = raw.get("value"), raw.get("stood") or ""
    if value not in step.options:
        raise CoreError("sheet.choose", field="value", options=list(step.options))
    if stood and stood not in step.stood:
        raise CoreError("sheet.choose", field="stood", options=list(step.stood))
    return {"value": value, **({"stood": stood} if stood else {})}


SCALE = "scale"
_GRAMS = (Kind.MASS, "g")


def _in_hand(said: str, by: Any, speaker: Speaker) -> Measure:
    """What a jug shows, or a scale; of what was weighed the answer to a question is a volume."""
    volume = (Kind.VOLUME, speaker.volume, speaker.preference)
    if by != SCALE:
        return parse_single(said, *volume)
    try:
        return parse_single(said, *_GRAMS, speaker.preference)
    except CoreError as weight:
        try:
            return parse_single(said, *volume)
        except CoreError:
            raise weight from None


_COLDEST, _HOTTEST = Decimal(-40), Decimal(180)


def _celsius(raw: Data) -> Decimal | None:
    """How warm the oil is: by the thermometer, or else by the hand."""
    said = str(raw.get("celsius") or "").strip()
    if said:
        try:
            found = parse_single(said, Kind.TEMPERATURE, "°C").low
        except CoreError as error:
            raise error.at("celsius") from error
        if not _COLDEST <= found <= _HOTTEST:
            raise CoreError("drained.celsius", field="celsius")
        return found
    warmth = raw.get("warmth") or ""
    return Decimal(DEGREES[_one_of(warmth, Warmth, "warmth")]) if warmth else None


def _tare(raw: Data) -> Decimal:
    said = str(raw.get("tare") or "").strip()
    try:
        return parse_single(said, *_GRAMS).low if said else Decimal(0)
    except CoreError as error:
        raise error.at("tare") from error


def _amount(step: Step, raw: Data, speaker: Speaker, expected: Expected | None) -> dict[str, Any]:
    """What came out: by volume or by weight, less its pan; brought to 20 °C where its warmth is said."""
    found = _in_hand(str(raw.get("amount") or ""), raw.get("by"), speaker)
    celsius, density = _celsius(raw), step.density15 or USUAL_DENSITY
    by_weight = found.kind == Kind.MASS
    if by_weight:
        grams = found.low - _tare(raw)
        if grams <= 0:
            raise CoreError("drained.tare", field="tare")
        ml = weighed(grams, density)
    else:
        ml = found.low if celsius is None else at_20(found.low, celsius, density)
    as_volume = found if ml == found.low else replace(found, kind=Kind.VOLUME, low=ml, high=ml)
    if by_weight:
        as_volume = replace(as_volume, kind=Kind.VOLUME, unit="ml")
    warm = {} if celsius is None else {"celsius": str(celsius)}
    scale = {"by": SCALE} if by_weight else {}
    held = _held(as_volume, raw, expected)
    return {"ml": str(ml), "said": found.text, "unit": as_volume.unit, **warm, **scale, **held}


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
    turned = {"turned": _turn(raw)} if step.turn else {}
    wrench = str(raw.get("wrench") or "")
    return {"nm": str(measure.low), "said": said, "wrench": wrench, **turned, **held}


_MOST_DEGREES = Decimal(1800)


def _turn(raw: Data) -> str:
    """The angle turned after the wrench, in degrees: the second of its two readings."""
    said = str(raw.get("turned") or "").strip().removesuffix("°").strip()
    try:
        return str(read_number(said, Decimal(1), _MOST_DEGREES))
    except CoreError as error:
        raise CoreError("sheet.turned", field="turned") from error


def _pour(step: Step, raw: Data, speaker: Speaker, expected: Expected | None) -> dict[str, Any]:
    fluid = str(raw.get("fluid") or "").strip()[:80]
    closed = raw.get("closed") is True
    return {
        **_volume(raw, speaker, expected),
        **({"fluid": fluid} if fluid else {}),
        **({"closed": True} if closed else {}),
    }


def _draw(step: Step, raw: Data, speaker: Speaker, expected: Expected | None) -> dict[str, Any]:
    at = raw.get("from", step.options[0] if step.options else "")
    if step.options and at not in step.options:
        raise CoreError("sheet.choose", field="from", options=list(step.options))
    return {**_volume(raw, speaker, expected), "from": str(at)}


_MEASURES = {"length": (Kind.LENGTH, "mm"), "pressure": (Kind.PRESSURE, "kPa")}


def _measured(name: str, kind: str, said: str, speaker: Speaker) -> dict[str, Any]:
    family, unit = _MEASURES[kind]
    try:
        found = parse(said, family, unit, speaker.preference)
    except CoreError as error:
        raise error.at(name) from error
    return {"said": said, "low": str(found.low), "high": str(found.high)}


def _measure(step: Step, raw: Data, speaker: Speaker, expected: Expected | None) -> dict[str, Any]:
    """Values as found and as left; an empty one was not taken, and one is enough."""
    taken: dict[str, dict[str, Any]] = {"found": {}, "left": {}}
    for when, values in taken.items():
        said = raw.get(when)
        for one in step.measured:
            words = str(said.get(one.name) or "").strip()[:60] if isinstance(said, dict) else ""
            if words:
                values[one.name] = _measured(f"{when}.{one.name}", one.kind, words, speaker)
    if not any(taken.values()):
        first = step.measured[0].name if step.measured else ""
        raise CoreError("sheet.measure", field=f"found.{first}")
    return taken


def _answered(step: Step, raw: Data, speaker: Speaker, expected: Expected | None) -> dict[str, Any]:
    said = {"entry": str(raw.get("entry") or "")[:40], "reason": _words(raw, "reason")}
    return said | ({"handed_back": True} if raw.get("handed_back") is True else {})


def _one_of(value: Any, words: type[StrEnum], field: str) -> Any:
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


def _length(raw: Data, name: str, speaker: Speaker) -> Decimal | None:
    said = str(raw.get(name) or "").strip()
    try:
        return parse_single(said, Kind.LENGTH, "mm", speaker.preference).low if said else None
    except CoreError as error:
        raise error.at(name) from error


def read_part(raw: Data, speaker: Speaker) -> Part:
    """One kind of debris as typed: share in percent, largest piece and pile with or without a unit
    (mm)."""
    share = _percent(raw.get("share_percent", 0))
    largest = _length(raw, "largest", speaker)
    magnetic = raw.get("magnetic")
    return Part(
        form=_one_of(raw.get("form"), Form, "form"),
        matter=_one_of(raw.get("matter"), Matter, "matter"),
        share=share,
        largest_mm=largest,
        count=_count(raw.get("count")),
        magnetic=magnetic if isinstance(magnetic, bool) else None,
        place=_one_of(raw.get("place") or Place.PLUG, Place, "place"),
        pile_mm=_length(raw, "pile", speaker),
    )


MOST_PICTURES, MOST_SAID = 6, 200


def _pictures(raw: Data) -> list[dict[str, str]]:
    """Pictures by their id, each with the spot marked on it as shares of its width and height."""
    found = []
    for one in _listed(raw, "pictures")[:MOST_PICTURES]:
        if not isinstance(one, dict) or not str(one.get("id") or ""):
            raise CoreError("finding.picture", field="pictures")
        spot = {
            axis: str(number(one[axis], "pictures", "finding.picture"))
            for axis in ("x", "y")
            if one.get(axis) is not None
        }
        if any(not 0 <= Decimal(place) <= 1 for place in spot.values()):
            raise CoreError("finding.picture", field="pictures")
        found.append({"id": str(one["id"])[:40], **spot})
    return found


def _finding(step: Step, raw: Data, speaker: Speaker, expected: Expected | None) -> dict[str, Any]:
    parts = [read_part(part, speaker) for part in _listed(raw, "parts") if isinstance(part, dict)]
    if sum(part.share for part in parts if part.place == Place.PLUG) > 1:
        raise CoreError("finding.share_sum", field="share")
    oil = [_one_of(look, OilLook, "oil") for look in _listed(raw, "oil")]
    pan = raw.get("pan_clean")
    return {
        "parts": [part_data(part) for part in parts],
        "oil": [look.value for look in oil],
        "note": str(raw.get("note") or "")[:2000],
        "pan_clean": pan if isinstance(pan, bool) else None,
        "dipstick_flakes": raw.get("dipstick_flakes") is True,
        "seal_missing": raw.get("seal_missing") is True,
        "kept": str(raw.get("kept") or "").strip()[:MOST_SAID],
        "pictures": _pictures(raw),
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
    return {"cause": _words(raw, "cause")}


def _look_up(step: Step, raw: Data, speaker: Speaker, expected: Expected | None) -> dict[str, Any]:
    if step.path is None:
        raise CoreError("sheet.wrong_kind", step=step.title)
    written = str(raw.get("written") or "").strip()
    read_value(field_of(step.path), written)
    document = str(raw.get("document") or "").strip()[:120]
    if not document:
        raise CoreError("spec.no_source", field="document")
    page = str(raw.get("page") or "").strip()[:20]
    return {"path": str(step.path), "written": written, "document": document, "page": page}


def _leaks(step: Step, raw: Data, speaker: Speaker, expected: Expected | None) -> dict[str, Any]:
    result = raw.get("result")
    if result == DRY:
        return {"result": DRY}
    place = next((place for place in step.places if place.label == result), None)
    if place is None:
        labels = [place.label for place in step.places]
        raise CoreError("sheet.choose", field="result", options=[DRY, *labels])
    return {"result": place.label, "reservoir": place.reservoir, "part": place.part}


def _skip(step: Step, raw: Data, speaker: Speaker, expected: Expected | None) -> dict[str, Any]:
    if not step.skippable:
        raise CoreError("sheet.no_skip", step=step.title)
    return {"reason": _words(raw, "reason")}


def _waits(step: Step, raw: Data, speaker: Speaker, expected: Expected | None) -> dict[str, Any]:
    what = _one_of(raw.get("what"), WaitsFor, "what").value
    said = str(raw.get("words") or "").strip()[:MOST_WORDS]
    return {"what": what, "words": _words(raw, "words") if what == WaitsFor.ELSE else said}


def _takes_over(
    step: Step, raw: Data, speaker: Speaker, expected: Expected | None
) -> dict[str, Any]:
    hands = raw.get("hands") or []
    if not isinstance(hands, list):
        raise CoreError("sheet.choose", field="hands", options=[])
    return {"hands": [str(one)[:MOST_WORDS] for one in hands[:MOST_PIECES]]}


def _stands(step: Step, raw: Data, speaker: Speaker, expected: Expected | None) -> dict[str, Any]:
    """Nothing that is tilted is strapped."""
    pose = _one_of(raw.get("pose"), Pose, "pose")
    return {"pose": pose.value, "strapped": raw.get("strapped") is True and pose.straps}


_Reader = Callable[[Step, Data, Speaker, Expected | None], dict[str, Any]]
# raw field that a quantity error belongs to, and the reader, by entry kind
_READERS: dict[str, tuple[str, _Reader]] = {
    "look up": ("written", _look_up),
    "confirm": ("items", _confirm),
    "start": ("", _start),
    "stop": ("", _nothing),
    "answer": ("value", _answer),
    "amount": ("amount", _amount),
    "pour": ("amount", _pour),
    "draw": ("amount", _draw),
    "measure": ("found", _measure),
    "filter": ("amount", _filter),
    "torque": ("reading", _torque),
    "finding": ("parts", _finding),
    "regrade": ("parts", _finding),
    "level": ("position", _level),
    "cause": ("cause", _cause),
    "leaks": ("result", _leaks),
    "skip": ("reason", _skip),
    "answered": ("reason", _answered),
    Aside.TAKES: ("", _nothing),
    Aside.GIVES_UP: ("", _nothing),
    Aside.WAITS: ("words", _waits),
    Aside.GOES_ON: ("", _nothing),
    Aside.TAKES_OVER: ("hands", _takes_over),
    Aside.STANDS: ("pose", _stands),
    Aside.CALLS: ("", _nothing),
    Aside.LENDS: ("", _nothing),
    Aside.LETS_GO: ("", _nothing),
}


@guarded
def read_entry(
    step: Step, kind: str, raw: Data, speaker: Speaker, expected: Expected | None = None
) -> dict[str, Any]:
    """Raw input of an entry as canonical data, held against what is ``expected`` of it.

    ``sure`` among the raw input is the answer to an earlier question. Raises the questions
    ``expected.slip`` and ``expected.far``, and CoreError with the field it belongs to under
    ``field``: quantity codes, ``finding.*``, ``sheet.choose``, ``sheet.not_ticked``,
    ``sheet.reason``, ``sheet.no_skip``, ``sheet.wrong_kind``.
    """
    if kind not in (*KINDS[step.ask], *ALWAYS):
        raise CoreError("sheet.wrong_kind", step=step.title)
    field, reader = _READERS[kind]
    try:
        return reader(step, raw, speaker, expected)
    except CoreError as error:
        raise error.at(field) from error
