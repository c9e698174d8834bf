"""Numbers that can be worked with: what is not one is refused by name, never by an exception."""

import functools
import inspect
from collections.abc import Callable
from decimal import Decimal
from math import isfinite
from typing import Any, ParamSpec, TypeVar

from .errors import CoreError

_P = ParamSpec("_P")
_R = TypeVar("_R")

LARGEST = 1e12  # nothing in a workshop is as large, in any unit


def _usable(value: Any) -> bool:
    if isinstance(value, Decimal):
        return value.is_finite() and abs(value) <= Decimal(LARGEST)
    if isinstance(value, (int, float)):
        return isfinite(value) and abs(value) <= LARGEST
    if isinstance(value, (tuple, list)):
        return all(_usable(item) for item in value)
    return True


def guarded(function: Callable[_P, _R]) -> Callable[_P, _R]:
    """A calculation that answers or raises CoreError.

    Numbers among its arguments have to be finite and of this world; where the formula itself has no
    value for them (a logarithm of nothing, a division by it), that is said too. Raises CoreError
    ``number.unusable`` with the argument's ``name``, ``number.no_answer`` with the ``formula``'s.
    """
    signature = inspect.signature(function)

    @functools.wraps(function)
    def answer(*args: _P.args, **kwargs: _P.kwargs) -> _R:
        for name, value in signature.bind(*args, **kwargs).arguments.items():
            if not _usable(value):
                raise CoreError("number.unusable", name=name.replace("_", " "))
        try:
            found = function(*args, **kwargs)
        except CoreError:
            raise
        except (ArithmeticError, ValueError) as error:
            name = function.__name__.replace("_", " ")
            raise CoreError("number.no_answer", formula=name) from error
        if not _usable(found) or isinstance(found, complex):
            raise CoreError("number.no_answer", formula=function.__name__.replace("_", " "))
        return found

    return answer
