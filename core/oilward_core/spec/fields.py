"""The fields of a spec sheet: what can be written down, of what form, and where it belongs.

A sheet is a set of cells. Each cell stands at a path, ``reservoir/part/field``; part is empty for
the reservoir itself and otherwise names a plug, filter or screw.
"""

from ..codes.poses import ATTITUDES
from ..codes.roles import FILTERS, PLUGS, Role
from ..errors import CoreError
from .form import Field, Form, Path
from .kinds import KINDS, FillRule, Recipe, ReservoirKind
from .leg_fields import LEG_FIELDS
from .ride_fields import RIDE_FIELDS, SHOCK_FIELDS
from .sheet import NO_CLUTCH, WET_CLUTCH, Variant

IDLING = "idling"
AIR_ALONE = "air alone"
COOLINGS = (AIR_ALONE, "air, with a fan", "oil", "liquid")
GAUGES = ("sight glass", "dipstick", "overflow", "level plug", "level gauge", "marks")
FRICTION = (*WET_CLUTCH, "MB", NO_CLUTCH)
MATERIALS = ("steel", "cast iron", "aluminium", "plastic")
MADE_OF = ("steel", "aluminium", "plastic")
ANGLES = ("0°", "45°", "90°", "135°", "180°")  # 0: straight on from the handle
FILTER_SORTS = ("spin-on", "element")
SEAL_KINDS = ("flat", "folded", "bonded", "O-ring", "gasket")


def _volume(name: str, label: str, plate: str, hint: str = "2.7 l or 3 qt 4 oz") -> Field:
    return Field(
        name=name, label=label, form=Form.VOLUME, plate=plate, unit="", choices=(), hint=hint
    )


