"""The spec sheet: its fields, the cells that fill them, what follows from them, what looks wrong."""

from ..codes.poses import ATTITUDES, Pose
from ..codes.roles import FILTERS, PLUGS, Role
from .approval import (
    check_approval,
    counts,
    hold_against_sheet,
    in_writing,
    matters,
    same_value,
    sourced,
    taken_in,
    unchecked_that_matter,
)
from .cells import (
    Cell,
    Cells,
    by_reservoir,
    is_number,
    overlay,
    reservoir_of,
    sheet_of,
    unused_key,
    written_in,
)
from .changes import Change, changes, sentence_case, what
from .doubts import Doubt, capacity_band, doubts
from .fields import (
    AIR_ALONE,
    IDLING,
    PART_FIELDS,
    RESERVOIR_FIELDS,
    field_of,
    fields_for,
    part_fields_for,
)
from .form import Field, Form, Path, Value
from .gaps import Gap, gaps
from .groups import grouped, level_note, short_name
from .kinds import (
    COLUMNS as WARD_COLUMNS,
)
from .kinds import (
    DRAINED,
    KINDS,
    WATCHED_ONLY,
    FillRule,
    KindFacts,
    Recipe,
    ReservoirKind,
    of_recipe,
)
from .layouts import LAYOUTS, Offer, proposed
from .leg import LegSpec
from .leg_copy import lent
from .needed import missing, needed
from .packing import pack, unpack
from .read import read_setting, read_value
from .ride import RideSpec
from .sheet import (
    NO_CLUTCH,
    Fastener,
    LevelCheck,
    Marks,
    Requirement,
    ReservoirSpec,
    Spot,
    Variant,
    wets_a_clutch,
    why_not_serviceable,
)
from .table import COLUMNS, Proposed, guess_columns, propose, read_table
from .words import said

__all__ = [
    "AIR_ALONE",
    "ATTITUDES",
    "COLUMNS",
    "DRAINED",
    "FILTERS",
    "IDLING",
    "KINDS",
    "LAYOUTS",
    "NO_CLUTCH",
    "PART_FIELDS",
    "PLUGS",
    "RESERVOIR_FIELDS",
    "WARD_COLUMNS",
    "WATCHED_ONLY",
    "Cell",
    "Cells",
    "Change",
    "Doubt",
    "Fastener",
    "Field",
    "FillRule",
    "Form",
    "Gap",
    "KindFacts",
    "LegSpec",
    "LevelCheck",
    "Marks",
    "Offer",
    "Path",
    "Pose",
    "Proposed",
    "Recipe",
    "Requirement",
    "ReservoirKind",
    "ReservoirSpec",
    "RideSpec",
    "Role",
    "Spot",
    "Value",
    "Variant",
    "by_reservoir",
    "capacity_band",
    "changes",
    "check_approval",
    "counts",
    "doubts",
    "field_of",
    "fields_for",
    "gaps",
    "grouped",
    "guess_columns",
    "hold_against_sheet",
    "in_writing",
    "is_number",
    "lent",
    "level_note",
    "matters",
    "missing",
    "needed",
    "of_recipe",
    "overlay",
    "pack",
    "part_fields_for",
    "propose",
    "proposed",
    "read_setting",
    "read_table",
    "read_value",
    "reservoir_of",
    "said",
    "same_value",
    "sentence_case",
    "sheet_of",
    "short_name",
    "sourced",
    "taken_in",
    "unchecked_that_matter",
    "unpack",
    "unused_key",
    "wets_a_clutch",
    "what",
    "why_not_serviceable",
    "written_in",
]
