"""How steps and fasteners stand. Codes."""

from enum import StrEnum


class Status(StrEnum):
    """Where a step stands."""

    DONE = "done"
    SKIPPED = "skipped"
    RUNNING = "running"
    READY = "ready"
    BLOCKED = "blocked"


class Stands(StrEnum):
    """How a fastener stands: by what was done to it, or as it came."""

    CLOSED = "closed"
    OUT = "out"
    LOOSE = "loose"
    FINGER_TIGHT = "finger tight"
    PULLED = "pulled"
    TIGHT = "tight"
    LEAKING = "leaking"
    SEIZED = "seized"
    NEW = "new"
    UNPROVEN = "unproven"
    IN = "in"
    TORQUED = "torqued"
    OLD = "old"


class Sight(StrEnum):
    """What a gauge shows: a level between its marks, or nothing of it; what an edge shows: oil runs out
    of it, or it is dry."""

    SEEN = "seen"
    BELOW = "below"
    ABOVE = "above"
    RUNS_OUT = "runs out"
    DRY = "dry"


EDGE_SIGHTS = (Sight.RUNS_OUT, Sight.DRY)


class Basis(StrEnum):
    """What an amount was held against."""

    LAST = "last"
    LAST_AND_SINCE = "last and since"
    BOOK = "book"
    COACH_POURS = "coach pours"
    COACH_WAITS = "coach waits"
    COACH_REMOVES = "coach removes"
    HOLDS = "holds"
    IS_IN = "is in"
    FILTER = "filter"
    AIM = "aim"
    OTHER_LEG = "other leg"
    SHEET = "sheet"
    EARLIER = "earlier"
