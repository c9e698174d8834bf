"""What is said of a school: what it is about, where it acts, and whose it is."""

from ..codes.schools import SchoolTopic
from ..guard import whole_table

LABELS: dict[SchoolTopic, str] = whole_table(
    SchoolTopic,
    {
        SchoolTopic.TORQUE: "Inside a torque range",
        SchoolTopic.WASHER: "Crush washer",
        SchoolTopic.RING: "O-ring",
        SchoolTopic.SEALANT: "On the plug's threads",
        SchoolTopic.FILTER: "Oil filter",
        SchoolTopic.FLUID: "Which oil",
        SchoolTopic.INTERVAL: "Intervals",
        SchoolTopic.FEEL: "Tightened by feel",
    },
)
ACTS: dict[SchoolTopic, str] = whole_table(
    SchoolTopic,
    {
        SchoolTopic.TORQUE: "What the wrench is set to when the manual gives a range.",
        SchoolTopic.WASHER: "What goes on at the seal step, and what the kit counts.",
        SchoolTopic.RING: "What goes on at the seal step, and what the kit counts.",
        SchoolTopic.SEALANT: "What the refit step says.",
        SchoolTopic.FILTER: "Whether the next change is proposed with its filter.",
        SchoolTopic.FLUID: "What the shelf calls a fit.",
        SchoolTopic.INTERVAL: "When a reservoir is due.",
        SchoolTopic.FEEL: "Whether what was tightened without a wrench needs a second look.",
    },
)
THIS_BIKES = "this bike's school"
THE_WORKSHOPS = "the workshop's school"
USUAL = "usual practice"


def whose(choice: str, whose: str) -> str:
    """``middle (the workshop's school)``."""
    return f"{choice} ({whose})"


def acts(topic: SchoolTopic, chosen: object) -> str:
    """A school where it acts."""
    return f"{LABELS[topic]}: {chosen}."