RESERVOIR_FIELDS = (
    Field(
        name="kind",
        label="Kind",
        form=Form.CHOICE,
        plate="What",
        choices=tuple(k.value for k in ReservoirKind),
    ),
    Field(name="label", label="Called", form=Form.TEXT, plate="What"),
    Field(
        name="serves",
        label="Serves",
        form=Form.TEXT,
        plate="What",
        hint="crankcase, gearbox and clutch",
    ),
    Field(name="cooling", label="Cooled by", form=Form.CHOICE, plate="What", choices=COOLINGS),
    Field(
        name="fill rule",
        label="Filled by",
        form=Form.CHOICE,
        plate="What",
        choices=tuple(r.value for r in FillRule),
    ),
    *(
        _volume(f"capacity.{variant.value}", f"Capacity, {variant.value}", "Capacity")
        for variant in Variant
    ),
    _volume("initial", "First amount", "Capacity"),
    _volume("prefill", "Filter pre-fill", "Capacity"),
    Field(name="level.gauge", label="Read on", form=Form.CHOICE, plate="Level", choices=GAUGES),
    Field(
        name="level.dipstick",
        label="Dipstick",
        form=Form.CHOICE,
        plate="Level",
        choices=("resting on its threads", "screwed in"),
    ),
    Field(
        name="level.attitude",
        label="Bike stands",
        form=Form.CHOICE,
        plate="Level",
        choices=ATTITUDES,
    ),
    Field(
        name="level.engine",
        label="Engine",
        form=Form.CHOICE,
        plate="Level",
        choices=("cold", "warm", "hot", IDLING),
    ),
    Field(
        name="level.run",
        label="Run before reading",
        form=Form.TIME,
        plate="Level",
        unit="min",
        hint="2 min",
    ),
    Field(
        name="level.settle",
        label="Settle before reading",
        form=Form.TIME,
        plate="Level",
        unit="min",
        hint="3 min",
    ),
    Field(
        name="level.latest",
        label="Read at the latest",
        form=Form.TIME,
        plate="Level",
        unit="min",
        hint="10 min",
    ),
    _volume("level.between", "Low to high mark", "Level"),
    Field(
        name="level.target",
        label="Fill to",
        form=Form.SHARE,
        plate="Level",
        hint="0.75 of the way up",
    ),
    Field(
        name="level.second attitude",
        label="Second marks, stands",
        form=Form.CHOICE,
        plate="Level",
        choices=ATTITUDES,
    ),
    _volume("level.second between", "Second marks, low to high", "Level"),
    Field(
        name="level.air gap",
        label="Air gap",
        form=Form.LENGTH,
        plate="Level",
        unit="mm",
        hint="112 mm, leg collapsed",
    ),
    *LEG_FIELDS,
    *RIDE_FIELDS,
    *SHOCK_FIELDS,
    Field(name="fluid.grade", label="Grade", form=Form.TEXT, plate="Fluid", hint="20W-50"),
    Field(
        name="fluid.kv40",
        label="Viscosity at 40 °C",
        form=Form.VISCOSITY,
        plate="Fluid",
        unit="cSt",
        hint="20-26 cSt",
    ),
    Field(
        name="fluid.kv100",
        label="Viscosity at 100 °C",
        form=Form.VISCOSITY,
        plate="Fluid",
        unit="cSt",
        hint="13-18 cSt",
    ),
    Field(
        name="fluid.friction",
        label="Friction class",
        form=Form.CHOICE,
        plate="Fluid",
        choices=FRICTION,
    ),
    Field(
        name="fluid.service",
        label="Service category",
        form=Form.TEXT,
        plate="Fluid",
        hint="API SL or GL-5",
    ),
    Field(name="fluid.base", label="Base", form=Form.TEXT, plate="Fluid", hint="mineral"),
    Field(name="fluid.approval", label="Approval", form=Form.TEXT, plate="Fluid"),
    Field(
        name="first.km",
        label="First service, distance",
        form=Form.DISTANCE,
        plate="When",
        unit="",
        hint="1000 km",
    ),
    Field(
        name="first.months",
        label="First service, time",
        form=Form.MONTHS,
        plate="When",
        hint="2 months",
    ),
    Field(
        name="repeat.km",
        label="Then every, distance",
        form=Form.DISTANCE,
        plate="When",
        unit="",
        hint="8000 km",
    ),
    Field(
        name="repeat.months",
        label="Then every, time",
        form=Form.MONTHS,
        plate="When",
        hint="12 months",
    ),
    Field(
        name="repeat.hours", label="Then every, hours", form=Form.HOURS, plate="When", hint="20 h"
    ),
    Field(
        name="look.km",
        label="Looked at every, distance",
        form=Form.DISTANCE,
        plate="When",
        unit="",
        hint="5000 km",
    ),
    Field(
        name="look.months",
        label="Looked at every, time",
        form=Form.MONTHS,
        plate="When",
        hint="6 months",
    ),
    Field(
        name="filter every",
        label="Filter every n-th change",
        form=Form.COUNT,
        plate="When",
        hint="1",
    ),
    Field(name="seal life", label="Seals last, services", form=Form.COUNT, plate="When", hint="3"),
    Field(name="reset", label="Service indicator reset", form=Form.TEXT, plate="Words"),
    Field(name="caution", label="Caution", form=Form.TEXT, plate="Words"),
)
PART_FIELDS = (
    Field(name="role", label="Is a", form=Form.CHOICE, plate="", choices=tuple(Role)),
    Field(
        name="torque",
        label="Torque",
        form=Form.TORQUE,
        plate="",
        unit="",
        hint="18-25 ft-lb or 3/4 turn",
    ),
    Field(name="place", label="Where", form=Form.TEXT, plate="", hint="under the crankcase, left"),
    Field(name="spot", label="On the map", form=Form.SPOT, plate=""),
    Field(name="thread", label="Thread", form=Form.TEXT, plate="", hint="M14x1.5"),
    Field(name="drive", label="Tool", form=Form.TEXT, plate="", hint="17 mm socket"),
    Field(
        name="adapter",
        label="Crow-foot, from drive to drive",
        form=Form.LENGTH,
        plate="",
        hint="35 mm",
    ),
    Field(
        name="adapter angle",
        label="Crow-foot, from in line",
        form=Form.CHOICE,
        plate="",
        choices=ANGLES,
    ),
    Field(name="material", label="Goes into", form=Form.CHOICE, plate="", choices=MATERIALS),
    Field(name="made of", label="Made of", form=Form.CHOICE, plate="", choices=MADE_OF),
    Field(name="magnet", label="Magnet", form=Form.YES_NO, plate="", choices=("yes", "no")),
    Field(name="seal", label="Seal", form=Form.TEXT, plate="", hint="crush washer 14 mm"),
    Field(name="seal kind", label="Kind of seal", form=Form.CHOICE, plate="", choices=SEAL_KINDS),
    Field(name="sealant", label="Sealant", form=Form.TEXT, plate="", hint="PTFE paste"),
    Field(name="count", label="How many", form=Form.COUNT, plate=""),
    Field(
        name="pattern",
        label="Order",
        form=Form.CHOICE,
        plate="",
        choices=("opposite pairs", "star", "as numbered"),
    ),
    Field(name="one use", label="One use only", form=Form.YES_NO, plate="", choices=("yes", "no")),
    Field(
        name="safety wire", label="Safety wire", form=Form.YES_NO, plate="", choices=("yes", "no")
    ),
    Field(
        name="safety-critical",
        label="Two people",
        form=Form.YES_NO,
        plate="",
        choices=("yes", "no"),
    ),
    Field(name="sort", label="Sort of filter", form=Form.CHOICE, plate="", choices=FILTER_SORTS),
    Field(
        name="direction", label="Which way round", form=Form.TEXT, plate="", hint="open end inwards"
    ),
)
_FIELDS = {("", f.name): f for f in RESERVOIR_FIELDS} | {("part", f.name): f for f in PART_FIELDS}


