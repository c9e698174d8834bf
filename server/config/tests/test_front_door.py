"""The pages, the schema, and what every refusal looks like."""

import json
import tempfile
from pathlib import Path
from typing import Any
from unittest.mock import Mock, patch

from demo.testing import WorkshopTestCase
from django.contrib.sessions.backends.db import SessionStore
from django.contrib.sessions.models import Session
from django.db import DatabaseError, DataError, IntegrityError, OperationalError, transaction
from django.test import RequestFactory, override_settings
from procrastinate.exceptions import ConnectorException
from psycopg.errors import DiskFull
from rest_framework.test import APIClient
from workshop.models import Person

from config.problems import problem, server_error

SIGNED = {"username": "mira", "password": "harbour-mira"}
PROBLEM = {"type", "title", "status", "detail", "code", "question", "errors"}


class FrontDoorTests(WorkshopTestCase):
    def test_every_page_is_the_client_and_sets_the_csrf_cookie(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            (Path(folder) / "index.html").write_text("<title>Oil Ward</title>")
            with override_settings(WEB=Path(folder)):
                for path in ("/", "/bikes/1", "/visits/anything"):
                    answer = APIClient().get(path)
                    self.assertContains(answer, "Oil Ward")
                    self.assertIn("csrftoken", answer.cookies)
                    self.assertEqual(answer["Cache-Control"], "no-cache")

    def test_an_unbuilt_client_says_what_to_do(self) -> None:
        with override_settings(WEB=Path("/nowhere")):
            answer = APIClient().get("/")
        self.assertEqual(answer.status_code, 503)
        self.assertIn(b"./ward demo", answer.content)

    def refused(self, **columns: Any) -> IntegrityError:
        with self.assertRaises(IntegrityError) as caught, transaction.atomic():
            Person.objects.create(**columns)
        return caught.exception

    def test_two_at_the_same_moment_are_asked_to_press_again(self) -> None:
        answer = problem(self.refused(username="mira", role="lead"), {})
        assert answer is not None
        self.assertEqual((answer.status_code, answer["Retry-After"]), (409, "1"))
        self.assertIn("Press once more", answer.data["detail"])
        # what the database refuses for another reason cannot be kept, and that is said
        unfit = problem(self.refused(username="nils", role="owner"), {})
        self.assertEqual((unfit.status_code, unfit.data["code"]), (422, "door.unfit"))

    def test_nothing_the_api_says_is_kept_by_a_browser(self) -> None:
        for path in ("/api/ward/", "/api/session/", "/api/nothing/"):
            self.assertEqual(self.api.get(path)["Cache-Control"], "no-store", path)

    def test_other_kinds_and_methods_are_refused_and_no_answer_is_guessed_at(self) -> None:
        lead = self.signed_in("oda")
        typed = lead.post("/api/quick-sum/", data="x=1", content_type="text/plain")
        self.assertEqual(typed.status_code, 405)
        typed = lead.put("/api/workshop/settings/", data="<a/>", content_type="application/xml")
        self.assertEqual(typed.status_code, 415)
        for method in ("trace", "patch", "delete"):
            self.assertIn(getattr(lead, method)("/api/ward/").status_code, (405, 501), method)
        answer = lead.get("/api/ward/")
        self.assertEqual(answer["X-Content-Type-Options"], "nosniff")
        self.assertEqual(answer["Referrer-Policy"], "same-origin")
        self.assertTrue(answer["Content-Type"].startswith("application/json"))

    def test_what_nobody_foresaw_has_one_answer(self) -> None:
        away = problem(OperationalError("connection refused"), {})
        self.assertEqual((away.status_code, away["Retry-After"]), (503, "5"))
        full, queued = (
            OperationalError("could not extend file"),
            ConnectorException("Database error."),
        )
        full.__cause__ = queued.__cause__ = DiskFull("no space left on device")
        for error, code in (
            (full, "door.full"),
            (queued, "door.full"),
            (ConnectorException(), "door.away"),
        ):
            said = problem(error, {})
            self.assertEqual((said.status_code, said.data["code"]), (503, code))
        with self.assertLogs("oilward", "ERROR") as logged:
            fault = problem(ZeroDivisionError(), {})
        self.assertEqual((fault.status_code, set(fault.data)), (500, PROBLEM))
        self.assertIn(fault["X-Request-Id"], fault.data["detail"])
        self.assertIn(fault["X-Request-Id"], logged.output[0])
        for error in (DataError("too long"), OverflowError(), RecursionError()):
            self.assertEqual(problem(error, {}).status_code, 422)

    def test_what_falls_over_outside_of_any_view_has_the_same_shape(self) -> None:
        with self.assertLogs("oilward", "ERROR"):
            answer = server_error(RequestFactory().get("/"))
        self.assertEqual(answer["Content-Type"], "application/problem+json")
        self.assertEqual((answer.status_code, set(json.loads(answer.content))), (500, PROBLEM))

    def test_what_no_database_keeps_is_refused_at_the_door_with_its_place(self) -> None:
        for body, place in (
            ({"name": "a\x00b"}, "/name"),
            ({"parts": [{"note": "\ud800"}]}, "/parts/0/note"),
            ({"count": 10**40}, "/count"),
        ):
            answer = self.api.generic(
                "PUT", "/api/shelf/seals/", json.dumps(body), "application/json"
            )
            self.assertEqual(answer.status_code, 422, answer.content)
            self.assertEqual(answer.json()["errors"][0]["pointer"], place)

    def test_the_schema_names_every_operation_and_the_problem(self) -> None:
        schema = json.loads((Path(__file__).parents[2] / "openapi.json").read_text())
        operations = [op for path in schema["paths"].values() for op in path.values()]
        names = [operation["operationId"] for operation in operations]
        self.assertEqual(len(names), len(set(names)))
        for operation in operations:
            self.assertIn("default", operation["responses"])
        self.assertEqual(set(schema["components"]["schemas"]["Problem"]["required"]), PROBLEM)


class ProblemTests(WorkshopTestCase):
    def test_each_refusal_has_the_same_shape(self) -> None:
        reader = self.signed_in("piet")
        for answer, status in (
            (APIClient().get("/api/ward/"), 401),
            (reader.post("/api/visits/", {}, format="json"), 403),
            (self.api.get("/api/nothing/"), 404),
            (self.api.put("/api/visits/", {}, format="json"), 405),
            (self.api.post("/api/visits/", {"id": "x"}, format="json"), 400),
            (self.api.get("/api/amount/?kind=volume&text="), 422),
        ):
            with self.subTest(status):
                self.assertEqual(answer.status_code, status)
                self.assertEqual(set(answer.json()), PROBLEM)
                self.assertEqual(answer.json()["status"], status)
                self.assertTrue(answer.json()["detail"])

    def test_what_another_sites_page_sends_is_refused_in_the_same_shape(self) -> None:
        for path in ("/api/session/", "/api/doorway/", "/api/welcome/x/"):
            with self.assertLogs("oilward", "WARNING"):
                answer = APIClient(enforce_csrf_checks=True).post(path, {}, format="json")
            self.assertEqual(answer.status_code, 403)
            self.assertEqual(answer["Content-Type"], "application/problem+json")
            self.assertEqual(answer.json()["code"], "access.page")

    def test_what_keeps_a_sign_in_from_being_noted_is_said_in_the_one_shape(self) -> None:
        for cause, said in (
            (OperationalError("the connection is lost"), (503, "door.away")),
            (DatabaseError("did not affect any rows"), (401, "access.sign_in")),
        ):
            row = Session(session_key="x" * 32)
            row.save = Mock(side_effect=cause)
            begun = patch.object(
                SessionStore, "create", lambda kept: setattr(kept, "_session_key", "x" * 32)
            )
            made = patch.object(SessionStore, "create_model_instance", return_value=row)
            with begun, made, self.assertLogs("oilward", "WARNING") as log:
                answer = APIClient().post("/api/session/", SIGNED, format="json")
            self.assertEqual((answer.status_code, answer.json()["code"]), said)
            self.assertEqual(answer.json().keys(), PROBLEM)
            self.assertIn(str(cause), log.output[0])

    def test_an_unknown_name_of_the_server_is_said_in_the_one_shape(self) -> None:
        with self.assertLogs("oilward", "WARNING"):
            answer = self.api.get("/api/session/", headers={"host": "elsewhere.example"})
        self.assertEqual((answer.status_code, answer.json()["code"]), (400, "door.not_possible"))

    def test_broken_json_is_no_server_error(self) -> None:
        answer = self.api.post("/api/visits/", "{", content_type="application/json")
        self.assertEqual(answer.status_code, 400)
