"""A laboratory's reports as an open document or a table, read line by line: what can be read is, what
cannot is named with its line. The published schema is made here."""

import csv
import json
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass
from datetime import date
from decimal import Decimal
from io import StringIO
from typing import Any

from ..codes.laboratory import Element
from ..errors import CoreError
from ..guard import Sound, guarded, keepable
from ..quantity import read_number

FORMAT = "oil-ward/lab-report/1"
MOST_LINES = 100_000
COUNTS = ("p4", "p6", "p14")
_MOST: dict[str, Decimal] = {
    "kv100": Decimal(1000),
    "water": Decimal(100),
    "fuel": Decimal(100),
    **dict.fromkeys(COUNTS, Decimal(10**9)),
}
VALUES = (*(element.value for element in Element), *_MOST)
_PPM = Decimal(1_000_000)
Json = dict[str, Any]


@dataclass(frozen=True, kw_only=True)
class LabLine(Sound):
    """One report: the label of its sample, when it came, from which laboratory, and its values by name
    (elements in mg/kg, ``kv100`` in cSt, ``water`` and ``fuel`` in %, ``p4`` ``p6`` ``p14`` per ml)."""

    line: int
    label: str
    received: date
    laboratory: str
    values: Mapping[str, Decimal]


@dataclass(frozen=True, kw_only=True)
class LabFault(Sound):
    """A line that cannot be taken: its number, the field, and the code with its facts."""

    line: int
    field: str
    code: str
    fields: Mapping[str, Any]


def schema() -> Json:
    """The JSON Schema (draft 2020-12) of a document of reports."""
    number = {
        "type": ["number", "string"],
        "description": "a number; “<1” is below what is measured",
    }
    report = {
        "type": "object",
        "properties": {
            "label": {"type": "string", "minLength": 1, "maxLength": 20},
            "received": {"type": "string", "format": "date"},
            "laboratory": {"type": "string", "maxLength": 80},
            **{name: number for name in VALUES},
        },
        "required": ["label", "received"],
        "additionalProperties": False,
    }
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": "Reports of a laboratory on used oil",
        "type": "object",
        "properties": {
            "format": {"const": FORMAT},
            "reports": {"type": "array", "items": report, "maxItems": MOST_LINES},
        },
        "required": ["format", "reports"],
        "additionalProperties": False,
    }


def _value(name: str, said: str) -> Decimal:
    """A value as a laboratory prints it; below what it can measure counts as none."""
    if said.startswith("<"):
        read_number(said[1:].strip(), Decimal(0), _MOST.get(name, _PPM))
        return Decimal(0)
    return read_number(said, Decimal(0), _MOST.get(name, _PPM))


def _named(raw: Mapping[str, Any]) -> dict[str, str]:
    """Every value as text under the name it is known by, whatever its case."""
    known = {name.lower(): name for name in (*VALUES, "label", "received", "laboratory")}
    named = {}
    for key, value in raw.items():
        name = known.get(str(key).strip().lower())
        if not keepable(str(key)) or not keepable(str(value)):
            raise CoreError("lab.characters", field=name or "")
        if name is None:
            raise CoreError("lab.column", field=str(key)[:40])
        named[name] = "" if value is None else str(value).strip()
    return named


def _line(number: int, raw: Mapping[str, Any]) -> LabLine:
    said = _named(raw)
    label = said.pop("label", "")
    if not label:
        raise CoreError("lab.label", field="label")
    try:
        received = date.fromisoformat(said.pop("received", ""))
    except ValueError as error:
        raise CoreError("lab.received", field="received") from error
    laboratory = said.pop("laboratory", "")[:80]
    values = {}
    for name, text in said.items():
        if not text:
            continue
        try:
            values[name] = _value(name, text)
        except CoreError as error:
            raise error.at(name) from error
    if not values:
        raise CoreError("lab.empty", field="label")
    return LabLine(
        line=number,
        label=label.upper()[:20],
        received=received,
        laboratory=laboratory,
        values=values,
    )


def _rows(text: str) -> Iterator[tuple[int, Mapping[str, Any]]]:
    """Lines of a table by their number in the file; reports of a document by their place."""
    if text.lstrip()[:1] in ("{", "["):
        document = json.loads(text)
        if not isinstance(document, dict) or document.get("format") != FORMAT:
            raise CoreError("lab.format", format=FORMAT)
        reports = document.get("reports")
        for number, report in enumerate(reports if isinstance(reports, list) else [], 1):
            yield number, report if isinstance(report, dict) else {}
        return
    head = text.splitlines()[0] if text.strip() else ""
    apart = max(",;\t", key=head.count)
    for number, row in enumerate(csv.DictReader(StringIO(text), delimiter=apart), 2):
        if None in row:
            raise CoreError("lab.columns", line=number)
        yield number, row


@guarded
def read_reports(
    text: str, labels: Iterable[str] | None = None, today: date | None = None
) -> tuple[tuple[LabLine, ...], tuple[LabFault, ...]]:
    """The reports a file holds, and what is wrong with the others, by line. ``labels``: the samples that
    wait for one; a report for no sample is a fault, and so is one dated after ``today``, or one with
    half a character in it. A mark of the byte order before the first line is nothing. Raises CoreError
    ``lab.format`` for what is neither a table nor a document, and ``lab.long`` above 100 000 lines."""
    text = text.removeprefix("\ufeff")
    known = None if labels is None else {label.upper() for label in labels}
    lines: list[LabLine] = []
    faults: list[LabFault] = []
    try:
        for number, raw in _rows(text):
            if number > MOST_LINES:
                raise CoreError("lab.long", most=MOST_LINES)
            try:
                read = _line(number, raw)
                if known is not None and read.label not in known:
                    raise CoreError("lab.no_sample", field="label", label=read.label)
                if today is not None and read.received > today:
                    raise CoreError("lab.ahead", field="received", on=read.received.isoformat())
                lines.append(read)
            except CoreError as error:
                field = str(error.fields.get("field", ""))
                faults.append(
                    LabFault(line=number, field=field, code=error.code, fields=error.fields)
                )
    except (csv.Error, json.JSONDecodeError, RecursionError) as error:
        raise CoreError("lab.format", format=FORMAT) from error
    return tuple(lines), tuple(faults)
