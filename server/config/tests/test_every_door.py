"""Every route: who may come in, and nonsense is refused without falling over."""

from collections.abc import Iterator
from typing import Any
from uuid import UUID, uuid4

from demo.testing import WorkshopTestCase
from django.urls import URLPattern, URLResolver, get_resolver
from findings.models import Finding
from garage.models import OdometerReading, SpecSheet
from rest_framework.test import APIClient
from workshop.models import Person, Workshop

OPEN = (
    *("session/", "health/", "schema/", "calendar/<str:token>.ics"),
    *("doorway/", "welcome/<str:token>/"),
)
# what everyone changes of themselves, readers too
OWN = ("own/", "own/password/", "own/pin/", "own/proof/", "session/hands/")
# one's own sessions, by a digest
OWN += ("own/sessions/<str:named>/",)
# asked for with a body, but writing nothing
ASKED = ("bikes/<uuid:bike_id>/plan/",)
JUNK: tuple[Any, ...] = (
    None,
    [],
    "text",
    {"id": 5, "cells": "x", "tasks": 3, "asked": [], "written": {}, "columns": {"a": 1}},
    {"id": "x", "cells": [{"path": 1}], "name": [], "year": "soon", "paths": [None], "data": 7},
    {"id": str(uuid4()), "size": "9" * 400, "on": "9" * 400, "text": "\x00", "reason": "\x00"},
)


def routes(found: Any = None, before: str = "") -> Iterator[str]:
    """Every API route as it is written in the urls."""
    for pattern in (found or get_resolver()).url_patterns:
        route = before + str(pattern.pattern)
        if isinstance(pattern, URLResolver):
            yield from routes(pattern, route)
        elif isinstance(pattern, URLPattern) and route.startswith("api/") and "^" not in route:
            yield route.removeprefix("api/")


class DoorTests(WorkshopTestCase):
    METHODS = ("get", "post", "put", "delete")

    def setUp(self) -> None:
        super().setUp()
        sheet = SpecSheet.objects.earliest("id")
        self.there = {
            "<uuid:bike_id>": str(self.heron.pk),
            "<uuid:reading_id>": str(OdometerReading.objects.latest("id").pk),
            "<uuid:finding_id>": str(Finding.objects.latest("found_on").pk),
            "<uuid:act>": str(UUID(int=7)),
            "<int:sheet_id>": str(sheet.pk),
            "<int:model_id>": str(sheet.model_id),
            "<int:wrench_id>": "2",
            "<int:number>": "1",
            "<int:person_id>": str(Person.objects.get(username="runa").pk),
            "<str:token>": Workshop.objects.get().calendar_token,
        }

    def url(self, route: str, there: bool = True) -> str:
        for name, value in self.there.items():
            unknown = str(UUID(int=7)) if "uuid" in name else "999999"
            route = route.replace(name, value if there else unknown)
        ids = (
            "visit_id",
            "photo_id",
            "picture_id",
            "sample_id",
            "file_id",
            "tablet_id",
            "row_id",
            "handed_id",
        )
        for name in ids:
            route = route.replace(f"<uuid:{name}>", str(UUID(int=7)))
        return f"/api/{route}"

    def statuses(self, api: APIClient, route: str, body: Any, there: bool = True) -> dict[str, int]:
        url, found = self.url(route, there), {}
        for method in self.METHODS:
            answer = getattr(api, method)(url, body, format=None if method == "get" else "json")
            found[method] = answer.status_code
        return found

    def test_there_are_as_many_routes_as_are_tried(self) -> None:
        self.assertGreater(len(list(routes())), 35)

    def test_nobody_comes_in_unsigned(self) -> None:
        for route in routes():
            if route in OPEN:
                continue
            with self.subTest(route):
                codes = set(self.statuses(APIClient(), route, {}).values())
                self.assertEqual(codes - {401, 405}, set())

    def test_a_reader_writes_nowhere(self) -> None:
        piet = self.signed_in("piet")
        for route in routes():
            if route in OPEN or route in ASKED or route in OWN:
                continue
            with self.subTest(route):
                codes = self.statuses(piet, route, {})
                writes = {codes[method] for method in ("post", "put", "delete")}
                self.assertEqual(writes - {403, 405}, set())

    def test_nonsense_is_refused_in_words(self) -> None:
        for route in routes():
            for junk in JUNK:
                if route in OPEN:
                    continue
                with self.subTest(route=route, junk=str(junk)[:40]):
                    for method in ("post", "put"):
                        answer = getattr(self.api, method)(self.url(route), junk, format="json")
                        self.assertLess(answer.status_code, 500)
                        if answer.status_code >= 400:
                            self.assertTrue(answer.json()["detail"])

    def test_what_is_not_there_is_not_found(self) -> None:
        for route in routes():
            if route in OPEN or "<" not in route:
                continue
            with self.subTest(route):
                codes = self.statuses(self.api, route, {}, there=False)
                self.assertLess(max(codes.values()), 500)
                self.assertNotEqual(codes["get"], 200)
