"""Cells to sheet: the values of a spec sheet, each with its source, folded into reservoirs."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from datetime import date
from decimal import Decimal
from enum import StrEnum
from typing import TypeVar

from ..codes.roles import Role
from ..codes.suspension import GapRod, GapSpring, LegFunction, LegKind
from ..due import DueLimits
from ..errors import CoreError
from ..torque import TorqueSpec
from .fields import IDLING, field_of
from .form import Field, Form, Path, Value
from .kinds import KINDS, FillRule, ReservoirKind
from .leg import LegSpec
from .read import read_value
from .ride import AT_VALVE, RideSpec
from .sheet import (
    EDGES,
    Fastener,
    LevelCheck,
    Marks,
    Requirement,
    ReservoirSpec,
    Spot,
    Variant,
)


@dataclass(frozen=True, kw_only=True)
class Cell:
    """One value as the manual gives it, where it stands there, who wrote it and who checked it: what they
    are called, and as which persons; nobody where nobody knows which."""

    written: str
    document: str = ""
    page: str = ""
    entered_by: str = ""
    entered_on: date | None = None
    checked_by: str = ""
    checked_on: date | None = None
    entered_by_who: str = ""
    checked_by_who: str = ""

    @property
    def one_pair(self) -> bool:
        """Whether whoever wrote it compared it themselves, nobody else being there."""
        return bool(self.checked_by_who) and self.checked_by_who == self.entered_by_who

    @property
    def source(self) -> str:
        """``workshop manual, p. 27``."""
        return f"{self.document}, p. {self.page}" if self.page else self.document


Cells = Mapping[Path, Cell]
_Word = TypeVar("_Word", bound=StrEnum)
_KIND_ORDER = list(ReservoirKind)
_UNCHECKED_FORMS = (Form.TEXT, Form.CHOICE, Form.YES_NO, Form.SPOT)


class _Values:
    """The read values of one reservoir or part; what cannot be read counts as missing."""

    def __init__(self, cells: Mapping[str, Cell], part: bool) -> None:
        self.read: dict[str, Value] = {}
        for name, cell in cells.items():
            try:
                field = field_of(Path("r", "part" if part else "", name))
                self.read[name] = read_value(field, cell.written)
            except CoreError:
                continue

    def text(self, name: str) -> str:
        value = self.read.get(name)
        return value if isinstance(value, str) else ""

    def middle(self, name: str) -> Decimal | None:
        value = self.read.get(name)
        if isinstance(value, tuple):
            return (value[0] + value[1]) / 2
        return value if isinstance(value, Decimal) else None

    def pair(self, name: str) -> tuple[Decimal, Decimal] | None:
        value = self.read.get(name)
        return value if isinstance(value, tuple) else None

    def count(self, name: str) -> int | None:
        value = self.read.get(name)
        return value if isinstance(value, int) else None

    def yes(self, name: str) -> bool:
        return self.read.get(name) is True

    def torque(self) -> TorqueSpec | None:
        value = self.read.get("torque")
        return value if isinstance(value, TorqueSpec) else None

    def spot(self) -> Spot | None:
        value = self.read.get("spot")
        return value if isinstance(value, Spot) else None


def _fastener(key: str, cells: Mapping[str, Cell]) -> Fastener:
    read = _Values(cells, part=True)
    role = read.text("role") or next((r for r in Role if key.startswith(r)), key)
    return Fastener(
        role=role,
        place=read.text("place"),
        thread=read.text("thread"),
        drive=read.text("drive"),
        magnet=read.yes("magnet"),
        soft=any(read.text(name) in ("aluminium", "plastic") for name in ("material", "made of")),
        torque=read.torque(),
        seal=read.text("seal"),
        key=key,
        spot=read.spot(),
        sealant=read.text("sealant"),
        pattern=read.text("pattern"),
        count=read.count("count") or 1,
        one_use=read.yes("one use"),
        safety_wire=read.yes("safety wire"),
        direction=read.text("direction"),
        adapter=read.middle("adapter"),
        goes_into=read.text("material"),
        made_of=read.text("made of"),
        adapter_angle=Decimal(read.text("adapter angle").removesuffix("°") or 0),
        no_magnet=read.read.get("magnet") is False,
        element={"element": True, "spin-on": False}.get(read.text("sort")),
        seal_kind=read.text("seal kind"),
        critical=read.yes("safety-critical"),
    )


# how far apart marks are taken to be where the sheet does not say: a sixth of the book, and no more than
# that [our definition]
_MARKS_SHARE, _MARKS_MOST = Decimal(6), Decimal(500)


# minutes after the run, where the sheet does not say: until a tank has drained back, until marks for warm
# oil are out [our definitions]
_TANK_DRAINS_BACK, _GOES_COLD = Decimal(10), Decimal(30)


def _latest(read: _Values, kind: ReservoirKind) -> Decimal | None:
    said, engine = read.middle("level.latest"), read.text("level.engine")
    if said or not read.middle("level.run"):
        return said or None
    if engine == IDLING:
        return None
    if kind == ReservoirKind.ENGINE_DRY:
        return _TANK_DRAINS_BACK
    return _GOES_COLD if engine in ("warm", "hot") else None


def _level(read: _Values, kind: ReservoirKind, capacities: Iterable[Decimal]) -> LevelCheck | None:
    gauge, between = read.text("level.gauge"), read.middle("level.between")
    if not gauge:
        return None
    book = max(capacities, default=_MARKS_MOST * _MARKS_SHARE)
    assumed = max(min(round(book / _MARKS_SHARE, -1), _MARKS_MOST), Decimal(10))
    second_attitude, second = (
        read.text("level.second attitude"),
        read.middle("level.second between"),
    )
    target = read.middle("level.target")
    return LevelCheck(
        gauge=gauge,
        attitude=read.text("level.attitude"),
        run_minutes=read.middle("level.run") or Decimal(0),
        settle_minutes=read.middle("level.settle") or Decimal(0),
        between_marks=between or (Decimal(0) if gauge in EDGES else assumed),
        assumed=not between and gauge not in EDGES,
        latest=_latest(read, kind),
        target=Decimal("0.75") if target is None else target,
        dipstick=read.text("level.dipstick"),
        engine=read.text("level.engine"),
        second=Marks(second_attitude, second) if second_attitude and second else None,
    )


def _said(words: type[_Word], text: str) -> _Word | None:
    return words(text) if text else None


def _leg(read: _Values) -> LegSpec:
    return LegSpec(
        kind=_said(LegKind, read.text("leg.kind")),
        function=_said(LegFunction, read.text("leg.function")),
        outer=read.middle("leg.outer"),
        gap_spring=_said(GapSpring, read.text("level.gap spring")),
        gap_rod=_said(GapRod, read.text("level.gap rod")),
        bore=read.middle("leg.bore"),
        rod=read.middle("leg.rod"),
        seal=read.middle("leg.seal"),
        travel=read.middle("leg.travel"),
        height=read.middle("leg.height"),
        rate=read.middle("spring.rate"),
        spring_new=read.middle("spring.new"),
        spring_limit=read.middle("spring.limit"),
        compression=read.middle("set.compression"),
        rebound=read.middle("set.rebound"),
        preload=read.middle("set.preload"),
        pressure=read.middle("air.pressure"),
    )


def _ride(read: _Values, leg: LegSpec) -> RideSpec:
    return RideSpec(
        travel=read.middle("shock.travel") or leg.travel,
        stroke=read.middle("shock.stroke"),
        pitch=read.middle("set.pitch"),
        static=read.pair("sag.static"),
        rider=read.pair("sag.rider"),
        gas=read.middle("gas.pressure"),
        gas_read=read.text("gas.read") == AT_VALVE,
    )


def _requirement(read: _Values) -> Requirement:
    return Requirement(
        grade=read.text("fluid.grade"),
        kv40=read.pair("fluid.kv40"),
        kv100=read.pair("fluid.kv100"),
        friction=read.text("fluid.friction"),
        service=read.text("fluid.service"),
        base=read.text("fluid.base"),
        approval=read.text("fluid.approval"),
    )


def _limits(read: _Values) -> DueLimits:
    hours = read.count("repeat.hours")
    return DueLimits(
        first_km=read.middle("first.km"),
        first_months=read.count("first.months"),
        repeat_km=read.middle("repeat.km"),
        repeat_months=read.count("repeat.months"),
        repeat_hours=None if hours is None else Decimal(hours),
    )


def _looks(read: _Values) -> DueLimits:
    return DueLimits(repeat_km=read.middle("look.km"), repeat_months=read.count("look.months"))


def is_number(field: Field) -> bool:
    """Whether a slip in this field would be a wrong number, so that it wants a second check."""
    return field.form not in _UNCHECKED_FORMS


def _unchecked(cells: Mapping[Path, Cell]) -> frozenset[str]:
    return frozenset(
        f"{path.part}/{path.field}"
        for path, cell in cells.items()
        if not cell.checked_by and is_number(field_of(path))
    )


def _one_pair(cells: Mapping[Path, Cell]) -> frozenset[str]:
    return frozenset(
        f"{path.part}/{path.field}"
        for path, cell in cells.items()
        if cell.one_pair and is_number(field_of(path))
    )


def reservoir_of(key: str, cells: Cells) -> ReservoirSpec:
    """One reservoir from its cells. Raises CoreError ``spec.no_kind`` without a readable kind."""
    parts: dict[str, dict[str, Cell]] = {}
    for path, cell in cells.items():
        parts.setdefault(path.part, {})[path.field] = cell
    read = _Values(parts.pop("", {}), part=False)
    kind_text = read.text("kind")
    if not kind_text:
        raise CoreError("spec.no_kind", text=key)
    kind, rule = ReservoirKind(kind_text), read.text("fill rule")
    book = {v: read.middle(f"capacity.{v.value}") for v in Variant}
    capacities = {variant: ml for variant, ml in book.items() if ml is not None}
    return ReservoirSpec(
        key=key,
        kind=kind,
        label=read.text("label") or key,
        fill_rule=FillRule(rule) if rule else KINDS[kind].fill_rule,
        capacities=capacities,
        initial=read.middle("initial"),
        level=_level(read, kind, capacities.values()),
        requirement=_requirement(read),
        prefill=read.middle("prefill") or Decimal(0),
        fasteners=tuple(_fastener(name, fields) for name, fields in parts.items()),
        limits=_limits(read),
        looks=_looks(read),
        serves=read.text("serves"),
        air_gap=read.middle("level.air gap"),
        filter_every=read.count("filter every"),
        seal_life=read.count("seal life"),
        caution=read.text("caution"),
        reset=read.text("reset"),
        cooling=read.text("cooling"),
        leg=_leg(read),
        ride=_ride(read, _leg(read)),
        unchecked=_unchecked(cells),
        one_pair=_one_pair(cells),
    )


def by_reservoir(cells: Cells) -> dict[str, dict[Path, Cell]]:
    """The cells of each reservoir, in the order a bike is drawn."""
    found: dict[str, dict[Path, Cell]] = {}
    for path, cell in cells.items():
        found.setdefault(path.reservoir, {})[path] = cell

    def place(key: str) -> tuple[int, str]:
        kind = found[key].get(Path(key, "", "kind"))
        known = kind is not None and kind.written in list(ReservoirKind)
        return (_KIND_ORDER.index(ReservoirKind(kind.written)) if kind and known else 99, key)

    return {key: found[key] for key in sorted(found, key=place)}


def sheet_of(cells: Cells) -> tuple[ReservoirSpec, ...]:
    """Every reservoir of a sheet. A reservoir whose kind is not written yet is left out."""
    return tuple(
        reservoir_of(key, own)
        for key, own in by_reservoir(cells).items()
        if Path(key, "", "kind") in own
    )


def overlay(cells: Cells, over: Cells) -> dict[Path, Cell]:
    """A bike's own values laid over its model's sheet; a reservoir the sheet lacks is not made."""
    keys = {path.reservoir for path in cells}
    return {**cells, **{path: cell for path, cell in over.items() if path.reservoir in keys}}


def written_in(cells: Cells, path: Path, text: str, cell: Cell) -> dict[Path, Cell]:
    """The cells with one more value, read first. Raises CoreError as `read_value` does."""
    read_value(field_of(path), text)
    return {**cells, path: replace(cell, written=text.strip())}


def unused_key(wanted: str, taken: Iterable[str]) -> str:
    """``fork leg``, or ``fork leg 2`` if that is taken: a key for a new reservoir or part."""
    known = set(taken)
    names = [wanted, *(f"{wanted} {n}" for n in range(2, len(known) + 3))]
    return next(name for name in names if name not in known)
