"""A torque as the manual writes it."""

import re
from dataclasses import dataclass
from decimal import Decimal
from typing import Literal

from ..errors import CoreError
from ..quantity import Kind, parse
from ..quantity.numbers import scan_number

TorqueForm = Literal["single", "range", "tolerance", "turn", "hand"]

_HAND = re.compile(r"^(by )?hand([ -]?tight)?$", re.IGNORECASE)
_TURN = re.compile(r"^(?P<body>.+?)\s*turns?\b.*$", re.IGNORECASE)


@dataclass(frozen=True)
class TorqueSpec:
    """The manual's torque: ``low``–``high`` in N·m, or turns after contact for form ``turn``.

    ``unit`` is the manual's own unit and ``text`` its words; both bounds are None for hand tight.
    """

    form: TorqueForm
    low: Decimal | None
    high: Decimal | None
    unit: str
    text: str

    @property
    def by_wrench(self) -> bool:
        """Whether a torque wrench sets it: not hand tight, and not so many turns."""
        return self.form in ("single", "range", "tolerance")


def _turns(text: str) -> tuple[Decimal, Decimal] | None:
    parts = [part.strip() for part in re.split(r"-|–|\bto\b", text)]
    numbers = [scan_number(part, 0) for part in parts]
    values = [Decimal(n.value.numerator) / n.value.denominator for n in numbers if n]
    if len(values) != len(parts) or len(values) not in (1, 2):
        return None
    return values[0], values[-1]


def read_torque(text: str, unit: str | None = None) -> TorqueSpec:
    """Read a torque spec: ``14-21 lbf·ft``, ``20 ± 2 N·m``, ``35 N·m``, ``1/2–3/4 turn``, ``hand tight``.

    ``unit`` is taken by a bare number. Raises CoreError as `quantity.parse` does.
    """
    said = text.strip()
    if _HAND.match(said):
        return TorqueSpec("hand", None, None, "", said)
    turn = _TURN.match(said)
    if turn:
        turns = _turns(turn["body"])
        if turns is None:
            raise CoreError("quantity.not_a_number", word=turn["body"])
        return TorqueSpec("turn", *turns, "turn", said)
    measure = parse(said, Kind.TORQUE, unit)
    return TorqueSpec(measure.form, measure.low, measure.high, measure.unit, said)
