"""Student's t at any number of degrees of freedom, whole or not. [standard: regularised incomplete beta
function, continued fraction of Abramowitz & Stegun 26.5.8; checked against scipy]"""

from math import exp, inf, lgamma, log

from ..errors import CoreError
from ..guard import guarded

_TINY, _CLOSE, _MOST = 1e-300, 1e-14, 10_000
_HALVINGS = 200


def _fraction(a: float, b: float, x: float) -> float:
    """Lentz's way through the continued fraction of the incomplete beta function."""
    c, d = 1.0, 1 - (a + b) * x / (a + 1)
    d = 1 / (d if abs(d) > _TINY else _TINY)
    value = d
    for m in range(1, _MOST):
        for factor in (
            m * (b - m) * x / ((a + 2 * m - 1) * (a + 2 * m)),
            -(a + m) * (a + b + m) * x / ((a + 2 * m) * (a + 2 * m + 1)),
        ):
            d, c = 1 + factor * d, 1 + factor / c
            d = 1 / (d if abs(d) > _TINY else _TINY)
            c = c if abs(c) > _TINY else _TINY
            step = c * d
            value *= step
        if abs(step - 1) < _CLOSE:
            return value
    return value


def _incomplete_beta(a: float, b: float, x: float) -> float:
    """I_x(a, b), regularised."""
    if x <= 0 or x >= 1:
        return float(x >= 1)
    front = exp(lgamma(a + b) - lgamma(a) - lgamma(b) + a * log(x) + b * log(1 - x))
    if x < (a + 1) / (a + b + 2):
        return front * _fraction(a, b, x) / a
    return 1 - front * _fraction(b, a, 1 - x) / b


def _outside(t: float, degrees: float) -> float:
    """The chance of a t farther from 0 than this, on either side."""
    return _incomplete_beta(degrees / 2, 0.5, degrees / (degrees + t * t))


@guarded
def two_sided_t(degrees: float, inside: float = 0.95) -> float:
    """The t between which and its negative so much of Student's distribution lies. Raises CoreError
    ``number.no_answer`` unless ``degrees`` are above 0 and ``inside`` is between 0 and 1."""
    if degrees <= 0 or not 0 < inside < 1:
        raise CoreError("number.no_answer", formula="two sided t")
    low, high = 0.0, 1.0
    while _outside(high, degrees) > 1 - inside and high < inf:
        low, high = high, high * 2
    for _ in range(_HALVINGS):
        middle = (low + high) / 2
        if middle in (low, high):
            break
        low, high = (low, middle) if _outside(middle, degrees) < 1 - inside else (middle, high)
    return (low + high) / 2
