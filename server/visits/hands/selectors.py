"""Where a second pair of hands is called for and nobody has come yet."""

from visits.models import Visit

from .shapes import CalledHands


def called() -> list[CalledHands]:
    """All open calls, the longest waiting first."""
    rows = Visit.objects.filter(state=Visit.State.OPEN, stands__hands__isnull=False)
    found = [
        CalledHands(
            visit=str(visit),
            bike=bike,
            by=hands["by"],
            who=hands.get("who", ""),
            since=hands["since"],
        )
        for visit, bike, hands in rows.values_list("pk", "bike__name", "stands__hands")
        if hands
    ]
    return sorted(found, key=lambda one: one.since)
