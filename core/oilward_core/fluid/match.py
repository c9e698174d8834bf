"""Does this fluid go into that reservoir? With reasons.

Published classes (SAE, JASO, API) and the manual decide; a school only chooses among what they
allow. What each category covers is recalled: whoever shows it says "compare with the edition".
"""

import re
from collections.abc import Iterator
from dataclasses import dataclass
from decimal import Decimal
from enum import IntEnum

from ..errors import CoreError
from ..reasons import Reason, Source
from ..schools import FLUID, MINERAL, ONE_OIL, Schools
from ..spec import NO_CLUTCH, Requirement, ReservoirKind
from .grades import ENGINE_HOT, GEAR_HOT


class Fit(IntEnum):
    """How well a fluid fits, best first."""

    FITS = 0
    BY_SCHOOL = 1
    CAUTION = 2
    REFUSED = 3

    @property
    def word(self) -> str:
        """As it is said."""
        return ("fits", "fits by school", "caution", "refused")[self]


@dataclass(frozen=True)
class Offer:
    """A fluid as its label and data sheet describe it. cSt; empty or None where not known.

    ``family`` is what it is made for: engine, gear, primary, fork, shock, brake, coolant.
    """

    name: str
    family: str
    grade: str = ""
    kv40: float | None = None
    kv100: float | None = None
    friction: str = ""
    service: str = ""
    base: str = ""
    approvals: str = ""


@dataclass(frozen=True)
class Match:
    """The verdict with every reason, gravest first."""

    fit: Fit
    reasons: tuple[Reason, ...]


_Said = Iterator[tuple[Fit, Reason]]
FAMILIES = ("engine", "gear", "primary", "fork", "shock", "brake", "coolant")
_GEARED = (ReservoirKind.GEARBOX, ReservoirKind.FINAL_DRIVE)
_OWN_FAMILY = {
    ReservoirKind.FORK: ("fork",),
    ReservoirKind.SHOCK: ("shock", "fork"),
    ReservoirKind.COOLANT: ("coolant",),
    ReservoirKind.FRONT_BRAKE: ("brake",),
    ReservoirKind.REAR_BRAKE: ("brake",),
    ReservoirKind.CLUTCH_FLUID: ("brake",),
}
_LUBRICANTS = ("engine", "gear", "primary")
_API_ENGINE = ("SG", "SH", "SJ", "SL", "SM", "SN", "SP", "SQ")
_SAVING = re.compile(r"(resource|energy) conserving", re.IGNORECASE)
_DOT = re.compile(r"DOT\s*(3|4|5\.1|5)(?![.\d])", re.IGNORECASE)
_DOT_ORDER = {"3": 0, "4": 1, "5.1": 2}
_NEAR, _FAR = 0.10, 0.35  # how far outside a window is still close [our definition]


def _say(rule: str, text: str, source: Source = Source.STANDARD) -> Reason:
    return Reason(rule, text, source)


def _family(need: Requirement, kind: ReservoirKind, offer: Offer) -> _Said:
    wanted = _OWN_FAMILY.get(kind, _LUBRICANTS)
    if offer.family not in wanted:
        text = f"A {offer.family} fluid does not go into the {kind}."
        yield Fit.REFUSED, _say("family", text, Source.TRADE)


def _friction(need: Requirement, kind: ReservoirKind, offer: Offer) -> _Said:
    wanted, has = need.friction, offer.friction
    if wanted in ("MA", "MA1", "MA2"):
        if has == "MB":
            text = f"{wanted} is asked for a wet clutch; MB lets it slip."
            yield Fit.REFUSED, _say("JASO T903", text)
        elif not has:
            text = f"{wanted} is asked for a wet clutch; this label names no friction class."
            yield Fit.CAUTION, _say("JASO T903", text)
        elif wanted not in ("MA", has):
            text = f"{wanted} is asked, {has} is on the label: the clutch takes up differently."
            yield Fit.CAUTION, _say("JASO T903", text)
    elif wanted == "MB" and has.startswith("MA"):
        text = f"MB is asked, {has} is on the label: safe for the clutch, a little more drag."
        yield Fit.CAUTION, _say("JASO T903", text)
    wet = wanted not in ("", NO_CLUTCH, "MB")
    if wet and _SAVING.search(offer.service) and not has.startswith("MA"):
        text = "A fuel-saving oil may carry friction modifiers: not without MA in a wet clutch."
        yield Fit.CAUTION, _say("API 1509", text)


