"""Sentences are made when they are read, in one place, and nothing else hangs on one."""

import ast
import json
import re
import subprocess
import sys
from collections.abc import Iterator
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


HOUSE = CORE / "oilward_core"
# sentences of their own kind: what was said then; how numbers are read and written; the sheet's fields;
# published schemas; names of things that are codes or lie in a drawer; what a checker of orders tells
# whoever tests one
NOT_SAID = (
    "said", "codes", "bench/then", "quantity", "spec/fields.py", "spec/read.py",
    "exchange.py", "usedoil/imports.py",
    "people.py", "reasons.py", "runsheet/jobs.py", "kit/things.py", "order",
)  # fmt: skip
WORD = re.compile(r"[A-Za-z’']{2,}")
PATTERN = re.compile(r"[\\|^$]|\(\?|[a-z]/[a-z]")


def _texts(tree: ast.AST) -> Iterator[tuple[int, str, int]]:
    """Line, text and the words that make it a sentence; docstrings are none."""
    docs = {id(one.value) for one in ast.walk(tree) if isinstance(one, ast.Expr)}
    parts = {
        id(part) for one in ast.walk(tree) if isinstance(one, ast.JoinedStr) for part in one.values
    }
    for node in ast.walk(tree):
        if isinstance(node, ast.JoinedStr):
            texts = (one.value if isinstance(one, ast.Constant) else "{}" for one in node.values)
            yield node.lineno, "".join(map(str, texts)), 2
        elif isinstance(node, ast.Constant) and id(node) not in docs | parts:
            yield node.lineno, node.value if isinstance(node.value, str) else "", 4


def sentences(source: str) -> list[tuple[int, str]]:
    """Every text that is a sentence: a few words with something put in, more without."""
    return [
        (line, text)
        for line, text, least in _texts(ast.parse(source))
        if not PATTERN.search(text)
        and " " in text.strip()
        and (len(WORD.findall(text)) >= least or re.search(r"[a-z] \S.*[.?]$", text))
    ]


class NowhereElseTests(TestCase):
    def test_nothing_else_builds_a_sentence(self) -> None:
        for path in sorted(HOUSE.rglob("*.py")):
            name = path.relative_to(HOUSE).as_posix()
            if not name.startswith(NOT_SAID):
                with self.subTest(module=name):
                    self.assertEqual(sentences(path.read_text()), [])

    def test_one_would_be_found(self) -> None:
        self.assertEqual(sentences('x = "Look again."'), [(1, "Look again.")])
        self.assertEqual(sentences('x = f"{a} over by {b}"'), [(1, "{} over by {}")])
        self.assertEqual(sentences('"""A docstring of the module."""\nx = "drain plug"'), [])
