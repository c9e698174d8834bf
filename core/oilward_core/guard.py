"""Numbers that can be worked with: what is not one is refused by name, never by an exception."""

import functools
import inspect
from collections.abc import Callable
from decimal import Decimal
from enum import Enum
from math import isfinite
from typing import Any, ParamSpec, TypeVar

from .errors import CoreError

_P = ParamSpec("_P")
_R = TypeVar("_R")
_Word = TypeVar("_Word", bound=Enum)

LARGEST = 1e12  # nothing in a workshop is as large, in any unit


_HOLDS_NUMBERS = (Decimal, int, float, tuple, list, dict)


def usable(value: Any) -> bool:
    """Whether a number, or every number in a collection, is finite and of this world."""
    if not isinstance(value, _HOLDS_NUMBERS):
        return True
    if isinstance(value, Decimal):
        return value.is_finite() and abs(value) <= Decimal(LARGEST)
    if isinstance(value, (tuple, list)):
        return all(map(usable, value))
    if isinstance(value, dict):
        return all(map(usable, value.values()))
    return isfinite(value) and abs(value) <= LARGEST


def keepable(text: str) -> bool:
    """Whether a text can be kept and sent anywhere: it has neither NUL nor half a character in it."""
    return "\x00" not in text and not any("\ud800" <= char <= "\udfff" for char in text)


class Sound:
    """A frozen value whose numbers can be worked with, whoever made it.

    Raises CoreError ``number.unusable`` with the field's ``name``.
    """

    def __post_init__(self) -> None:
        for name, value in self.__dict__.items():
            if not usable(value):
                raise CoreError("number.unusable", name=name.replace("_", " "))


def guarded(function: Callable[_P, _R]) -> Callable[_P, _R]:
    """A calculation that answers or raises CoreError.

    Numbers among its arguments have to be finite and of this world; where the formula itself has no
    value for them (a logarithm of nothing, a division by it), that is said too. Raises CoreError
    ``number.unusable`` with the argument's ``name``, ``number.no_answer`` with the ``formula``'s.
    """
    names = list(inspect.signature(function).parameters)
    formula = function.__name__.replace("_", " ")

    @functools.wraps(function)
    def answer(*args: _P.args, **kwargs: _P.kwargs) -> _R:
        for name, value in (*zip(names, args, strict=False), *kwargs.items()):
            if not usable(value):
                raise CoreError("number.unusable", name=name.replace("_", " "))
        try:
            found = function(*args, **kwargs)
        except CoreError:
            raise
        except (ArithmeticError, LookupError, ValueError) as error:
            raise CoreError("number.no_answer", formula=formula) from error
        if isinstance(found, complex) or not usable(found):
            raise CoreError("number.no_answer", formula=formula)
        return found

    return answer


def whole_table(words: type[_Word], rows: dict[_Word, _R]) -> dict[_Word, _R]:
    """A table with one row a word. Raises CoreError ``table.row_missing`` where one has none."""
    missing = [str(word.value) for word in words if word not in rows]
    if missing:
        raise CoreError("table.row_missing", table=words.__name__, missing=missing)
    return rows


def remembered(function: Callable[_P, _R]) -> Callable[_P, _R]:
    """A pure calculation that is asked the same again and again, on every look at a visit: its last
    answers are kept."""
    kept = functools.lru_cache(maxsize=8192)(function)

    @functools.wraps(function)
    def answer(*args: _P.args, **kwargs: _P.kwargs) -> _R:
        try:
            return kept(*args, **kwargs)  # type: ignore[arg-type]
        except TypeError:  # something among them cannot be looked up by
            return function(*args, **kwargs)

    return answer