def hot_band(grade: str) -> tuple[float, float] | None:
    """The viscosities at 100 °C, cSt, a grade's hot part allows (SAE J300, J306 of 2019)."""
    words = re.findall(r"(?:\d+W-?)?(\d{1,3})(?!W)\b", grade.upper())
    hot = words[0] if words else ""
    gear = re.search(r"\b(7[05]W|8[05]W|SAE (85|90|110|140|190|250))", grade.upper())
    if hot in GEAR_HOT[2019] and (gear or hot not in ENGINE_HOT):
        return GEAR_HOT[2019][hot]
    return ENGINE_HOT[hot][:2] if hot in ENGINE_HOT else None


def _plain(grade: str) -> str:
    return re.sub(r"[^A-Z0-9.]", "", grade.upper().replace("SAE", ""))


def _thickness(need: Requirement, offer: Offer) -> str:
    """Where the offer's own viscosity lies in the grade asked for; empty where nobody knows."""
    band = hot_band(need.grade)
    if band is None or offer.kv100 is None:
        return ""
    low, high = band
    if low <= offer.kv100 < high:
        return "as thick at 100 °C"
    return "thinner at 100 °C" if offer.kv100 < low else "thicker at 100 °C"


def _grade(need: Requirement, kind: ReservoirKind, offer: Offer) -> _Said:
    if not need.grade or _plain(need.grade) == _plain(offer.grade):
        return
    thickness = _thickness(need, offer)
    both = f"{need.grade} is asked, {offer.grade or 'no grade'} is on the label"
    if thickness == "as thick at 100 °C":
        yield Fit.CAUTION, _say("grade", f"{both}: as thick at 100 °C, but another grade.")
    elif thickness:
        yield Fit.CAUTION, _say("grade", f"{both}: {thickness}.")
    else:
        yield Fit.CAUTION, _say("grade", f"{both}.")


def _outside(v: float, window: tuple[Decimal, Decimal]) -> float:
    low, high = float(window[0]), float(window[1])
    return (low - v) / low if v < low else (v - high) / high if v > high else 0.0


def _window(need: Requirement, kind: ReservoirKind, offer: Offer) -> _Said:
    for at, window, v in ((40, need.kv40, offer.kv40), (100, need.kv100, offer.kv100)):
        if window is None:
            continue
        asked = f"{window[0].normalize():f}–{window[1].normalize():f} cSt at {at} °C is asked"
        if v is None:
            yield Fit.CAUTION, _say("viscosity", f"{asked}; this fluid's is not known.")
            continue
        off = _outside(v, window)
        if off > _FAR:
            yield Fit.REFUSED, _say("viscosity", f"{asked}, this has {v:g}.", Source.MANUAL)
        elif off > 0:
            close = "just outside" if off <= _NEAR else "outside"
            text = f"{asked}, this has {v:g}: {close}."
            yield Fit.CAUTION, _say("viscosity", text, Source.MANUAL)


def _api_engine(text: str) -> str | None:
    found = [c for c in _API_ENGINE if re.search(rf"\b{c}\b", text.upper())]
    return found[-1] if found else None


def _service(need: Requirement, kind: ReservoirKind, offer: Offer) -> _Said:
    if not need.service:
        return
    wanted, has = need.service.upper(), offer.service.upper()
    dot = _DOT.search(wanted)
    if dot:
        yield from _brake(dot[1], offer)
    elif "GL-4" in wanted or "GL-5" in wanted:
        yield from _gear(wanted, has, kind)
    elif (asked := _api_engine(wanted)) is not None:
        given = _api_engine(has)
        if given is None:
            text = f"API {asked} is asked; this label names no API category."
            yield Fit.CAUTION, _say("API 1509", text)
        elif _API_ENGINE.index(given) < _API_ENGINE.index(asked):
            text = f"API {asked} is asked, API {given} is older and asks less of an oil."
            yield Fit.CAUTION, _say("API 1509", text)
    elif wanted not in has:
        text = f"{need.service} is asked and not named on the label."
        yield Fit.CAUTION, _say("service", text, Source.MANUAL)


