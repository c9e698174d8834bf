"""Everything kept ready instead of being worked out at each look: what each is made of besides the rules.

The rules are told apart by the code itself, so that a changed one makes all that was kept by the old one
stale, and nobody has to remember it."""

from dataclasses import dataclass
from functools import cache
from hashlib import sha256
from pathlib import Path
from typing import Any

import oilward_bench
import oilward_core

from .repeated import digest

_SERVER = Path(__file__).parents[1]
_RULES = (*oilward_core.__path__, *oilward_bench.__path__, str(_SERVER))
_NO_RULE = {"tests", "migrations", "management", "__pycache__"}


@cache
def _of_the_code() -> str:
    found = sha256()
    for root in map(Path, _RULES):
        for path in sorted(root.rglob("*.py")):
            if _NO_RULE.isdisjoint(path.relative_to(root).parts):
                found.update(path.read_bytes())
    return found.hexdigest()


def release() -> str:
    """What tells these rules from those of before."""
    return _of_the_code()


@dataclass(frozen=True)
class Kept:
    """Something kept ready, and the names of all it is made of: it is told apart by them and by the
    rules."""

    name: str
    made_of: tuple[str, ...] = ()

    def of(self, **inputs: Any) -> str:
        """What to keep beside it: as long as that is the same, so is what is kept. Raises TypeError where
        not exactly what was declared is given."""
        if set(inputs) != set(self.made_of):
            raise TypeError(f"{self.name} is made of {self.made_of}, not of {tuple(inputs)}")
        return digest([release(), self.name, [inputs[name] for name in self.made_of]])


RUN_SHEET = Kept("run sheet", ("counted", "visit", "bike", "person"))
IN_SHORT = Kept("visit in short", ("visit",))
ORDER = Kept("order", ("jobs", "people", "pans", "wishes", "took"))
FINISH = Kept("finish", ("people", "waits", "steps"))
# what the ward keeps of a bike carries the generation instead, which begins anew with the rules
HISTORY = Kept("history", ("generation", "newest"))
