"""Whatever the core refuses or asks has its sentence, and every sentence is said by somebody."""

import re
from pathlib import Path
from unittest import TestCase

import oilward_core

from config.sentences import _SENTENCES, sentence

CORE, SERVER = Path(oilward_core.__file__).parent, Path(__file__).parents[2]
SAID = re.compile(r'"([a-z_]+\.[a-z_]+)"')


def named(folder: Path) -> set[str]:
    """Everything in a folder's sources that looks like a code."""
    sources = [
        path
        for path in folder.rglob("*.py")
        if "tests" not in path.parts and path.name != "sentences.py"
    ]
    return {code for path in sources for code in SAID.findall(path.read_text())}


class SentenceTests(TestCase):
    def test_every_code_raised_has_a_sentence(self) -> None:
        raised = re.compile(r'(?:CoreError|Question|Conflict)\(\s*"([a-z_]+\.[a-z_]+)"')
        codes = {
            code
            for folder in (CORE, SERVER)
            for path in folder.rglob("*.py")
            if "tests" not in path.parts
            for code in raised.findall(path.read_text())
        }
        self.assertGreater(len(codes), 90)
        self.assertEqual(codes - set(_SENTENCES), set())

    def test_every_sentence_is_said_by_somebody(self) -> None:
        self.assertEqual(
            set(_SENTENCES) - named(CORE) - named(SERVER) - {"again", "not_found"}, set()
        )

    def test_facts_are_filled_in(self) -> None:
        said = sentence(
            "expected.slip",
            {
                "said": "3.4 ml",
                "expected": "3400 ml went in last time",
                "options": ["3.4 l", "3.4 ml"],
            },
        )
        self.assertEqual(said, "You typed 3.4 ml; 3400 ml went in last time. Is it 3.4 l?")

    def test_a_fact_that_is_not_there_leaves_no_hole_in_the_answer(self) -> None:
        words = sentence("quantity.doubtful_comma", {"options": ["2.75 l", "2750 l"]})
        self.assertIn("Is that 2.75 l or 2750 l?", words)
