"""Old oil that a drain leaves in the case: in its corners, galleries and cooler.

Shares by volume, each change mixing what stays with the new oil. Common practice, no source.
"""

from collections.abc import Collection
from decimal import Decimal

from ..codes.debris import OilLook
from ..errors import CoreError
from ..guard import guarded

FLUSH_OVER = Decimal("0.1")  # of what it holds dry [our definition]
_SPOILT = (OilLook.MILKY, OilLook.BURNT)


@guarded
def stays(dry: Decimal, out: Decimal, changes: int = 1) -> Decimal:
    """The share of old oil in a case that holds ``dry`` ml, of which ``out`` ml were changed, after so
    many such ``changes``: 0 to 1. Raises CoreError ``fill.no_capacity`` where it holds nothing."""
    if dry <= 0:
        raise CoreError("fill.no_capacity")
    left = min(max((dry - out) / dry, Decimal(0)), Decimal(1))
    return Decimal(left ** max(changes, 0))


@guarded
def wants_a_flush(share: Decimal, looks: Collection[OilLook]) -> bool:
    """Whether more of milky or burnt oil stays than one change can be left with."""
    return share > FLUSH_OVER and any(look in _SPOILT for look in looks)
