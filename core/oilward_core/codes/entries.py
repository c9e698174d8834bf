"""The kinds there are: what a step asks for, and what can be written down. Both are codes."""

from enum import StrEnum


class Ask(StrEnum):
    """What a step asks for; each is a room of its own in `bench.asks`, of the same name."""

    LOOK_UP = "look up"
    CHECK = "check"
    TIMER = "timer"
    GATE = "gate"
    DRAIN = "drain"
    AMOUNT = "amount"
    FINDING = "finding"
    CHOICE = "choice"
    TORQUE = "torque"
    FILTER = "filter"
    FILL = "fill"
    WAIT = "wait"
    LEVEL = "level"
    RAN_OUT = "ran out"
    LEAKS = "leaks"
    MEASURE = "measure"


class EntryKind(StrEnum):
    """What can be written down at a step: work on it, what is said of it, and asides."""

    LOOK_UP = "look up"
    CONFIRM = "confirm"
    START = "start"
    STOP = "stop"
    ANSWER = "answer"
    AMOUNT = "amount"
    FINDING = "finding"
    REGRADE = "regrade"
    ALSO_SEEN = "also seen"
    TORQUE = "torque"
    TICKED = "ticked"
    TORE = "tore"
    SECOND = "second look"
    FILTER = "filter"
    POUR = "pour"
    DRAW = "draw"
    LEVEL = "level"
    CAUSE = "cause"
    LEFT = "left"
    RAN_OUT = "ran out"
    LEAKS = "leaks"
    MEASURE = "measure"
    SKIP = "skip"
    ANSWERED = "answered"
    TAKES = "takes"
    GIVES_UP = "gives up"
    WAITS = "waits"
    GOES_ON = "goes on"
    TAKES_OVER = "takes over"
    STANDS = "stands"
    OPENS_AGAIN = "opens again"
    CALLS = "calls"
    LENDS = "lends"
    LETS_GO = "lets go"


# no work at their step: who has it, what the visit waits for, that somebody took it over, how the bike
# stands now, that what was shut is out again, and a second pair of hands that is called for, lent and
# let go again
ASIDES = (
    EntryKind.TAKES,
    EntryKind.GIVES_UP,
    EntryKind.WAITS,
    EntryKind.GOES_ON,
    EntryKind.TAKES_OVER,
    EntryKind.STANDS,
    EntryKind.OPENS_AGAIN,
    EntryKind.CALLS,
    EntryKind.LENDS,
    EntryKind.LETS_GO,
)
# how a plug was read: by whoever did it, and by a second pair of eyes, whose reading then counts
GRADINGS = (EntryKind.FINDING, EntryKind.REGRADE)
