from datetime import date
from decimal import Decimal
from typing import Any
from uuid import UUID

from garage.models import Bike, OdometerReading
from oilward_core.debris import Verdict
from workshop.models import Person

from .models import Finding


def keep_finding(
    bike: Bike,
    reservoir: str,
    data: dict[str, Any],
    verdict: Verdict,
    *,
    finding_id: UUID,
    found_on: date,
    reading: OdometerReading,
    km_since_wiped: Decimal,
    actor: Person,
) -> Finding:
    """Keep what a plug showed, with its verdict. Same id, same row: safe to repeat."""
    row, _ = Finding.objects.get_or_create(
        id=finding_id,
        defaults={
            "bike": bike,
            "reservoir": reservoir,
            "found_on": found_on,
            "reading": reading,
            "km_since_wiped": km_since_wiped,
            "parts": data["parts"],
            "oil": data["oil"],
            "note": data.get("note", ""),
            "level": verdict.level.word,
            "origin": verdict.origin,
            "action": verdict.action,
            "rules": [f"{rule.rule}: {rule.text}" for rule in verdict.spoke],
            "wear": {matter.value: str(value) for matter, value in verdict.wear.items()},
            "found_by": actor,
        },
    )
    return row
