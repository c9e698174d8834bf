"""Nothing but an answer or a CoreError leaves the core: every public function, any numbers and words."""

import dataclasses
import importlib
import inspect
import pkgutil
import types
import typing
from collections.abc import Callable, Iterator, Mapping
from datetime import date, datetime, timedelta
from decimal import Decimal
from enum import Enum
from fractions import Fraction
from functools import cache
from typing import Any
from unittest import TestCase

import oilward_core
from hypothesis import HealthCheck, Phase, given, reject, settings
from hypothesis import strategies as st
from oilward_core.bench import ACTS, Data, Entry
from oilward_core.errors import CoreError
from oilward_core.quantity import UNITS

from . import tries

TRIES = tries(30, 200)  # of each function
KEPT = tries(40, 400)  # of each dataclass, from which those that hold one take theirs
NASTY = (
    "", " ", "M6x1.0.", "9" * 400, "-1", "0", "1/0", "NaN", "inf", "1e400", "³", "\x00", "2.7 l",
    "18-25 N·m", "20 N·m + 90°", "M14x1.5", "10W-40", "GL-5", "engine", "km", "N·m", "ml", "2,750 l",
)  # fmt: skip
FLOATS = st.one_of(
    st.floats(),
    st.sampled_from([0.0, -1.0, 1e-300, 1e300, float("nan"), float("inf"), 0.5, 2.0, 20.0, 870.0]),
)
DECIMALS = st.one_of(
    st.decimals(),
    st.sampled_from(
        [Decimal(n) for n in ("0", "-1", "1E+400", "1E-400", "NaN", "sNaN", "Infinity")]
    ),
    st.sampled_from([Decimal(n) for n in ("0.5", "2", "20", "250", "2700", "10000")]),
)
INTEGERS = st.one_of(st.integers(-(10**30), 10**30), st.integers(-2, 40))
TEXTS = st.one_of(st.text(max_size=20), st.sampled_from(NASTY))
DATES = st.dates()
NOT_OF_THE_JOB = ("oilward_core.guard",)
SIMPLE: dict[Any, st.SearchStrategy[Any]] = {
    float: FLOATS,
    int: INTEGERS,
    str: TEXTS,
    bool: st.booleans(),
    Decimal: DECIMALS,
    Fraction: st.fractions(),
    date: DATES,
    datetime: st.datetimes(),
    timedelta: st.timedeltas(),
    object: st.none() | TEXTS | INTEGERS,
    type(None): st.none(),
}


TAME: dict[Any, st.SearchStrategy[Any]] = {
    **SIMPLE,
    float: st.sampled_from([0.0, 0.5, 1.0, 14.0, 95.0, 870.0]),
    int: st.integers(0, 40),
    Decimal: st.sampled_from([Decimal(n) for n in ("0", "0.5", "2", "20", "250", "2700", "10000")]),
}
NUMBERS = {False: SIMPLE, True: TAME}
UNIT_NAMES = st.sampled_from([*UNITS, "", "stone"])


@cache
def fields_of(cls: type, tame: bool) -> dict[str, st.SearchStrategy[Any]]:
    hints = typing.get_type_hints(cls)
    names = [field.name for field in dataclasses.fields(cls) if field.init]
    return {name: UNIT_NAMES if name == "unit" else any_of(hints[name], tame) for name in names}


@st.composite
def built(draw: st.DrawFn, cls: type) -> Any:
    """A dataclass of the core with anything in its fields; where it refuses that, with numbers
    that a workshop knows."""
    for tame in (False, True):
        try:
            return cls(**{name: draw(fitting) for name, fitting in fields_of(cls, tame).items()})
        except CoreError:
            continue
    reject()


_IN_HAND: list[type] = []


