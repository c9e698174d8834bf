"""Does this fluid go into that reservoir? With reasons.

Published classes (SAE, JASO, API) and the manual decide; a school only chooses among what they
allow. What each category covers is recalled: whoever shows it says "compare with the edition".
"""

import re
from collections.abc import Iterator
from dataclasses import dataclass
from decimal import Decimal
from enum import IntEnum

from ..codes.fluid import Thickness
from ..codes.schools import Practice
from ..errors import CoreError
from ..guard import Sound, guarded
from ..reasons import Reason, Source
from ..said import fluid as said
from ..schools import FLUID, Schools
from ..spec import KINDS, NO_CLUTCH, Requirement, ReservoirKind, wets_a_clutch
from .grades import ENGINE_HOT, GEAR_HOT
from .labels import (
    Grade,
    hydraulic_base,
    read_dot,
    read_friction,
    read_gear_services,
    read_grades,
    read_transmission,
)


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


@dataclass(frozen=True, kw_only=True)
class Offer(Sound):
    """A fluid as its label and data sheet describe it. cSt; empty or None where not known.

    ``family`` is what it is made for, one of ``FAMILIES``.
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


@guarded
def labelled(name: str, label: str) -> Offer:
    """An oil that is not on the shelf, by its name and what stands on its bottle (``75W-90 GL-5``).
    Raises CoreError ``fluid.no_label`` where neither grade nor class can be read of it."""
    grades, services, friction = read_grades(label), read_gear_services(label), read_friction(label)
    dot, slips = read_dot(label), read_transmission(label)
    if not (grades or services or friction or dot or slips):
        raise CoreError("fluid.no_label", field="label")
    gear = services or (grades and grades[0].scale == "gear")
    return Offer(
        name=name,
        family="brake" if dot else "transmission" if slips else "gear" if gear else "engine",
        grade=str(grades[0]) if grades else "",
        friction=friction,
        service=label,
    )


# characters of what an oil is called, and of its label [our definition]
MOST_NAME, MOST_LABEL = 80, 40


@guarded
def named(name: str, label: str) -> str:
    """What an oil is called: one that is not on the shelf by its name and its label, ``Brine 90, 75W-90
    GL-5``, which has to tell what it is. Raises CoreError ``fluid.no_label``, ``fluid.no_name``."""
    name, label = name.strip()[:MOST_NAME], label.strip()[:MOST_LABEL]
    if not label:
        return name
    name = name.removesuffix(f", {label}")
    labelled(name, label)
    if not name:
        raise CoreError("fluid.no_name", field="fluid")
    return f"{name[: MOST_NAME - len(label) - 2]}, {label}"


@dataclass(frozen=True)
class Match:
    """The verdict with every reason, gravest first."""

    fit: Fit
    reasons: tuple[Reason, ...]


_Said = Iterator[tuple[Fit, Reason]]
FAMILIES = ("engine", "gear", "primary", "transmission", "fork", "shock", "brake", "coolant")
# damping is set by viscosity alone, so two of these are mixed to one between [trade]
BLENDED = ("fork", "shock")
_LUBRICANTS = ("engine", "gear", "primary", "transmission")
_LENT_TO = (*_LUBRICANTS, "fork")  # a sheet may name for it what was made for something else
_API_ENGINE = ("SG", "SH", "SJ", "SL", "SM", "SN", "SP", "SQ")
_SAVING = re.compile(r"(resource|energy) conserving", re.IGNORECASE)
_DOT_ORDER = {"3": 0, "4": 1, "5.1": 2}
_NEAR, _FAR = 0.10, 0.35  # how far outside a window is still close [our definition]
_MOST_GRADES_THIN = 1  # more than one grade too thin at 100 °C is no fluid for it [our definition]


def _say(rule: str, text: str, source: Source = Source.STANDARD) -> Reason:
    return Reason(rule, text, source)


def _names(need: Requirement, offer: Offer) -> bool:
    """Whether the sheet itself names a fluid like this: its grade, or its service category."""
    grades = set(read_grades(need.grade)) & set(read_grades(offer.grade))
    if offer.family == "engine":
        return bool(grades) or (
            _api_engine(need.service) is not None and _api_engine(offer.service) is not None
        )
    if offer.family == "gear":
        services = read_gear_services(need.service) & read_gear_services(offer.service)
        return bool(grades) or bool(services)
    if offer.family == "transmission":
        return bool(read_transmission(f"{need.grade} {need.service} {need.base} {need.approval}"))
    return offer.family in f"{need.grade} {need.service} {need.base}".lower()


def _family(need: Requirement, kind: ReservoirKind, offer: Offer) -> _Said:
    at_home = KINDS[kind].families
    hypoid = "GL-5" in read_gear_services(need.service)
    if offer.family in at_home and not (hypoid and offer.family != "gear"):
        return
    if offer.family in _LUBRICANTS and at_home[0] in _LENT_TO and _names(need, offer):
        return
    text = said.another_trade(offer.family, kind)
    if hypoid and offer.family in at_home:
        text = said.NOT_HYPOID
    yield Fit.REFUSED, _say("another trade", text, Source.TRADE)


def _friction(need: Requirement, kind: ReservoirKind, offer: Offer) -> _Said:
    wanted = need.friction
    has = offer.friction or read_friction(f"{offer.service} {offer.approvals}")
    if wets_a_clutch(wanted):
        if has == "MB":
            text = said.slips(wanted)
            yield Fit.REFUSED, _say("JASO T903", text)
        elif not has:
            text = said.no_friction(wanted)
            yield Fit.CAUTION, _say("JASO T903", text)
        elif wanted not in ("MA", has):
            text = said.other_friction(wanted, has)
            yield Fit.CAUTION, _say("JASO T903", text)
    elif wanted == "MB" and has.startswith("MA"):
        text = said.more_drag(has)
        yield Fit.CAUTION, _say("JASO T903", text)
    wet = wanted not in ("", NO_CLUTCH, "MB")
    if wet and _SAVING.search(offer.service) and not has.startswith("MA"):
        text = said.SAVING
        yield Fit.CAUTION, _say("API 1509", text)


def hot_band(grade: str) -> tuple[float, float] | None:
    """The viscosities at 100 °C, cSt, a grade's hot part allows (SAE J300, J306 of 2019)."""
    grades = read_grades(grade)
    return grades[0].band if grades else None


