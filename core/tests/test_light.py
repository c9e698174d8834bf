"""Where only the bench is wanted, nothing heavy comes with it."""

import json
import subprocess
import sys
from pathlib import Path
from unittest import TestCase

CORE = Path(__file__).parents[1]
HEAVY = {"ortools", "jsonschema", "django", "rest_framework", "psycopg"}


class LightTests(TestCase):
    def test_the_bench_and_its_shapes_need_no_solver_and_no_validator(self) -> None:
        for wanted in ("oilward_core.bench", "oilward_bench"):
            with self.subTest(wanted=wanted):
                told = f"import json, sys, {wanted}; print(json.dumps(sorted(sys.modules)))"
                done = subprocess.run(
                    [sys.executable, "-c", told],
                    cwd=CORE, capture_output=True, text=True, check=True,
                )  # fmt: skip
                loaded = {name.split(".")[0] for name in json.loads(done.stdout)}
                self.assertEqual(loaded & HEAVY, set())
                self.assertIn("oilward_core", loaded)
