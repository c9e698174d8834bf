"""What the garage's API says and takes."""

from dataclasses import dataclass, field

from workshop.shapes import BLANK, upto


@dataclass(frozen=True, kw_only=True)
class BikeForm:
    """A bike as it is entered, numbers as typed. ``id`` is the client's; ``version`` is the one the
    writer saw; ``odometer`` and ``hours`` only count for a new bike. ``engine_at``: what the odometer
    showed when another engine was fitted (empty: it is the first one), ``engine_had``: what that
    engine had run."""

    id: str
    model: int
    name: str = upto(60, blank=True)
    owner: str = upto(80, blank=True)
    use_class: str
    odometer_unit: str
    records: str
    new_on: str = upto(40, blank=True)
    severity: str = upto(40, blank=True)
    counts_hours: bool
    notes: str = upto(10000, blank=True)
    archived: bool
    version: int
    odometer: str = upto(200, blank=True, default="")
    hours: str = upto(100, blank=True, default="")
    plate: str = upto(20, blank=True, default="")
    frame_number: str = upto(40, blank=True, default="")
    year_built: str = upto(20, blank=True, default="")
    engine_number: str = upto(40, blank=True, default="")
    engine_at: str = upto(100, blank=True, default="")
    engine_had: str = upto(100, blank=True, default="")


@dataclass(frozen=True)
class ModelChoice:
    id: int
    name: str


@dataclass(frozen=True, kw_only=True)
class BikeFormPage:
    """A bike's form with what can be chosen in it."""

    form: BikeForm
    models: list[ModelChoice]
    use_classes: list[str]
    records: list[str]


@dataclass(frozen=True, kw_only=True)
class PhotoLine:
    id: str
    caption: str
    taken_on: str
    taken_by: str


@dataclass(frozen=True)
class SchoolLine:
    """What counts for a kind of reservoir, and whose choice it is."""

    kind: str
    choice: str
    whose: str


@dataclass(frozen=True, kw_only=True)
class SchoolTopic:
    key: str
    label: str
    acts: str
    choices: list[str]
    lines: list[SchoolLine]


@dataclass(frozen=True)
class SchoolsPage:
    """Every practice that can be chosen, for the workshop or for one bike."""

    topics: list[SchoolTopic]
    may_choose: bool


@dataclass(frozen=True, kw_only=True)
class SchoolChoice:
    """A choice to make; ``bike`` empty: the workshop's; ``choice`` empty: back to what counts
    without it; ``seen`` is the choice it replaces."""

    kind: str = upto(20)
    topic: str = upto(12)
    choice: str = upto(40, blank=True)
    bike: str = field(default="", metadata=BLANK)
    seen: str = upto(40, blank=True, default="")