def _gear(wanted: str, has: str, kind: ReservoirKind) -> _Said:
    if "GL-5" in wanted and "GL-4" not in wanted:
        if "GL-5" in has:
            return
        fit = Fit.REFUSED if kind == ReservoirKind.FINAL_DRIVE else Fit.CAUTION
        yield fit, _say("API 1560", "GL-5 is asked for hypoid gears; this label does not name it.")
    elif "GL-4" in wanted and "GL-4" not in has and "GL-5" not in wanted:
        text = "GL-4 is asked; this label does not name it."
        if "GL-5" in has:
            text = "GL-4 is asked. GL-5 does not cover it: its additives attack brass and bronze."
        yield Fit.CAUTION, _say("API 1560", text)


def _brake(wanted: str, offer: Offer) -> _Said:
    found = _DOT.search(offer.service or offer.grade)
    has = found[1] if found else ""
    if has == wanted:
        return
    if "5" in (wanted, has):
        text = "Silicone fluid (DOT 5) and the others must never meet."
        yield Fit.REFUSED, _say("brake fluid", text, Source.TRADE)
    elif has not in _DOT_ORDER or _DOT_ORDER[has] < _DOT_ORDER[wanted]:
        text = f"DOT {wanted} is asked; {f'DOT {has}' if has else 'no class'} is on the label."
        yield Fit.REFUSED, _say("brake fluid", text, Source.TRADE)


def _base(need: Requirement, kind: ReservoirKind, offer: Offer) -> _Said:
    wanted = need.base.strip().lower()
    if wanted and wanted != "any" and wanted not in offer.base.lower():
        has = offer.base or "not known"
        text = f"Base {need.base} is asked; this one's is {has}."
        yield Fit.CAUTION, _say("base", text, Source.MANUAL)
    if need.approval and need.approval.lower() not in offer.approvals.lower():
        text = f"Approval {need.approval} is asked and not named on the label."
        yield Fit.CAUTION, _say("approval", text, Source.MANUAL)


_RULES = (_family, _friction, _grade, _window, _service, _base)
# what a school may vouch for: the words on the label, never a class or a window
_VOUCHED = ("grade", "service", "base", "API 1560")


def _by_school(
    kind: ReservoirKind, offer: Offer, schools: Schools, said: list[tuple[Fit, Reason]]
) -> list[tuple[Fit, Reason]]:
    if kind not in (ReservoirKind.PRIMARY, ReservoirKind.GEARBOX):
        return said
    chosen = schools.of(kind, FLUID)
    if chosen.choice == ONE_OIL and offer.family == "engine":
        why = Reason("school", f"Which oil: {chosen}.", Source.TRADE)
        vouched = [
            (Fit.BY_SCHOOL, r) if f == Fit.CAUTION and r.rule in _VOUCHED else (f, r)
            for f, r in said
        ]
        return [*vouched, (Fit.BY_SCHOOL, why)]
    if chosen.choice == MINERAL and "mineral" not in offer.base.lower():
        why = Reason("school", f"Which oil: {chosen}; this one is not.", Source.TRADE)
        return [*said, (Fit.CAUTION, why)]
    return said


def match(
    need: Requirement, kind: ReservoirKind, offer: Offer, schools: Schools | None = None
) -> Match:
    """Whether a fluid fits what a reservoir asks for: fits · fits by school · caution · refused.

    The gravest reason decides. A school may vouch for another grade or label, never for a friction
    class, a viscosity window or hypoid gears.
    """
    said = [found for rule in _RULES for found in rule(need, kind, offer)]
    said = _by_school(kind, offer, schools or Schools(), said)
    said.sort(key=lambda found: -found[0])
    if not said:
        asked = str(need) or "The sheet asks nothing in particular"
        return Match(Fit.FITS, (_say("match", f"{asked}: all there.", Source.MANUAL),))
    return Match(said[0][0], tuple(reason for _, reason in said))


def check_family(family: str) -> None:
    """Refuse a family no fluid belongs to. Raises CoreError ``sheet.choose``."""
    if family not in FAMILIES:
        raise CoreError("sheet.choose", field="family", options=list(FAMILIES))
