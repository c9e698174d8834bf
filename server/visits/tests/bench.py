"""Somebody at the bench, through the API: shared by the visit tests."""

from datetime import timedelta
from typing import Any
from unittest import mock
from uuid import uuid4

from django.utils import timezone
from oilward_core.bench import DESCRIPTION
from rest_framework.test import APIClient


def ticks(step: dict[str, Any]) -> list[str]:
    """The codes of everything there is to tick at a step."""
    return [item["code"] for item in step["items"]]


def pulled(step: dict[str, Any]) -> dict[str, Any]:
    """What is written down next at a wrench card, with all that is ticked there."""
    card = step["card"]
    best = card["wrenches"][0] if card["wrenches"] else {}
    items = [item["code"] for item in step["items"]]
    said = {"reading": card["aim"], "wrench": best.get("id", ""), "items": items}
    if not card["ring"]:
        return said
    stage = card["ring"]["next"] or "full"
    return {**said, "stage": stage, "reading": best["half" if stage == "half" else "setting"]}


class Technician:
    """Works through a visit by the API, with a clock that can be moved."""

    def __init__(self, api: APIClient, bike_id: object) -> None:
        self.api = api
        self.bike_id = str(bike_id)
        self.visit = str(uuid4())
        self.now = timezone.now()
        self.sheet: dict[str, Any] = {}
        self.last: Any = None

    def _post(self, path: str, body: dict[str, Any]) -> Any:
        with mock.patch("django.utils.timezone.now", return_value=self.now):
            self.last = self.api.post(path, body, format="json")
        if self.last.status_code < 300:
            self.sheet = self.last.json()
        return self.last

    def open(
        self, odometer: str = "61 300", variant: str = "with filter", key: str = "engine"
    ) -> Any:
        return self.open_for([{"reservoir": key, "variant": variant}], odometer)

    def open_for(self, tasks: list[dict[str, str]], odometer: str, **more: Any) -> Any:
        body = {
            "id": self.visit,
            "bike": self.bike_id,
            "tasks": tasks,
            "odometer": odometer,
            **more,
        }
        return self._post("/api/visits/", body)

    @property
    def task(self) -> dict[str, Any]:
        """How the first reservoir of the visit stands."""
        return dict(self.sheet["tasks"][0])

    def task_of(self, key: str) -> dict[str, Any]:
        return next(task for task in self.sheet["tasks"] if task["key"] == key)

    def entry(self, kind: str, data: dict[str, Any] | None = None, **more: Any) -> Any:
        body = {
            "id": str(uuid4()),
            "step": self.sheet["focus"],
            "kind": kind,
            "at": self.now.isoformat(),
            "data": data or {},
            "description": DESCRIPTION,
            **more,
        }
        answer = self._post(f"/api/visits/{self.visit}/entries/", body)
        answer.body_sent = body
        self.now += timedelta(seconds=5)
        return answer

    def step(self, step_id: str) -> dict[str, Any]:
        return next(step for step in self.sheet["steps"] if step["id"] == step_id)

    def tick(self) -> Any:
        return self.entry("confirm", {"items": self.ticks()})

    def ticks(self, step_id: str = "") -> list[str]:
        """Everything there is to tick at a step."""
        return ticks(self.step(step_id or self.sheet["focus"]))

    def wait(self, minutes: int) -> None:
        if self.sheet["focus"] == "lamp":
            self.entry("answer", {"value": "went out"})
        if self.step(self.sheet["focus"])["status"] != "running":
            self.entry("start")
        self.now += timedelta(minutes=minutes)
        self.entry("stop")

    def dry(self) -> Any:
        """Fillers torqued; looked for leaks, and once more when it has stood."""
        while "/torque " in str(self.sheet["focus"]):
            self.torqued()
        self.entry("leaks", {"result": "dry"}, step="leaks")
        self.now += timedelta(minutes=5)
        return self.entry("leaks", {"result": "dry"}, step="leaks again")

    def torqued(self, step: str = "") -> Any:
        """The fastener in focus, to what its card says; a ring of screws in two passes."""
        name = step or self.sheet["focus"]
        answer = self.entry("torque", pulled(self.step(name)), step=name)
        if self.step(name)["card"]["ring"] and self.step(name)["status"] == "ready":
            answer = self.entry("torque", pulled(self.step(name)), step=name)
        return answer

    def carded(self, step: dict[str, Any]) -> Any:
        """It is pulled; where that is right, or nothing is to be pulled, and two stand for it, a lead
        looks."""
        card = step["card"]
        if not (step["second"] or (card["pulled"] and card["second"])):
            return self.entry("torque", pulled(step), step=step["id"])
        who = {"username": "oda", "password": "harbour-oda"}
        body = {"id": str(uuid4()), "step": step["id"], **who}
        return self._post(f"/api/visits/{self.visit}/second/", body)

    def look_over(self) -> None:
        """Cold checks, and the level as it came."""
        self.tick()
        if self.sheet["focus"].endswith("/came"):
            self.entry("answer", {"value": "upper half"})

    def until_drained(self) -> None:
        self.look_over()
        self.wait(10)
        self.tick()
        self.entry("answer", {"value": "open"})
        self.wait(10)

    def until_fill(self, parts: list[dict[str, Any]] | None = None) -> None:
        self.until_drained()
        self.entry("amount", {"amount": self.task["capacity"]})
        self.entry("finding", {"parts": parts or [], "oil": ["dark"]})
        self.entry("answer", {"value": "new"})
        self.tick()
        self.entry("torque", {"reading": self.task["torque"]["aim"], "wrench": self.wrench_id})
        if self.sheet["focus"].endswith("/filter"):
            self.entry("filter", {"amount": "5 oz", "items": self.ticks()})
        if self.sheet["focus"].endswith("/torque filter"):
            self.torqued()

    @property
    def wrench_id(self) -> str:
        return str(self.task["torque"]["wrenches"][0]["id"])

    def pour(self, amount: str = "", **more: Any) -> Any:
        """What the coach says, or that much; the filler is closed behind it."""
        draws = self.step(self.sheet["focus"])["draws"]
        data = {"amount": amount or self.task["coach"]["amount"], **more}
        return self.entry("draw", data) if draws else self.entry("pour", {"closed": True, **data})

    def round(self, position: str) -> None:
        self.pour()
        self.wait(2)
        self.now += timedelta(minutes=3)
        self.entry("level", {"sight": "seen", "position": position, "attitude": "upright"})

    def whole(self, **more: Any) -> None:
        """From opening to the last step."""
        self.open()
        self.until_fill(**more)
        self.round("0.4")
        self.round("0.72")
        self.dry()
        self.tick()

    def sign(self) -> Any:
        return self._post(f"/api/visits/{self.visit}/signature/", {})

    def leave(self, reason: str) -> Any:
        return self._post(f"/api/visits/{self.visit}/leave/", {"reason": reason})