def field_of(path: Path) -> Field:
    """The field a path names. Raises CoreError ``spec.no_field``."""
    field = _FIELDS.get(("part" if path.part else "", path.field))
    if field is None:
        raise CoreError("spec.no_field", text=path.field)
    return field


_WATCHED = ("What", "Fluid", "Words")
_LOOKS = ("look.km", "look.months")
_WATCHED_FIELDS = (
    "level.gauge",
    "level.attitude",
    "level.engine",
    "repeat.km",
    "repeat.months",
    *_LOOKS,
)
_ENGINE_ONLY = ("capacity.with filter", "prefill", "filter every", "reset", "cooling")


def _belongs(field: Field, kind: ReservoirKind, rule: FillRule | None) -> bool:
    facts = KINDS[kind]
    if facts.watched and field.name not in _ENGINE_ONLY:
        return field.plate in _WATCHED or field.name in _WATCHED_FIELDS
    if field.name in _LOOKS:
        return facts.looked_at
    if field.name in _ENGINE_ONLY and not facts.runs_engine:
        return False
    if field.name == "level.air gap" or field in LEG_FIELDS:
        return facts.recipe == Recipe.FORK
    if field in RIDE_FIELDS:
        return facts.recipe in (Recipe.FORK, Recipe.SHOCK)
    if field in SHOCK_FIELDS:
        return facts.recipe == Recipe.SHOCK
    if field.plate == "Level" and rule in (FillRule.EXACT, FillRule.AIR_GAP, FillRule.REBUILD):
        return False
    return not (field.name == "fluid.friction" and facts.recipe in (Recipe.FORK, Recipe.SHOCK))


def fields_for(kind: ReservoirKind, rule: FillRule | None) -> tuple[Field, ...]:
    """The fields a reservoir of this kind, filled by this rule, can have."""
    return tuple(f for f in RESERVOIR_FIELDS if _belongs(f, kind, rule))


_FILTER_ONLY, _SCREW_ONLY = ("sort", "direction"), ("pattern", "count")


def part_fields_for(role: str) -> tuple[Field, ...]:
    """The fields a plug, filter or screw can have."""
    hidden = (() if role in FILTERS else _FILTER_ONLY) + (_SCREW_ONLY if role in PLUGS else ())
    return tuple(f for f in PART_FIELDS if f.name not in hidden)
