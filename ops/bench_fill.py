"""./ward bench fill: how often an engine is run until its level is right, and how often it is left too
full. Simulated fills whose truth is known (`oilward_sim.fills`), beside two rules of thumb."""

import random
from collections.abc import Callable

from oilward_core.fill import coach
from oilward_sim.fills import (
    DRAWN_FROM,
    OTHERS,
    Hand,
    Outcome,
    World,
    by_the_book_at_once,
    draw,
    in_parts,
    simulate,
)

SEED = 20261130


def _filled(world: World, each: int, hand: Hand = coach, **known: bool) -> list[Outcome]:
    rng = random.Random(SEED)
    return [simulate(draw(rng, world, **known), hand) for _ in range(each)]


def _line(name: str, found: list[Outcome]) -> str:
    def share(counts: Callable[[Outcome], bool]) -> str:
        return f"{sum(counts(one) for one in found) / len(found):.2%}"

    return (
        f"{name}: {sum(one.runs for one in found) / len(found):.2f} runs, "
        f"{share(lambda one: one.level > 1 and not one.stopped)} left above the high mark, "
        f"{share(lambda one: one.level < 0 and not one.stopped)} below the low one, "
        f"{share(lambda one: one.passed_high)} above it on the way, "
        f"{share(lambda one: one.stopped)} to a lead"
    )


def fill_figures(each: int = 50_000) -> None:
    """Each line is as many fills; the last is how often rules of thumb do."""
    print(_line("by the book", _filled(DRAWN_FROM, each)), flush=True)
    print(_line("drop known", _filled(DRAWN_FROM, each, drop_known=True)), flush=True)
    print(_line("learned", _filled(DRAWN_FROM, each, learned=True)), flush=True)
    for name, world in OTHERS.items():
        print(_line(name, _filled(world, each // 10)), flush=True)
    for name, hand in (("book at once", by_the_book_at_once), ("80 %, then 60 %", in_parts)):
        print(_line(name, _filled(DRAWN_FROM, each // 10, hand)), flush=True)