_LADDERS: dict[str, list[tuple[str, float]]] = {
    "engine": [(grade, band[0]) for grade, band in ENGINE_HOT.items()],
    "gear": [(grade, band[0]) for grade, band in GEAR_HOT[2019].items()],
}


def _hot_of(offer: Offer) -> float | None:
    """The offer's viscosity at 100 °C: measured, or the middle of its label's band."""
    if offer.kv100 is not None:
        return offer.kv100
    band = hot_band(offer.grade)
    return None if band is None else (band[0] + min(band[1], 2 * band[0])) / 2


def _grades_thin(asked: Grade, v: float) -> int:
    """How many grades of its own scale an oil of ``v`` cSt at 100 °C lies below the one asked."""
    ladder = _LADDERS[asked.scale]
    place = next(at for at, (grade, _) in enumerate(ladder) if grade == asked.hot)
    reached = max((at for at, (_, low) in enumerate(ladder) if v >= low), default=-1)
    return max(0, place - reached)


def _thickness(asked: Grade | None, offer: Offer) -> Thickness:
    """Where the offer's viscosity lies in the grade asked for."""
    band, v = asked.band if asked else None, _hot_of(offer)
    if band is None or v is None:
        return Thickness.UNKNOWN
    low, high = band
    if low <= v < high:
        return Thickness.AS_THICK
    return Thickness.THINNER if v < low else Thickness.THICKER


def _written_alike(one: str, two: str) -> bool:
    plain = [re.sub(r"[^A-Z0-9.]", "", text.upper().replace("SAE", "")) for text in (one, two)]
    return plain[0] == plain[1]


def _grade(need: Requirement, kind: ReservoirKind, offer: Offer) -> _Said:
    asked, has = read_grades(need.grade), read_grades(offer.grade)
    if not need.grade or _written_alike(need.grade, offer.grade) or set(asked) & set(has):
        return
    both = said.both_grades(need.grade, offer.grade)
    hot = next((grade for grade in asked if grade.hot), None)
    thickness, v = _thickness(hot, offer), _hot_of(offer)
    if hot and v is not None and _grades_thin(hot, v) > _MOST_GRADES_THIN:
        yield Fit.REFUSED, _say("grade", said.too_thin(both))
    else:
        yield Fit.CAUTION, _say("grade", said.other_grade(both, thickness))


def _outside(v: float, window: tuple[Decimal, Decimal]) -> float:
    low, high = float(window[0]), float(window[1])
    return (low - v) / low if v < low else (v - high) / high if v > high else 0.0


def _window(need: Requirement, kind: ReservoirKind, offer: Offer) -> _Said:
    for at, window, v in ((40, need.kv40, offer.kv40), (100, need.kv100, offer.kv100)):
        if window is None:
            continue
        asked = said.window(window[0], window[1], at)
        if v is None:
            yield Fit.CAUTION, _say("viscosity", said.not_known(asked))
            continue
        off = _outside(v, window)
        if off > _FAR:
            yield Fit.REFUSED, _say("viscosity", said.this_has(asked, v), Source.MANUAL)
        elif off > 0:
            text = said.this_has(asked, v, said.outside(off <= _NEAR))
            yield Fit.CAUTION, _say("viscosity", text, Source.MANUAL)


def _service(need: Requirement, kind: ReservoirKind, offer: Offer) -> _Said:
    if KINDS[kind].hydraulic:
        yield from _brake(need, offer)
        return
    if not need.service:
        return
    gears = read_gear_services(need.service)
    if gears & {"GL-4", "GL-5"}:
        yield from _gear(gears, read_gear_services(offer.service), kind)
    elif (asked := _api_engine(need.service)) is not None:
        given = _api_engine(offer.service)
        if given is None:
            text = said.no_category(asked)
            yield Fit.CAUTION, _say("API 1509", text)
        elif _API_ENGINE.index(given) < _API_ENGINE.index(asked):
            text = said.older(asked, given)
            yield Fit.CAUTION, _say("API 1509", text)
    elif need.service.upper() not in offer.service.upper():
        text = said.not_named(need.service)
        yield Fit.CAUTION, _say("service", text, Source.MANUAL)


