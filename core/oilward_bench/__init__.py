"""The bench's answers: a folded visit as plain words and numbers, for whoever shows it. Pure, like the
core it stands on: no Django, no database, so it runs wherever the core runs."""

from .plugs import on_plug, plug_part
from .reasons import whys
from .shapes import PlugPart, RunSheet, Why
from .sheet import About, in_short, run_sheet, title
from .tasks import verdict_shape

__all__ = [
    "About",
    "PlugPart",
    "RunSheet",
    "Why",
    "in_short",
    "on_plug",
    "plug_part",
    "run_sheet",
    "title",
    "verdict_shape",
    "whys",
]
