"""The pages, the schema, and what every refusal looks like."""

import json
import tempfile
from pathlib import Path
from typing import Any

from demo.testing import WorkshopTestCase
from django.db import IntegrityError, transaction
from django.test import override_settings
from rest_framework.test import APIClient
from shelf.models import SealRow

from config.problems import problem

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
            SealRow.objects.create(**columns)
        return caught.exception

    def test_two_at_the_same_moment_are_asked_to_press_again(self) -> None:
        SealRow.objects.create(name="O-ring 9 mm", count=1)
        answer = problem(self.refused(name="O-ring 9 mm", count=2), {})
        assert answer is not None
        self.assertEqual((answer.status_code, answer["Retry-After"]), (409, "1"))
        self.assertIn("Press once more", answer.data["detail"])
        # what the database refuses for another reason is a fault of ours, and says so
        self.assertIsNone(problem(self.refused(name="O-ring 8 mm", count=-1), {}))

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

    def test_broken_json_is_no_server_error(self) -> None:
        answer = self.api.post("/api/visits/", "{", content_type="application/json")
        self.assertEqual(answer.status_code, 400)
