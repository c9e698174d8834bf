"""The verdict: the highest of the rules that speak, what lowers it (D14, D16), and the chance that
something grows (D15).

Common practice, no source; the wear index is our own definition.
"""

from collections.abc import Callable, Iterable
from dataclasses import dataclass, replace
from decimal import Decimal

from ..codes.debris import Level, Matter, Place, Rule
from ..guard import Sound, guarded
from ..reasons import Reason, Source
from ..said import debris as said
from ..spec import KINDS
from .growth import Growth
from .seen import FORM_WEIGHT, Observation, Part
from .signs import RULES, RuleSpoke

# findings that ask for something beyond the note of them
ASKING = (Level.WATCH, Level.INVESTIGATE, Level.HOLD)


@dataclass(frozen=True, kw_only=True)
class Verdict(Sound):
    """The highest rule's level, its origin and action, every rule that spoke, wear by matter, and tests
    that would confirm it."""

    level: Level
    origin: str
    action: str
    spoke: tuple[RuleSpoke, ...]
    wear: dict[Matter, Decimal]
    reasons: tuple[Reason, ...]
    confirm: tuple[str, ...] = ()


@guarded
def wear_index(parts: Iterable[Part], km_since_wiped: Decimal) -> dict[Matter, Decimal]:
    """Wear per matter [def]: ``Σ share·w(form) / max(km, 200)·1000``, w 1, 3, 10, 30, 100, 300."""
    per = max(km_since_wiped, Decimal(200))
    wear: dict[Matter, Decimal] = {}
    for part in parts:
        own = part.share * FORM_WEIGHT[part.form] / per * 1000
        wear[part.matter] = wear.get(part.matter, Decimal(0)) + own
    return {matter: value.quantize(Decimal("0.001")) for matter, value in wear.items()}


_EXCUSED = (Rule.SLIVERS, Rule.BRIGHT)  # what a flaking dipstick can explain


def _lowered(rule: RuleSpoke) -> RuleSpoke:
    return replace(rule, level=Level(max(rule.level - 1, Level.ROUTINE)))


def _noted(rule: Rule, origin: str, text: str) -> RuleSpoke:
    return RuleSpoke(rule=rule, level=Level.NOTE, origin=origin, text=text)


def _d14(seen: Observation, spoke: list[RuleSpoke]) -> list[RuleSpoke]:
    """A flaking plated dipstick in a gearbox explains bright scales, once."""
    kind = KINDS[seen.reservoir]
    bright = any(rule.rule in _EXCUSED for rule in spoke)
    if not (seen.dipstick_flakes and kind.gears and not kind.hypoid) or seen.excused or not bright:
        return spoke
    milder = [_lowered(rule) if rule.rule in _EXCUSED else rule for rule in spoke]
    return [*milder, _noted(Rule.DIPSTICK, said.DIPSTICK, said.DIPSTICK_FLAKES)]


_LOOSE = (Place.PAN, Place.OIL)
_GRAVE = (Rule.CHIPS, Rule.MILKY)  # no dirt excuses these


def _d16(seen: Observation, judged: Callable[[Observation], list[RuleSpoke]]) -> list[RuleSpoke]:
    """What lay in a pan nobody had cleaned, or swam in the oil, may be another bike's: it is unsure, and
    counts for one level less. What sits on the plug stands; and so does what would stop the bike: a chip
    or a fragment, and milky oil."""
    spoke = judged(seen)
    loose = [part for part in seen.parts if part.place in _LOOSE]
    if seen.pan_clean is not False or not (loose or seen.oil):
        return spoke
    sure = replace(
        seen, parts=tuple(p for p in seen.parts if p.place not in _LOOSE), oil=frozenset()
    )
    stands = {rule.rule: rule for rule in judged(sure)}
    held = []
    for rule in spoke:
        unsure = rule if rule.level <= Level.NOTE or rule.rule in _GRAVE else _lowered(rule)
        held.append(max(unsure, stands.get(rule.rule, unsure), key=lambda one: one.level))
    return [*held, _noted(Rule.PAN, said.PAN, said.PAN_NOT_CLEAN)]


# what a piece or two of raise to *investigate*; chips of 2 mm are a hold, and stay one
_PIECES = (Rule.FLAKES, Rule.CHIPS, Rule.HYPOID)


def _calmed(growing: Growth | None, spoke: list[RuleSpoke]) -> list[RuleSpoke]:
    """Where enough findings stand before, and the chance that a fault grows is small with this one, a
    flake or a bit is watched."""
    if growing is None or not growing.calms:
        return spoke
    return [
        replace(rule, level=Level.WATCH, text=said.seldom(rule.text))
        if rule.rule in _PIECES and rule.level == Level.INVESTIGATE
        else rule
        for rule in spoke
    ]


def _d15(growing: Growth | None, level: Level) -> RuleSpoke | None:
    """One level up, at most to investigate, where the chance of a fault is a quarter or more."""
    if growing is None or not growing.alarms or level >= Level.INVESTIGATE:
        return None
    return RuleSpoke(
        rule=Rule.GROWING,
        level=Level(level + 1),
        origin=said.GROWING,
        text=growing_words(growing),
    )


@guarded
def growing_words(growing: Growth) -> str:
    """The chance as odds, with its two reasons."""
    likely = min(max(growing.said, 0.001), 0.999)
    return said.growing(likely, growing.form, growing.amount)


@guarded
def confirmed_by(rule: str) -> str:
    """What would make sure of what a rule says; empty where nothing is asked for."""
    return next((said.CONFIRM[one] for one in said.CONFIRM if one == rule), "")


@guarded
def chance_words(likely: float) -> str:
    """``under 1 %``, ``21 %``: no finer than it is known."""
    return said.chance(min(max(likely, 0.0), 1.0))


@guarded
def verdict(seen: Observation, growing: Growth | None = None) -> Verdict:
    """Judge an observation: the highest of the rules that speak, with all of them as its why and what
    would confirm it. ``growing`` is the chance of a growing fault, where it is known; it never says
    less than the other rules."""

    def judged(one: Observation) -> list[RuleSpoke]:
        return _d14(one, [answer for rule in RULES if (answer := rule(one))])

    spoke = _calmed(growing, _d16(seen, judged))
    plain = max((rule.level for rule in spoke), default=Level.NOTE)
    raised = _d15(growing, plain)
    spoke += [raised] if raised else []
    top = max(spoke, key=lambda rule: rule.level, default=None)
    level = max(plain, top.level) if top else Level.NOTE
    reasons = tuple(Reason(rule.rule, rule.text, Source.TRADE) for rule in spoke)
    tests = [said.CONFIRM[rule.rule] for rule in spoke if rule.level and rule.rule in said.CONFIRM]
    return Verdict(
        level=level,
        origin=top.origin if top else said.NOT_IN_THE_RULES,
        action=said.ACTIONS[level],
        spoke=tuple(spoke),
        wear=wear_index(seen.parts, seen.km_since_wiped),
        reasons=reasons,
        confirm=tuple(dict.fromkeys(tests)),
    )
