"""What a look at a fluid between its marks, or at a shock, comes to: what was done, how grave it is, and
what ends its asking. Common practice, no source."""

from dataclasses import dataclass

from ..codes.debris import Level, Outcome, Rule
from ..codes.options import Did, Look
from ..guard import guarded, whole_table
from ..reasons import Reason, Source
from ..said.looks import LOOKS as WORDS
from ..spec import KINDS, ReservoirKind
from .signs import RuleSpoke
from .verdicts import Verdict

# what each answer says was done; nothing that was not seen was looked at
DID: dict[Look, Did] = whole_table(
    Look,
    {
        Look.FIRM: Did.LOOKED,
        Look.OILY: Did.LOOKED,
        Look.SOFT: Did.LOOKED,
        Look.LOOSE: Did.LOOKED,
        Look.GAS_OFF: Did.LOOKED,
        Look.UNSEEN: Did.UNSEEN,
        Look.BETWEEN: Did.LOOKED,
        Look.TOPPED_UP: Did.TOPPED_UP,
        Look.LOW_LEFT: Did.LOOKED,
        Look.ABOVE: Did.LOOKED,
    },
)


@dataclass(frozen=True, kw_only=True)
class _Row:
    """How grave what a rule says is, and what ends its asking."""

    level: Level
    closes: tuple[Outcome, ...] = ()


_FOUND = (Outcome.NOTHING, Outcome.FAULT)
_LED = (*_FOUND, Outcome.LIFTED, Outcome.HANDED_BACK)
_ROWS: dict[Rule, _Row] = {
    Rule.LOW_LEFT: _Row(level=Level.HOLD, closes=_LED),
    Rule.LOW_TOPPED_UP: _Row(level=Level.INVESTIGATE, closes=_FOUND),
    Rule.ABOVE: _Row(level=Level.NOTE),
    Rule.COOLANT_TOPPED_UP: _Row(level=Level.NOTE),
    Rule.COOLANT_LOW_AGAIN: _Row(level=Level.INVESTIGATE, closes=_FOUND),
    Rule.COOLANT_LEFT: _Row(level=Level.INVESTIGATE, closes=(Outcome.TOPPED_UP,)),
    Rule.SHAFT_OILY: _Row(level=Level.INVESTIGATE, closes=(Outcome.HANDED_OUT, Outcome.LIFTED)),
    Rule.BUSH_PLAY: _Row(level=Level.INVESTIGATE, closes=(*_FOUND, Outcome.HANDED_OUT)),
    Rule.GAS_OFF: _Row(level=Level.INVESTIGATE, closes=(Outcome.HANDED_OUT, Outcome.LIFTED)),
    Rule.DAMPING_GONE: _Row(
        level=Level.HOLD, closes=(Outcome.HANDED_OUT, Outcome.LIFTED, Outcome.HANDED_BACK)
    ),
}
# what is a lead's to say whatever the level, and what anybody may
_LEADS, _ANYBODYS = (Outcome.LIFTED, Outcome.HANDED_BACK), (Outcome.HANDED_OUT,)


def _rule(kind: ReservoirKind, look: Look, low_last: bool) -> Rule | None:
    moves = KINDS[kind].hydraulic
    coolant = Rule.COOLANT_LOW_AGAIN if low_last else Rule.COOLANT_TOPPED_UP
    found: dict[Look, Rule] = {
        Look.OILY: Rule.SHAFT_OILY,
        Look.SOFT: Rule.DAMPING_GONE,
        Look.LOOSE: Rule.BUSH_PLAY,
        Look.GAS_OFF: Rule.GAS_OFF,
        Look.ABOVE: Rule.ABOVE,
        Look.LOW_LEFT: Rule.LOW_LEFT if moves else Rule.COOLANT_LEFT,
        Look.TOPPED_UP: Rule.LOW_TOPPED_UP if moves else coolant,
    }
    return found.get(look)


@guarded
def look_verdict(kind: ReservoirKind, look: Look, low_last: bool = False) -> Verdict | None:
    """What a look at a reservoir of a kind comes to; None where all is well, or nothing was seen.
    ``low_last``: it was low at the last look as well."""
    rule = _rule(kind, look, low_last)
    if rule is None:
        return None
    words = WORDS[rule]
    spoke = RuleSpoke(rule=rule, level=_ROWS[rule].level, origin=words.origin, text=words.sign)
    return Verdict(
        level=spoke.level,
        origin=words.origin,
        action=words.action,
        spoke=(spoke,),
        wear={},
        reasons=(Reason(rule, words.sign, Source.TRADE),),
    )


@guarded
def look_outcomes(rule: Rule, level: Level) -> tuple[Outcome, ...]:
    """What may be answered to a look that is judged by a rule, at the level that counts: milder than
    *investigate* it asks for nothing. A lead may lift whatever a lead has made graver."""
    if level < Level.INVESTIGATE:
        return ()
    return _ROWS[rule].closes or _LED


@guarded
def leads_answer(outcome: Outcome, level: Level) -> bool:
    """Whether an answer to what stands at a level is a lead's to give: all that is said of a *hold*, but
    that it was handed out; and of anything that it is lifted."""
    return outcome in _LEADS or (level == Level.HOLD and outcome not in _ANYBODYS)


@guarded
def closed_by_look(rule: Rule, look: Look) -> Outcome | None:
    """What a later look answers to an earlier one: a coolant that was left low is closed by being topped
    up, or by standing where it should; None where it answers nothing."""
    seen_right = look in (Look.TOPPED_UP, Look.BETWEEN, Look.ABOVE)
    return Outcome.TOPPED_UP if rule == Rule.COOLANT_LEFT and seen_right else None
