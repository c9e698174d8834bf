"""What a label says, however it is printed: ``10W40``, ``SAE 10W/40``, ``GL5``, ``DOT4``, ``MA-2``."""

import re
from dataclasses import dataclass
from typing import Literal

from .grades import ENGINE_HOT, ENGINE_W, GEAR_HOT, GEAR_W

Scale = Literal["engine", "gear"]
Base = Literal["mineral", "glycol", "silicone"]


@dataclass(frozen=True)
class Grade:
    """A viscosity grade: ``w`` like 10W or empty, ``hot`` like 40 or empty (a W-only label), and
    the scale it stands on (SAE J300 engine, J306 gear)."""

    w: str
    hot: str
    scale: Scale

    def __str__(self) -> str:
        """``10W-40``, ``SAE 50``, ``75W``."""
        return f"{self.w}-{self.hot}" if self.w and self.hot else self.w or f"SAE {self.hot}"

    @property
    def band(self) -> tuple[float, float] | None:
        """Viscosities at 100 °C, cSt, its hot part allows (≥, <); None for a W-only label."""
        if not self.hot:
            return None
        return ENGINE_HOT[self.hot][:2] if self.scale == "engine" else GEAR_HOT[2019][self.hot]


_GRADE = re.compile(
    r"(?<![\w.-])(?:SAE\s*)?(?:(\d{1,2})\s?W(?:\s?[-–/ ]?\s?(\d{2,3}))?|(\d{1,3}))(?![\w.])"
)
_SERVICE = re.compile(r"\bGL\s?-?\s?([1-6](?:\s?/\s?(?:GL\s?-?)?[1-6])*)\b")
_DOT = re.compile(r"\bDOT\s?-?\s?(5\.1|[345])(?![\d.])")
_FRICTION = re.compile(r"\bM\s?-?(A\s?-?[12]?|B)\b")
_MINERAL = re.compile(r"\bmineral", re.IGNORECASE)
_SILICONE = re.compile("silicone", re.IGNORECASE)
_GLYCOL = re.compile(r"glycol|\bborate", re.IGNORECASE)


def _scale(w: str, hot: str) -> Scale | None:
    """Which scale a grade stands on; the W part tells where a hot part stands on both."""
    if w in ENGINE_W and (not hot or hot in ENGINE_HOT):
        return "engine"
    if w in GEAR_W[2019] and (not hot or hot in GEAR_HOT[2019]):
        return "gear"
    if w:
        return None
    return "engine" if hot in ENGINE_HOT else "gear" if hot in GEAR_HOT[2019] else None


def read_grades(text: str) -> tuple[Grade, ...]:
    """Every viscosity grade a label or a manual names, in order; empty where there is none."""
    found = []
    for w, with_w, alone in _GRADE.findall(text.upper()[:200]):
        cold, hot = f"{w}W" if w else "", with_w or alone
        scale = _scale(cold, hot)
        if scale is not None:
            found.append(Grade(cold, hot, scale))
    return tuple(dict.fromkeys(found))


def read_gear_services(text: str) -> frozenset[str]:
    """API gear categories named: ``GL-4``, ``GL5``, ``GL-4/5`` → {GL-4, GL-5}."""
    named = " ".join(_SERVICE.findall(text.upper()[:200]))
    return frozenset(f"GL-{digit}" for digit in re.findall(r"[1-6]", named))


def read_transmission(text: str) -> bool:
    """Whether automatic transmission fluid is named, as ``ATF`` or in full."""
    return bool(re.search(r"\bATF\b|AUTOMATIC[ -]TRANSMISSION", text.upper()[:200]))


def read_dot(text: str) -> tuple[str, ...]:
    """Brake fluid classes named, as ``3``, ``4``, ``5``, ``5.1``."""
    return tuple(_DOT.findall(text.upper()[:200]))


def read_friction(text: str) -> str:
    """A friction class of JASO T903 as printed (``JASO MA-2``): MA, MA1, MA2, MB, or empty."""
    match = _FRICTION.search(text.upper()[:200])
    return "M" + re.sub(r"[\s-]", "", match[1]) if match else ""


def hydraulic_base(text: str) -> Base | None:
    """What a brake or clutch fluid is made of, as far as its words tell: glycol ethers (DOT 3, 4,
    5.1), silicone (DOT 5) or mineral oil. None where nothing tells."""
    classes = read_dot(text)
    if "5" in classes or _SILICONE.search(text):
        return "silicone"
    if classes or _GLYCOL.search(text):
        return "glycol"
    return "mineral" if _MINERAL.search(text) else None
