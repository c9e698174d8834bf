"""What would change a verdict: what is not yet known of a finding, and what the rules would say then."""

from collections.abc import Iterator
from dataclasses import dataclass, replace
from decimal import Decimal

from ..codes.debris import FAMILY, Family, Form, Level, Matter, OilLook, Place
from ..guard import Sound, guarded
from ..said import debris as said
from .growth import Growth
from .seen import PASTY, Observation, Part
from .verdicts import verdict

_BIG = Decimal(2)
_SMALL = Decimal(1)


@dataclass(frozen=True)
class Otherwise(Sound):
    """Were it so (``when``), it would be said to be ``level``."""

    when: str
    level: Level

    @property
    def words(self) -> str:
        """``If a magnet ignores the slivers: note.``"""
        return said.then(self.when, self.level.word)


def _with(seen: Observation, number: int, part: Part) -> Observation:
    return replace(seen, parts=(*seen.parts[:number], part, *seen.parts[number + 1 :]))


def _of_part(seen: Observation, number: int, part: Part) -> Iterator[tuple[str, Observation]]:
    fine = part.form in PASTY  # only what a magnet drew there lies so
    unsure = FAMILY[part.matter] in (Family.FERROUS, Family.LIGHT) and not fine
    if part.magnetic is None and unsure:
        held = FAMILY[part.matter] == Family.FERROUS
        matter = part.matter if held else Matter.STEEL
        other = replace(part, magnetic=not held, matter=matter)
        yield said.magnet(held, part.form), _with(seen, number, other)
    if part.form == Form.CHIPS and part.largest_mm is None:
        yield (
            said.NO_BIG_CHIP,
            _with(seen, number, replace(part, largest_mm=_SMALL)),
        )
    if part.form == Form.CHIPS and part.largest_mm is not None and part.largest_mm < _BIG:
        yield said.ONE_BIG_CHIP, _with(seen, number, replace(part, largest_mm=_BIG))
    if part.form == Form.SLIVERS and part.largest_mm is None and seen.first_service:
        yield (
            said.NO_LONG_SLIVER,
            _with(seen, number, replace(part, largest_mm=_SMALL)),
        )
    if part.form == Form.FLAKES and part.matter == Matter.STEEL:
        yield (
            said.SLIVERS_NOT_FLAKES,
            _with(seen, number, replace(part, form=Form.SLIVERS)),
        )


def _alternatives(seen: Observation) -> Iterator[tuple[str, Observation]]:
    for number, part in enumerate(seen.parts):
        yield from _of_part(seen, number, part)
    if OilLook.MILKY in seen.oil:
        dry = replace(seen, oil=seen.oil - {OilLook.MILKY})
        yield said.NO_WATER, dry
    loose = [part for part in seen.parts if part.place in (Place.PAN, Place.OIL)]
    if seen.pan_clean is None and (loose or seen.oil):
        yield said.PAN_WAS_DIRTY, replace(seen, pan_clean=False)
    if not seen.dipstick_flakes and not seen.excused:
        yield said.PLATING_FLAKES, replace(seen, dipstick_flakes=True)


@guarded
def would_change(seen: Observation, growing: Growth | None = None) -> tuple[Otherwise, ...]:
    """What is not known yet of a finding and would change its verdict, each with the level it would
    have then; the mildest first."""
    now = verdict(seen, growing).level
    found: dict[str, Otherwise] = {}
    for when, other in _alternatives(seen):
        level = verdict(other, growing).level
        if level != now:
            found.setdefault(when, Otherwise(when, level))
    return tuple(sorted(found.values(), key=lambda one: (one.level, one.when)))
