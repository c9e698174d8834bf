"""A line of the log is one JSON object, whatever somebody typed."""

import json
import logging
import logging.config
import subprocess
import sys
import tempfile
import threading
from io import StringIO
from pathlib import Path
from unittest import TestCase, mock

from demo.testing import WorkshopTestCase
from rest_framework.test import APIClient

from config.settings import LOGGING, ROOT

sys.path.insert(0, str(ROOT))

from ops import journal

FORGED = 'oda"}\n{"level": "INFO", "message": "signed in: oda\u2028\x1b[2K'


class LineTests(WorkshopTestCase):
    def test_a_name_with_a_line_break_forges_no_line(self) -> None:
        out = StringIO()
        handler = logging.StreamHandler(out)
        told = dict(LOGGING["formatters"]["line"])  # type: ignore[index]
        made = logging.config.DictConfigurator({"version": 1}).configure_formatter(told)
        handler.setFormatter(made)
        log = logging.getLogger("oilward.access")
        log.addHandler(handler)
        self.addCleanup(log.removeHandler, handler)
        body = {"username": FORGED[:40], "password": "x"}
        APIClient().post("/api/session/", body, format="json")
        (line,) = out.getvalue().splitlines()
        told = json.loads(line)
        self.assertEqual(set(told), {"at", "level", "by", "message"})
        self.assertEqual((told["level"], told["by"]), ("WARNING", "oilward.access"))
        self.assertIn(FORGED[:40], told["message"])
        self.assertTrue(line.isascii() and line.isprintable())


class JournalTests(TestCase):
    def test_what_any_process_says_is_an_object_with_its_name(self) -> None:
        folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        log = self.enterContext(mock.patch.object(journal, "log", logging.Logger("house")))
        journal.begin(folder)
        log.warning("the database ended\n%s", FORGED)
        words = ["printf", r'{"level":"ERROR","message":"x"}\nplain \033[2K words\n[1]\n']
        process = subprocess.Popen(words, stdout=subprocess.PIPE)
        journal.follow("app", process)
        process.wait()
        for thread in threading.enumerate():
            if thread.name == "journal of app":
                thread.join()
        for handler in log.handlers:
            handler.close()
        told = [json.loads(line) for line in (folder / "oilward.log").read_text().splitlines()]
        self.assertEqual([one["process"] for one in told], ["keeper", "app", "app", "app"])
        self.assertEqual([one["level"] for one in told], ["WARNING", "ERROR", "INFO", "INFO"])
        self.assertEqual(told[3]["message"], "[1]")