def _gear(wanted: frozenset[str], has: frozenset[str], kind: ReservoirKind) -> _Said:
    if wanted & has:
        return
    if "GL-4" not in wanted:
        fit = Fit.REFUSED if KINDS[kind].hypoid else Fit.CAUTION
        yield fit, _say("API 1560", said.NO_GL_5)
        return
    text = said.NO_GL_4
    if "GL-5" in has:
        text = said.GL_5_FOR_4
    yield Fit.CAUTION, _say("API 1560", text)


def _brake(need: Requirement, offer: Offer) -> _Said:
    """Mineral oil, glycol and silicone never for each other; within glycol, the class asked or more."""
    asked = " ".join((need.service, need.grade, need.base, need.approval))
    given = " ".join((offer.service, offer.grade, offer.base, offer.approvals, offer.name))
    wanted, has = hydraulic_base(asked), hydraulic_base(given)
    if wanted is None:
        text = said.WHICH_BRAKE
        yield Fit.CAUTION, _say("brake fluid", text, Source.TRADE)
    elif has is None:
        text = said.no_class(need.service or wanted)
        yield Fit.REFUSED, _say("brake fluid", text, Source.TRADE)
    elif wanted != has:
        text = said.never_meet(wanted, has)
        yield Fit.REFUSED, _say("brake fluid", text, Source.TRADE)
    elif wanted == "glycol":
        yield from _class_of_glycol(read_dot(asked), read_dot(given))


def _class_of_glycol(asked: tuple[str, ...], given: tuple[str, ...]) -> _Said:
    least = min((_DOT_ORDER[dot] for dot in asked), default=None)
    most = max((_DOT_ORDER[dot] for dot in given), default=None)
    if least is None or (most is not None and most >= least):
        return
    text = said.other_dot(asked[0], given)
    yield Fit.REFUSED, _say("brake fluid", text, Source.TRADE)


def _api_engine(text: str) -> str | None:
    found = [c for c in _API_ENGINE if re.search(rf"\b{c}\b", text.upper())]
    return found[-1] if found else None


def _base(need: Requirement, kind: ReservoirKind, offer: Offer) -> _Said:
    wanted = need.base.strip().lower()
    if (
        wanted
        and wanted != "any"
        and not KINDS[kind].hydraulic
        and wanted not in offer.base.lower()
    ):
        text = said.base(need.base, offer.base)
        yield Fit.CAUTION, _say("base", text, Source.MANUAL)
    if need.approval and need.approval.lower() not in offer.approvals.lower():
        text = said.not_named(f"Approval {need.approval}")
        yield Fit.CAUTION, _say("approval", text, Source.MANUAL)


_RULES = (_family, _friction, _grade, _window, _service, _base)
# what a school may vouch for: the words on the label, never a class or a window
_VOUCHED = ("grade", "service", "base", "API 1560")


def _by_school(
    kind: ReservoirKind, offer: Offer, schools: Schools, found: list[tuple[Fit, Reason]]
) -> list[tuple[Fit, Reason]]:
    if not KINDS[kind].own_case:
        return found
    chosen = schools.of(kind, FLUID)
    if chosen.choice == Practice.ONE_OIL and offer.family == "engine":
        why = Reason("school", said.by_school(str(chosen), True), Source.TRADE)
        vouched = [
            (Fit.BY_SCHOOL, r) if f == Fit.CAUTION and r.rule in _VOUCHED else (f, r)
            for f, r in found
        ]
        return [*vouched, (Fit.BY_SCHOOL, why)]
    if chosen.choice == Practice.MINERAL and "mineral" not in offer.base.lower():
        why = Reason("school", said.by_school(str(chosen), False), Source.TRADE)
        return [*found, (Fit.CAUTION, why)]
    return found


@guarded
def match(
    need: Requirement, kind: ReservoirKind, offer: Offer, schools: Schools | None = None
) -> Match:
    """Whether a fluid fits what a reservoir asks for: fits · fits by school · caution · refused.

    The gravest reason decides. A school may vouch for another grade or label, never for a friction
    class, a viscosity window or hypoid gears.
    """
    found = [one for rule in _RULES for one in rule(need, kind, offer)]
    found = _by_school(kind, offer, schools or Schools(), found)
    found.sort(key=lambda one: -one[0])
    if not found:
        return Match(Fit.FITS, (_say("match", said.all_there(str(need)), Source.MANUAL),))
    return Match(found[0][0], tuple(reason for _, reason in found))


def check_family(family: str) -> None:
    """Refuse a family no fluid belongs to. Raises CoreError ``sheet.choose``."""
    if family not in FAMILIES:
        raise CoreError("sheet.choose", field="family", options=list(FAMILIES))
