"""./ward bench fill: how often an engine is run until its level is right, and how often it is left too
full. Simulated fills whose truth is known (`oilward_sim.fills`), beside two rules of thumb."""

import random
from collections.abc import Callable
from dataclasses import dataclass
from multiprocessing import Pool

from oilward_core.fill import coach
from oilward_sim.fills import (
    DRAWN_FROM,
    KINDS,
    OTHERS,
    SUMP,
    Hand,
    Kind,
    Outcome,
    World,
    by_the_book_at_once,
    draw,
    in_parts,
    simulate,
)

SEED = 20261130


@dataclass(frozen=True, kw_only=True)
class Row:
    """One line of figures: what is filled by which hand, in which world, and how often."""

    name: str
    each: int
    world: World = DRAWN_FROM
    kind: Kind = SUMP
    hand: Hand = coach
    known: str = ""


def _filled(row: Row) -> list[Outcome]:
    rng, known = random.Random(SEED), {row.known: True} if row.known else {}
    return [simulate(draw(rng, row.world, row.kind, **known), row.hand) for _ in range(row.each)]


def _line(row: Row) -> str:
    found = _filled(row)

    def share(counts: Callable[[Outcome], bool]) -> str:
        return f"{sum(counts(one) for one in found) / len(found):.2%}"

    return (
        f"{row.name}: {sum(one.runs for one in found) / len(found):.2f} runs, "
        f"{share(lambda one: one.level > 1 and not one.stopped)} left above the high mark, "
        f"{share(lambda one: one.level < 0 and not one.stopped)} below the low one, "
        f"{share(lambda one: one.passed_high)} above it on the way, "
        f"{share(lambda one: one.stopped)} to a lead"
    )


def rows(each: int) -> list[Row]:
    """What is simulated: wet sumps by what is known of them, the other kinds, worlds it was not drawn
    for, and rules of thumb."""
    thumbs = (("book at once", by_the_book_at_once), ("80 %, then 60 %", in_parts))
    return [
        Row(name="by the book", each=each),
        Row(name="drop known", each=each, known="drop_known"),
        Row(name="learned", each=each, known="learned"),
        *(Row(name=name, each=each, kind=kind) for name, kind in KINDS.items()),
        *(Row(name=name, each=each // 2, world=world) for name, world in OTHERS.items()),
        *(Row(name=name, each=each // 10, hand=hand) for name, hand in thumbs),
    ]


def fill_figures(each: int = 50_000) -> None:
    """A line for each; on all cores."""
    with Pool() as pool:
        for line in pool.imap(_line, rows(each)):
            print(line, flush=True)
