"""Threads as they are written, and what their core bears."""

import re
from dataclasses import dataclass
from fractions import Fraction
from math import pi
from typing import Literal

from ..errors import CoreError
from ..guard import Sound, guarded

Family = Literal["metric", "unified", "pipe"]
INCH = 25.4

# ISO 261 coarse pitches, mm [from memory]
COARSE_PITCH = {
    3: 0.5, 4: 0.7, 5: 0.8, 6: 1.0, 7: 1.0, 8: 1.25, 10: 1.5, 12: 1.75, 14: 2.0, 16: 2.0, 18: 2.5,
    20: 2.5, 22: 2.5, 24: 3.0, 27: 3.0, 30: 3.5,
}  # fmt: skip
# ASME B1.1 threads per inch, UNC and UNF [from memory]
UNIFIED = {
    "1/4": (20, 28), "5/16": (18, 24), "3/8": (16, 24), "7/16": (14, 20), "1/2": (13, 20),
    "9/16": (12, 18), "5/8": (11, 18), "3/4": (10, 16), "7/8": (9, 14), "1": (8, 12),
}  # fmt: skip
# ISO 228 / ASME B1.20.1 outside diameters, mm, and threads per inch [from memory]
PIPE = {
    "1/8": (9.9, 28), "1/4": (13.3, 19), "3/8": (16.8, 19), "1/2": (21.0, 14), "3/4": (26.5, 14),
    "1": (33.3, 11),
}  # fmt: skip


@dataclass(frozen=True, kw_only=True)
class Thread(Sound):
    """A thread: its family, nominal diameter and pitch in mm."""

    family: Family
    diameter: float
    pitch: float
    text: str = ""

    @property
    def area(self) -> float:
        """Stress area in mm²."""
        if self.family == "unified":
            return stress_area_un(self.diameter / INCH, INCH / self.pitch)
        return stress_area(self.diameter, self.pitch)


@guarded
def stress_area(diameter: float, pitch: float) -> float:
    """Stress area of a metric thread, mm²: ``π/4·(d − 0.9382·P)²`` [std ISO 898-1 cl. 9.1.6.1].

    ``diameter`` and ``pitch`` in mm. Raises CoreError ``thread.impossible``.
    """
    core = diameter - 0.9382 * pitch
    if pitch <= 0 or core <= 0:
        raise CoreError("thread.impossible")
    return pi / 4 * core**2


@guarded
def stress_area_un(diameter: float, tpi: float) -> float:
    """Stress area of a unified thread in mm²: ``0.7854·(D − 0.9743/n)²`` in² [ASME B1.1, memory].

    ``diameter`` D in inches, ``tpi`` n threads per inch. Raises CoreError ``thread.impossible``.
    """
    if tpi <= 0 or diameter <= 0.9743 / tpi:
        raise CoreError("thread.impossible")
    return 0.7854 * (diameter - 0.9743 / tpi) ** 2 * INCH**2


_INCHES = r"(?P<inch>(?:\d{1,2}[ -])?\d{1,2}/\d{1,2}|1)"
_METRIC = re.compile(
    r"^(?P<m>m)? ?(?P<d>\d{1,2}(?:[.,]\d)?)(?: ?(?:[x×*p/-]) ?(?P<p>\d{1,3}(?:[.,]\d{1,3})?))?"
    r"(?: ?[x×*] ?\d{1,3})?(?: ?mm)?$"
)
_FRACTIONAL = re.compile(
    rf"^{_INCHES} ?(?:in|\")? ?(?:[- ] ?(?P<tpi>\d{{1,2}}))? ?(?P<s>unc|unf|unef|uns|un)?$"
)
_NUMBERED = re.compile(r"^(?:#|no\.? ?)(?P<n>\d{1,2}) ?- ?(?P<tpi>\d{1,2})(?: ?un[cf])?$")
_PIPE = re.compile(
    rf"^(?:(?P<before>npt|nptf|bsp|bspt|bspp|g|rc|rp|r|pt|pf) ?)?{_INCHES} ?\"?(?: ?- ?\d{{1,2}})?"
    r" ?(?P<after>npt|nptf|bsp|bspt|bspp)?$"
)


def _inch(words: str) -> float:
    return float(sum(Fraction(part) for part in re.split(r"[ -]", words)))


def _metric(match: re.Match[str]) -> tuple[float, float] | None:
    diameter = float(match["d"].replace(",", "."))
    said = match["p"]
    if not match["m"] and (said is None or not 0 < float(said.replace(",", ".")) < 6):
        return None
    pitch = float(said.replace(",", ".")) if said else COARSE_PITCH.get(int(diameter), 1.5)
    return diameter, pitch


def _unified(match: re.Match[str]) -> tuple[float, float] | None:
    known, series = UNIFIED.get(match["inch"]), match["s"]
    tpi = int(match["tpi"] or 0)
    if not tpi and known and series in ("unc", "unf"):
        tpi = known[series == "unf"]
    if not 4 <= tpi <= 80:
        return None
    return _inch(match["inch"]) * INCH, INCH / tpi


def read_thread(text: str) -> Thread:
    """Read a thread: ``M14x1.5``, ``M 14x1.5``, ``14x1.5``, ``M6``, ``1/4-20 UNC``, ``1/2 UNF``,
    ``#10-24``, ``1/8 NPT``, ``G 1/4``.

    Raises CoreError ``thread.unreadable``.
    """
    said = " ".join(text.lower().replace("”", '"').replace("″", '"').split())
    found: tuple[Family, tuple[float, float] | None] | None = None
    if len(said) > 24:
        found = None
    elif match := _METRIC.match(said):
        found = "metric", _metric(match)
    elif match := _NUMBERED.match(said):
        found = "unified", ((0.06 + 0.013 * int(match["n"])) * INCH, INCH / int(match["tpi"] or 1))
    elif (match := _PIPE.match(said)) and (match["before"] or match["after"]):
        size = PIPE.get(match["inch"])
        found = "pipe", (size[0], INCH / size[1]) if size else None
    elif match := _FRACTIONAL.match(said):
        found = "unified", _unified(match)
    if found is None or found[1] is None:
        raise CoreError("thread.unreadable", text=text[:24])
    diameter, pitch = found[1]
    if not 1.5 <= diameter <= 90 or not 0.2 <= pitch <= 6 or pitch > diameter / 2:
        raise CoreError("thread.unreadable", text=text[:24])
    return Thread(family=found[0], diameter=diameter, pitch=pitch, text=text)