@cache
def some(cls: type) -> st.SearchStrategy[Any]:
    """Some of a dataclass, each built once: what holds many others would else be refused most of the
    time, and the function it is meant for be hardly called."""
    if cls in _IN_HAND:  # it holds its like
        return st.deferred(lambda: built(cls))
    _IN_HAND.append(cls)
    fields_of(cls, False), fields_of(cls, True)
    found: list[Any] = []

    @drawn(KEPT)
    @given(built(cls))
    def keep(one: Any) -> None:
        found.append(one)

    keep()
    _IN_HAND.remove(cls)
    return st.sampled_from(found) if found else st.nothing()


def drawn(number: int) -> settings:
    return settings(
        max_examples=number,
        phases=[Phase.generate],
        suppress_health_check=list(HealthCheck),
        deadline=None,
    )


def collected(origin: Any, args: tuple[Any, ...], tame: bool) -> st.SearchStrategy[Any]:
    """A tuple, list, set, mapping or anything to be gone through; or a way to look something up."""
    if origin is Callable:
        return any_of(args[-1], tame).map(lambda answer: lambda *_: answer)
    if origin is tuple and args[-1] is not Ellipsis:
        return st.tuples(*(any_of(arg, tame) for arg in args))
    if issubclass(origin, Mapping):
        return st.dictionaries(any_of(args[0], tame), any_of(args[1], tame), max_size=3)
    kept = origin if origin in (list, set, frozenset) else tuple
    return st.lists(any_of(args[0], tame), max_size=3).map(kept)


@cache
def any_of(hint: Any, tame: bool = False) -> st.SearchStrategy[Any]:
    """Any value of a type, as the core's signatures name it."""
    numbers = NUMBERS[tame]
    origin, args = typing.get_origin(hint), typing.get_args(hint)
    if hint is Any or hint in numbers:
        return numbers[object if hint is Any else hint]
    if origin is typing.Literal:
        return st.sampled_from(args)
    if origin in (typing.Union, types.UnionType):
        return st.one_of(*(any_of(arg, tame) for arg in args))
    if origin is not None:
        return collected(origin, args, tame)
    if isinstance(hint, typing.TypeVar):  # whatever was written down once
        return any_of(Entry, tame)
    if issubclass(hint, Enum):
        return st.sampled_from(list(hint))
    if hint is Data:
        return st.deferred(lambda: st.one_of(*(built(act.data) for act in ACTS.values())))
    if dataclasses.is_dataclass(hint):
        return some(hint)
    hints = typing.get_type_hints(hint)  # a named tuple
    return st.tuples(*(any_of(h, tame) for h in hints.values())).map(lambda values: hint(*values))


def public_functions() -> Iterator[Callable[..., Any]]:
    """What a package names in ``__all__``, and every function of a module that is no package's."""
    for found in pkgutil.walk_packages(oilward_core.__path__, "oilward_core."):
        module = importlib.import_module(found.name)
        inside = found.name.count(".") > 1
        if inside or found.name in NOT_OF_THE_JOB:
            continue
        names = getattr(module, "__all__", [n for n in vars(module) if not n.startswith("_")])
        for function in (getattr(module, name) for name in names):
            if inspect.isfunction(function) and function.__module__.startswith(found.name):
                yield function


class EveryFunction:
    """Every public function in turn, in two halves that go side by side."""

    half: int

    def test_every_public_function(self: Any) -> None:
        for function in list(public_functions())[self.half :: 2]:
            with self.subTest(f"{function.__module__}.{function.__name__}"):
                self.tried(function)

    def tried(self: Any, function: Callable[..., Any]) -> None:
        hints = typing.get_type_hints(function)
        hints.pop("return", None)
        arguments = st.fixed_dictionaries({name: any_of(hint) for name, hint in hints.items()})

        @drawn(TRIES)
        @given(arguments)
        def one(given_arguments: dict[str, Any]) -> None:
            called.append(function)
            try:
                function(**given_arguments)
            except CoreError:
                return

        called: list[Callable[..., Any]] = []
        one()
        self.assertTrue(called, "nothing could be made for it to take")


class NothingElseTests(EveryFunction, TestCase):
    half = 0


class NothingElseEitherTests(EveryFunction, TestCase):
    half = 1
