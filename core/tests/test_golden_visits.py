"""Visits written down by the last release, of the first and the second description, answer as they did
then, word for word.

The files in ``golden/visits`` were made by that release: its run sheets, worked through by a hand that
slips, waits, corrects and is called away, with what it answered at a third, two thirds and the end. What
a later rule changes on purpose stands in `CHANGED`, each with its reason.
"""

from collections.abc import Iterator
from typing import Any
from unittest import TestCase

from .golden_visits import CHANGED, GOLDEN, in_words_of_then


def differences(then: Any, now: Any, at: str = "") -> Iterator[tuple[str, Any, Any]]:
    """Where two answers differ: place, then, now."""
    if isinstance(then, dict) and isinstance(now, dict):
        for key in sorted({*then, *now}):
            yield from differences(then.get(key), now.get(key), f"{at}/{key}")
    elif isinstance(then, list) and isinstance(now, list) and len(then) == len(now):
        for number, (one, other) in enumerate(zip(then, now, strict=True)):
            yield from differences(one, other, f"{at}/{number}")
    elif then != now and (then or now):  # what said nothing was left out
        yield at, then, now


class GoldenVisitTests(TestCase):
    def test_every_visit_answers_as_it_did(self) -> None:
        for visit in GOLDEN:
            for answer in visit.answers:
                with self.subTest(visit=visit.name, after=answer.after):
                    now = in_words_of_then(visit.answer(answer.after))
                    unlike = [
                        (at, before, after)
                        for at, before, after in differences(answer.said, now)
                        if not any(change.explains(visit, at, before, after) for change in CHANGED)
                    ]
                    self.assertEqual(unlike, [])

    def test_there_are_both_descriptions_and_every_kind_of_entry(self) -> None:
        self.assertEqual({visit.description for visit in GOLDEN}, {1, 2})
        kinds = {entry["kind"] for visit in GOLDEN for entry in visit.written}
        self.assertGreaterEqual(len(kinds), 26)
