"""The settings of a workshop's own server: nothing Django warns of, nothing unencrypted."""

import importlib
import os
import subprocess
import sys
from pathlib import Path
from unittest import TestCase, mock

from demo.testing import WorkshopTestCase
from django.test import Client

from config.settings import ROOT

ENV = {"OILWARD_SECRET_KEY": "a-long-one-for-this-test-alone-" * 3, "OILWARD_HOSTS": "workshop.lan"}
ENV["OILWARD_HSTS"] = "1"  # as with a certificate of the owner's
SIGNED = {"username": "mira", "password": "harbour-mira"}


class DeployTests(TestCase):
    def test_django_has_nothing_against_them(self) -> None:
        done = subprocess.run(
            [sys.executable, "manage.py", "check", "--deploy", "--fail-level", "WARNING"],
            cwd=ROOT / "server", capture_output=True, text=True, check=False,
            env={**os.environ, **ENV, "DJANGO_SETTINGS_MODULE": "config.settings_serve"},
        )  # fmt: skip
        self.assertEqual(done.returncode, 0, done.stderr)
        self.assertIn("no issues", done.stdout)

    def test_without_a_secret_of_its_own_nothing_starts(self) -> None:
        left = {key: value for key, value in os.environ.items() if key != "OILWARD_SECRET_KEY"}
        done = subprocess.run(
            [sys.executable, "manage.py", "check"], cwd=ROOT / "server", capture_output=True,
            text=True, check=False, env={**left, "DJANGO_SETTINGS_MODULE": "config.settings_serve"},
        )  # fmt: skip
        self.assertNotEqual(done.returncode, 0)


class ServedCase(WorkshopTestCase):
    def setUp(self) -> None:
        super().setUp()
        with mock.patch.dict(os.environ, ENV):
            served = importlib.import_module("config.settings_serve")
        names = [name for name in vars(served) if name.startswith(("SECURE_", "SESSION_", "CSRF_"))]
        own = {name: getattr(served, name) for name in names}
        own |= {"ALLOWED_HOSTS": served.ALLOWED_HOSTS, "TABLET_COOKIE": served.TABLET_COOKIE}
        own |= {"EVENTS_AT": served.EVENTS_AT}
        changed = self.settings(**own)
        changed.enable()
        self.addCleanup(changed.disable)
        # as nginx asks: it says itself that the tablet came over HTTPS
        self.web = Client(SERVER_NAME="workshop.lan", headers={"X-Forwarded-Proto": "https"})


class CookieTests(ServedCase):
    def test_who_signs_in_by_password_is_in_for_a_working_day(self) -> None:
        with mock.patch.dict(os.environ, ENV):
            served = importlib.import_module("config.settings_serve")
        with self.settings(SESSION_COOKIE_AGE=served.SESSION_COOKIE_AGE):
            self.web.post("/api/session/", SIGNED, "application/json")
        left = int(self.web.cookies["__Host-session"]["max-age"])
        self.assertTrue(11 * 3600 < left <= 12 * 3600, left)

    def test_cookies_are_this_hosts_and_go_over_https_alone(self) -> None:
        self.web.post("/api/session/", SIGNED, "application/json")
        for name in ("__Host-session", "__Host-csrftoken"):
            cookie = self.web.cookies[name]
            self.assertTrue(cookie["secure"], name)
            self.assertEqual(
                (cookie["path"], cookie["domain"], cookie["samesite"]), ("/", "", "Lax")
            )
        self.assertTrue(self.web.cookies["__Host-session"]["httponly"])
        self.assertEqual(self.web.get("/api/session/").json()["events"], "/events/")

    def test_browsers_are_told_to_come_by_https_alone(self) -> None:
        told = self.web.get("/api/session/")
        self.assertIn("max-age=31536000", told["Strict-Transport-Security"])
        plain = Client(SERVER_NAME="workshop.lan").get("/api/session/")
        self.assertEqual((plain.status_code, plain["Location"][:8]), (301, "https://"))

    def test_a_host_nobody_named_is_refused(self) -> None:
        other = Client(SERVER_NAME="elsewhere.lan", headers={"X-Forwarded-Proto": "https"})
        self.assertEqual(other.get("/api/ward/").status_code, 400)

    def test_no_script_but_its_own_runs_and_nobody_frames_it(self) -> None:
        for url in ("/", "/api/session/"):
            policy = self.web.get(url)["Content-Security-Policy"]
            parts = dict(part.strip().split(" ", 1) for part in policy.split(";"))
            self.assertEqual(parts["script-src"], "'self'")
            self.assertEqual(parts["connect-src"], "'self'")
            self.assertEqual((parts["frame-ancestors"], parts["object-src"]), ("'none'", "'none'"))

    def test_the_page_itself_has_no_script_in_it(self) -> None:
        page = (Path(ROOT) / "web" / "index.html").read_text()
        for tag in page.split("<script")[1:]:
            self.assertIn("src=", tag.partition(">")[0])
            self.assertEqual(tag.partition(">")[2].partition("</script>")[0].strip(), "")
