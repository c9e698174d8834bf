"""Every code that core or server can raise has a sentence."""

import re
from pathlib import Path
from unittest import TestCase

from config.sentences import _SENTENCES, sentence

ROOT = Path(__file__).resolve().parents[3]
RAISED = re.compile(r'(?:CoreError|Conflict)\(\s*"([a-z_]+\.[a-z_]+)"')
READ_CODES = re.compile(r'"(finding\.[a-z_]+|sheet\.position)"')


class SentenceTests(TestCase):
    def test_every_code_raised_has_one(self) -> None:
        codes = set()
        for path in [*(ROOT / "core/oilward_core").rglob("*.py"), *(ROOT / "server").rglob("*.py")]:
            if "tests" not in path.parts:
                codes |= set(RAISED.findall(path.read_text()))
                codes |= set(READ_CODES.findall(path.read_text()))
        self.assertGreater(len(codes), 30)
        self.assertEqual(codes - {"due.severity"} - set(_SENTENCES), set())

    def test_options_are_named(self) -> None:
        words = sentence("quantity.doubtful_comma", {"options": ["2.75 l", "2750 l"]})
        self.assertEqual(words, "Is that 2.75 l or 2750 l? Type it without the comma.")
