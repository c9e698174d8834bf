"""What the spec sheet's API says and takes."""

from dataclasses import dataclass, field

from workshop.shapes import BLANK, upto


@dataclass(frozen=True, kw_only=True)
class SheetLine:
    """A version of a model's sheet in a list."""

    id: int
    version: int
    state: str
    entered_by: str
    approved_by: str


@dataclass(frozen=True, kw_only=True)
class ModelLine:
    """A model with its sheets, newest first."""

    id: int
    make: str
    name: str
    year: int
    layout: str
    displacement_cc: int
    bikes: int
    sheets: list[SheetLine]


@dataclass(frozen=True)
class Models:
    """Every model, and what a new one can be."""

    models: list[ModelLine]
    layouts: list[str]


@dataclass(frozen=True, kw_only=True)
class NewModel:
    """A model to begin; ``year`` and ``displacement_cc`` as typed."""

    make: str = upto(60, blank=True)
    name: str = upto(60, blank=True)
    year: str = upto(40, blank=True)
    layout: str = upto(40, blank=True)
    displacement_cc: str = upto(40, blank=True)


@dataclass(frozen=True, kw_only=True)
class Row:
    """One value of a sheet. ``reads`` is what it means in the reader's units; ``revision`` goes
    back with a change; ``needed``: a run sheet would have to ask for it; ``one_pair``:
    whoever wrote it checked it alone."""

    path: str
    label: str
    form: str
    choices: list[str]
    hint: str
    written: str
    reads: str
    document: str
    page: str
    entered_by: str
    entered_by_who: str
    checked_by: str
    one_pair: bool
    number: bool
    revision: int
    needed: bool


@dataclass(frozen=True)
class Plate:
    """Rows that stand together."""

    title: str
    rows: list[Row]


@dataclass(frozen=True, kw_only=True)
class PartBlock:
    """A plug, filter or screw; ``x``/``y`` is its place on the bike map."""

    key: str
    role: str
    place: str
    torque: str
    x: float | None
    y: float | None
    revision: int
    rows: list[Row]


@dataclass(frozen=True, kw_only=True)
class ReservoirBlock:
    key: str
    kind: str
    label: str
    plates: list[Plate]
    parts: list[PartBlock]


@dataclass(frozen=True, kw_only=True)
class DoubtLine:
    """Something to look at again; ``answered_by`` once somebody has."""

    rule: str
    reservoir: str
    place: str
    text: str
    answered_by: str
    reason: str


@dataclass(frozen=True, kw_only=True)
class MissingLine:
    """Something nobody has written yet: the field (``path``) of a reservoir it belongs in, the part to
    ``add`` for it, and whether a run sheet will have to ask for it."""

    reservoir: str
    label: str
    path: str
    text: str
    add: str
    asked: bool


@dataclass(frozen=True)
class Offered:
    """A reservoir that a bike of this layout usually has and the sheet does not have yet."""

    kind: str
    key: str
    label: str


@dataclass(frozen=True, kw_only=True)
class UncheckedNumber:
    """A capacity, torque or level that no second person has compared with the manual."""

    path: str
    what: str
    written: str
    by: str
    who: str


@dataclass(frozen=True, kw_only=True)
class SheetPage:
    """A version of a model's sheet with everything there is to say about it."""

    id: int
    model: ModelLine
    version: int
    state: str
    approved_by: str
    reservoirs: list[ReservoirBlock]
    doubts: list[DoubtLine]
    changes: list[str]
    compared_with: int
    unchecked: int
    missing: list[MissingLine]
    offered: list[Offered]
    kinds: list[str]
    roles: list[str]
    may_edit: bool
    may_approve: bool
    not_approvable: str
    unchecked_numbers: list[UncheckedNumber]


@dataclass(frozen=True)
class Approval:
    """What is approved by name though nobody has checked it: the paths of ``unchecked_numbers``."""

    unchecked: list[str] = field(default_factory=list)


@dataclass(frozen=True)
class Reading:
    """What a value being typed means, and what looks wrong about it."""

    reads: str
    doubts: list[str]


@dataclass(frozen=True, kw_only=True)
class CellWrite:
    """A value to write. ``revision`` is the one the writer saw (0: none stood there); an empty
    ``written`` takes the value out; ``sure``: the answer to an earlier question."""

    path: str = upto(130)
    revision: int
    written: str = upto(400, blank=True, default="")
    document: str = upto(120, blank=True, default="")
    page: str = upto(20, blank=True, default="")
    sure: str = upto(400, blank=True, default="")


@dataclass(frozen=True, kw_only=True)
class OwnCheck:
    """That a bike's own value was compared with where it comes from, at the ``revision`` that was
    seen."""

    path: str = upto(130)
    revision: int


@dataclass(frozen=True)
class CellWrites:
    cells: list[CellWrite]


@dataclass(frozen=True)
class Paths:
    paths: list[str]


@dataclass(frozen=True, kw_only=True)
class NewPart:
    """A reservoir of some kind, or with ``reservoir`` a plug, filter or screw in it. With ``key`` it is
    the one of that name, called ``label``; what stands there already stays."""

    kind: str
    reservoir: str = field(default="", metadata=BLANK)
    key: str = upto(40, blank=True, default="")
    label: str = upto(60, blank=True, default="")


@dataclass(frozen=True, kw_only=True)
class Answer:
    """Somebody looked again, and the manual says so."""

    rule: str = upto(40)
    reservoir: str = upto(40)
    text: str = upto(400)
    reason: str = upto(200, blank=True)


@dataclass(frozen=True)
class CopyFrom:
    """Another sheet to copy missing values from; ``reservoirs`` empty: all of them."""

    sheet: int
    reservoirs: list[str] = field(default_factory=list)


@dataclass(frozen=True)
class LegLent:
    """What the fork leg ``to`` lacks, from the other one."""

    leg: str = upto(40)
    to: str = upto(40)


@dataclass(frozen=True, kw_only=True)
class Table:
    """A pasted table; ``columns`` empty: guess what they mean."""

    text: str = field(metadata=BLANK)
    reservoir: str = field(default="", metadata=BLANK)
    heading: bool = True
    columns: list[str] = field(default_factory=list)


@dataclass(frozen=True, kw_only=True)
class TableLine:
    """What a row would write; ``stands`` is what is there now, ``fault`` why it cannot."""

    line: int
    path: str
    label: str
    written: str
    document: str
    page: str
    stands: str
    revision: int
    fault: str


@dataclass(frozen=True, kw_only=True)
class TableReading:
    columns: list[str]
    choices: list[str]
    rows: list[list[str]]
    lines: list[TableLine]
