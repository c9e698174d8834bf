"""The minutes of a workshop, looked after beside the work: copied, handed on, tried, told."""

from datetime import UTC, datetime, timedelta
from typing import Any

from . import archive, elsewhere
from .house import House
from .journal import log
from .postgres import READER, Postgres

WHOLE, PART = timedelta(days=7), timedelta(days=1)
_KEPT = """
SELECT last_archived_time::text, last_failed_time > coalesce(last_archived_time, '-infinity')
FROM pg_catalog.pg_stat_archiver
"""


def since(told: Any) -> timedelta:
    """How long ago a moment is that was told; very long, if none was."""
    try:
        return datetime.now(UTC) - datetime.fromisoformat(str(told))
    except (ValueError, TypeError):
        return timedelta(days=9999)


class Minutes:
    """What is told of them stands in a file that the lead's page reads, under ``minutes``."""

    def __init__(self, name: str, house: House) -> None:
        self.name, self.house, self.archive = name, house, archive.archive_of(house)
        self.also_to = str(house.backup.get("also_to", ""))

    def due(self, told: dict[str, Any]) -> bool:
        """Whether a copy to begin from is to be made; one that failed is tried again in an hour."""
        lately = min(since(told.get("copied_at")), since(told.get("tried_at")) * 24)
        return lately >= PART

    def copied(self, told: dict[str, Any]) -> dict[str, Any]:
        """Make one: the whole once a week, else what has changed since."""
        now, whole = datetime.now(UTC).isoformat(), since(told.get("whole_at")) >= WHOLE
        if failed := archive.copied(self.archive, Postgres(self.name), whole):
            log.error("no copy to begin the minutes from: %s", failed)
            return {"tried_at": now, "copy_failed": failed}
        log.info("a copy to begin the minutes from: %s", "whole" if whole else "what has changed")
        return {"copied_at": now, "copy_failed": "", **({"whole_at": now} if whole else {})}

    def look(self) -> dict[str, Any]:
        """How far they reach, and where to."""
        with Postgres(self.name).connect(role=READER) as connection:
            reaches, failing = connection.execute(_KEPT).fetchone() or ("", False)
        refused = elsewhere.mirrored(self.archive.repo, self.also_to, True) if self.also_to else ""
        if refused:
            log.error("%s", refused)
        return {
            "reaches": reaches or "",
            "failing": bool(failing),
            "same_disk": self.archive.same_disk() and (not self.also_to or bool(refused)),
            "refused": refused,
        }

    def tried(self) -> dict[str, Any]:
        """Put them back into a folder that is thrown away."""
        try:
            reached, good = archive.tried(self.house), True
        except (SystemExit, OSError) as error:
            log.error("the minutes cannot be put back: %s", error)
            print(f"The minutes cannot be put back: {error}", flush=True)
            reached, good = "", False
        return {"drill": {"at": datetime.now(UTC).isoformat(), "reached": reached, "good": good}}
