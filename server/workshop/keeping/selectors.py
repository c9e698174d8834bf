import json
from collections import Counter
from dataclasses import replace
from datetime import datetime, timedelta
from pathlib import Path
from typing import Any

from django.conf import settings

from workshop.access import require_lead
from workshop.background import WORDS, set_aside
from workshop.days import day_of
from workshop.models import PassphraseTyped, Person

from .minutes import age_of, ago, minutes_kept
from .shapes import Keeping

LATE, OLD_DRILL = 1.1, timedelta(days=14)  # one that was missed is one too many
ROOM = 10  # backups that still have to fit
_NOBODY = Keeping(
    kept=False, alarm=False, last="", free="", drill="", where="", failed="", aside="",
    passphrase="", typed=True, minutes="",
)  # fmt: skip
_NOT_TYPED = (
    "Nobody has typed the backups' passphrase back yet. Without it none of them can be put back: type it "
    "in from where you keep it."
)


def told_check() -> str:
    """What a passphrase typed back is held against; empty where the backups are sealed with none of
    ours."""
    return str(_told().get("check") or "")


def _typed(check: str) -> tuple[str, bool]:
    """What is known of the passphrase, and whether that is enough."""
    if not check:
        return "", True
    found = PassphraseTyped.objects.filter(check_of=check).select_related("person").first()
    if found is None:
        return _NOT_TYPED, False
    return f"{found.person.name} typed it back on {day_of(found.at).isoformat()}.", True


def _told() -> dict[str, Any]:
    try:
        found = json.loads(Path(settings.KEPT).read_text()) if settings.KEPT else {}
    except (OSError, ValueError):
        return {}
    return found if isinstance(found, dict) else {}


def _size(octets: float) -> str:
    return f"{octets / 1e9:.1f} GB" if octets >= 1e9 else f"{octets / 1e6:.1f} MB"


def _aside() -> str:
    """What was tried in the background and is tried no more."""
    codes = Counter(set_aside())
    told = ", ".join(f"{WORDS.get(code, code)} ({codes[code]})" for code in sorted(codes))
    said = "The log says why. It is tried once more when the server starts."
    return f"Tried three times and set aside: {told}. {said}" if codes else ""


def keeping(actor: Person, now: datetime) -> Keeping:
    """How the backups of this workshop stand. A lead's to see."""
    require_lead(actor)
    told, aside = _told(), _aside()
    if not told:
        return replace(_NOBODY, aside=aside, alarm=bool(aside))
    age, size, free = age_of(told.get("made_at"), now), told.get("bytes") or 0, told.get("free")
    every = timedelta(hours=float(told.get("every_hours") or 0))
    drill = told.get("drill") or {}
    drilled = age_of(drill.get("at"), now)
    late = age is None or (bool(every) and age > LATE * every)
    tight = free is not None and free < ROOM * size
    bad = drilled is not None and (not drill.get("good") or drilled > OLD_DRILL)
    sealed = "encrypted" if told.get("encrypted") else "not encrypted"
    last = "None yet." if age is None else f"{ago(age).capitalize()}, {_size(size)}, {sealed}."
    tried = "None yet." if drilled is None else f"{ago(drilled).capitalize()}: "
    if drilled is not None:
        tried += (
            "everything was there." if drill.get("good") else "it was not whole. Look at the log."
        )
    failed = str(told.get("failed") or "")
    passphrase, typed = _typed(told_check())
    minutes = minutes_kept(told.get("minutes"), now)
    return Keeping(
        kept=True,
        alarm=late or tight or bad or minutes.alarm or bool(failed or aside) or not typed,
        last=last,
        free=""
        if free is None
        else f"{_size(free)} free" + (", which is little." if tight else "."),
        drill=tried,
        where=str(told.get("folder", ""))
        + (f", and {told['also_to']}" if told.get("also_to") else ""),
        failed=f"The last try failed: {failed}." if failed else "",
        aside=aside,
        passphrase=passphrase,
        typed=typed,
        minutes=minutes.said,
    )
