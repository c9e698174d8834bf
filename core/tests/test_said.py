"""Sentences are made when they are read, in one place, and nothing else hangs on one."""

import json
import subprocess
import sys
from functools import cache
from pathlib import Path
from typing import Any
from unittest import TestCase

from .golden_visits import GOLDEN, in_words_of_then
from .reworded import MARK, unmarked

CORE = Path(__file__).parents[1]


@cache
def put_another_way() -> dict[str, Any]:
    done = subprocess.run(
        [sys.executable, "-m", "tests.reworded"],
        cwd=CORE, capture_output=True, text=True, check=True,
    )  # fmt: skip
    return dict(json.loads(done.stdout))


class PutAnotherWayTests(TestCase):
    def test_every_fold_verdict_and_stop_stays(self) -> None:
        for visit in GOLDEN:
            for answer, now in zip(visit.answers, put_another_way()[visit.name], strict=True):
                with self.subTest(visit=visit.name, after=answer.after):
                    told = json.loads(json.dumps(in_words_of_then(visit.answer(answer.after))))
                    self.assertEqual(unmarked(now), unmarked(told))

    def test_they_were_put_another_way(self) -> None:
        for visit in GOLDEN:
            with self.subTest(visit=visit.name):
                self.assertIn(MARK, json.dumps(put_another_way()[visit.name], ensure_ascii=False))
