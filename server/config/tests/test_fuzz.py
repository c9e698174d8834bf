"""Every write route, each of its fields in turn with what nobody should send: an answer in words,
never a server error. This is the one fuzz of the API."""

import json
import time
from base64 import b32decode
from collections.abc import Iterator
from itertools import islice
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any
from uuid import uuid4

from demo.testing import WIDE, WorkshopTestCase
from django.db import transaction
from django_otp.plugins.otp_totp.models import TOTPDevice
from findings.models import Finding
from garage.models import Bike, SpecSheet
from oilward_core.bench import DESCRIPTION
from rest_framework.test import APIClient
from shelf.models import Fluid
from visits.tests.bench import Technician
from workshop import days
from workshop.keeping import passphrase
from workshop.tests.test_second import shown

from config.settings import ROOT

SHOWN = passphrase.new()

SCHEMA = json.loads((ROOT / "server" / "openapi.json").read_text())
NEST: Any = "x"
for _ in range(60):
    NEST = [NEST]
HOSTILE: tuple[Any, ...] = (
    "",
    "9" * 30_000,
    "a\x00b",
    "\ud800",
    "³",
    "9999-12-31",
    "0001-01-01T00:00:00+14:00",
    float("nan"),
    float("inf"),
    10**40,
    -1,
    True,
    None,
    [],
    {},
    NEST,
)
# each field is sent all of them in a wide run; else every third, its neighbours the others
APART = 1 if WIDE else 3
# sign-in is throttled and has its own tests; pictures are no JSON; leaving a visit has one field
ELSEWHERE = {"/api/bikes/{bike_id}/photos/", "/api/bikes/{bike_id}/plug-pictures/"}
# what is refused here even when it is well written: nobody signs in so, nothing is ready to be signed
REFUSED = {
    "/api/session/",
    "/api/own/second/passkeys/",
    "/api/doorway/",
    "/api/visits/{visit_id}/signature/",
    "/api/visits/{visit_id}/second/",
}


def changed(body: Any, hostile: Any) -> Iterator[tuple[str, Any]]:
    """The body with one field after the other, at any depth, changed to something hostile. Of many alike
    (a sheet's values) the first is gone through whole, of the others what stands in them first."""
    if isinstance(body, dict):
        seen: set[tuple[str, ...]] = set()
        for key, inner in body.items():
            yield f"/{key}", {**body, key: hostile}
            alike = tuple(inner) if isinstance(inner, dict) else ()
            few = 1 if alike and alike in seen else None
            seen.add(alike)
            for place, deeper in islice(changed(inner, hostile), few):
                yield f"/{key}{place}", {**body, key: deeper}
    elif isinstance(body, list) and body:
        for place, deeper in changed(body[0], hostile):
            yield f"/0{place}", [deeper, *body[1:]]


Write = tuple[str, str, str, dict[str, Any]]
HOUSE = ("visits", "bench", "bikes", "springs", "shelf", "sheets", "people")


class WritesTestCase(WorkshopTestCase):
    """Every write there is, well written, by the part of the house it belongs to."""

    def setUp(self) -> None:
        super().setUp()
        self.lead = self.signed_in("oda")
        self.lead.raise_request_exception = False
        model = self.heron.model_id
        self.draft = self.lead.post(f"/api/models/{model}/draft/", {}, format="json").json()["id"]

    def bikes(self) -> Iterator[Write]:
        heron, today = f"/api/bikes/{self.heron.pk}/", f"{days.today()}"
        form = self.lead.get(f"{heron}form/").json()["form"]
        yield (
            "/api/bikes/",
            "post",
            "",
            {**form, "id": str(uuid4()), "name": "Gull", "odometer": "1"},
        )
        yield "/api/bikes/{bike_id}/form/", "put", f"{heron}form/", form
        reading = {"id": str(uuid4()), "odometer": "61 250", "sure": ["x"], "new_shows": "0"}
        yield "/api/bikes/{bike_id}/odometer/", "post", f"{heron}odometer/", reading
        line = self.lead.get(f"{heron}odometer/").json()["lines"][0]["id"]
        right = {**reading, "seen": line, "reason": "slipped"}
        correction = "/api/bikes/{bike_id}/odometer/{reading_id}/correction/"
        yield correction, "post", f"{heron}odometer/{line}/correction/", right
        word = {"id": str(uuid4()), "reservoir": "engine", "done_on": today, "odometer": "27 655"}
        word |= {"what": "service", "fluid": "f", "amount": "1 l", "by": "b", "proof": ""}
        url = f"/api/bikes/{Bike.objects.get(name='Lamplighter').pk}/elsewhere/"
        yield "/api/bikes/{bike_id}/elsewhere/", "post", url, {**word, "sure": ["x"]}
        own = {"path": "engine//capacity.dry", "written": "3.9 l", "document": "d", "page": "1"}
        url = f"{heron}own-values/"
        yield "/api/bikes/{bike_id}/own-values/", "put", url, {**own, "revision": 0}
        another = {**own, "path": "engine//capacity.with filter", "written": "3.6 qt"}
        self.api.put(url, {**another, "revision": 0}, format="json")
        checked = {"path": another["path"], "revision": 1}
        yield "/api/bikes/{bike_id}/own-values/checks/", "post", f"{url}checks/", checked
        asked = {
            "proposed": False,
            "tasks": [{"reservoir": "primary", "variant": "drain only"}],
            "cold": [],
            "wishes": [{"first": "primary/drain", "then": "primary/fill"}],
            "technicians": 1,
            "pans": 2,
            "planned": None,
            "on": None,
        }
        yield "/api/bikes/{bike_id}/plan/", "post", f"{heron}plan/", asked
        grave = Finding.objects.filter(level="investigate").earliest("found_on").pk
        answered = {"id": str(uuid4()), "outcome": "nothing found", "words": "looked"}
        path = "/api/findings/{finding_id}/answers/"
        yield path, "post", f"/api/findings/{grave}/answers/", answered
        otherwise = {"id": str(uuid4()), "level": "note", "reason": "flash"}
        path = "/api/findings/{finding_id}/overrulings/"
        yield path, "post", f"/api/findings/{grave}/overrulings/", otherwise
        planned = {"id": str(uuid4()), "bike": str(self.heron.pk), "on": today, "version": 0}
        yield "/api/calendar/", "post", "", {**planned, "asked": {**asked, "wishes": []}}

    def sheets(self) -> Iterator[Write]:
        name = {"make": "Lumeo", "name": "Wick", "year": "2021", "layout": "single, chain"}
        yield "/api/models/", "post", "", {**name, "displacement_cc": "125"}
        url = f"/api/sheets/{self.draft}/"
        cell = {"path": "engine//capacity.dry", "written": "3.9 l", "document": "d", "page": "1"}
        cells = {"cells": [{**cell, "revision": self.revision(cell["path"])}]}
        yield "/api/sheets/{sheet_id}/cells/", "put", f"{url}cells/", cells
        path = "engine//capacity.drain only"
        yield "/api/sheets/{sheet_id}/checks/", "post", f"{url}checks/", {"paths": [path]}
        answer = {"rule": "marks", "reservoir": "engine", "text": "t", "reason": "it says so"}
        yield "/api/sheets/{sheet_id}/answers/", "post", f"{url}answers/", answer
        other = SpecSheet.objects.exclude(pk=self.draft).earliest("id").pk
        copy = {"sheet": other, "reservoirs": ["engine"]}
        yield "/api/sheets/{sheet_id}/copy/", "post", f"{url}copy/", copy
        legs = {"leg": "fork left", "to": "fork right"}
        yield "/api/sheets/{sheet_id}/leg/", "post", f"{url}leg/", legs
        numbers = self.lead.get(url).json()["unchecked_numbers"]
        named = {"unchecked": [number["path"] for number in numbers]}
        yield "/api/sheets/{sheet_id}/approval/", "post", f"{url}approval/", named
        part = {"kind": "drain plug", "reservoir": "engine"}
        yield "/api/sheets/{sheet_id}/parts/", "post", f"{url}parts/", part
        table = {"text": "What,Value\nPre-fill,1 l", "reservoir": "engine", "heading": True}
        table["columns"] = ["field", "written"]
        yield "/api/sheets/{sheet_id}/table/", "post", f"{url}table/", table
        document = self.lead.get(f"{url}document/").json()
        few = {**document, "reservoirs": document["reservoirs"][2:3]}
        yield "/api/sheets/document/", "post", "", few

    def revision(self, path: str) -> int:
        page = self.lead.get(f"/api/sheets/{self.draft}/").json()
        rows = [r for b in page["reservoirs"] for plate in b["plates"] for r in plate["rows"]]
        return next((row["revision"] for row in rows if row["path"] == path), 0)

    def shelf(self) -> Iterator[Write]:
        fluid = Fluid.objects.earliest("id")
        form = next(c for c in self.lead.get("/api/shelf/").json()["fluids"] if c["id"] == fluid.pk)
        yield "/api/shelf/fluids/", "put", "", form["form"]
        act = {"act": str(uuid4())}
        bottle = {**act, "id": str(uuid4()), "fluid": fluid.pk, "version": 0, "size": "1 l"}
        yield (
            "/api/shelf/bottles/",
            "put",
            "",
            {**bottle, "left": "0.5 l", "opened_on": "", "batch": "L1"},
        )
        there = self.lead.get("/api/shelf/stock/").json()["bottles"][0]["id"]
        use = {**act, "id": there, "used": "10 ml", "gone": False}
        yield "/api/shelf/bottles/", "post", "", use
        ring = {**act, "name": "ring", "count": "3", "kind": "counted", "seen": None}
        yield "/api/shelf/seals/", "put", "", ring
        come = {**act, "what": fluid.name, "bottles": [{"ml": 1000, "count": 1}]}
        yield "/api/shelf/arrivals/", "post", "", {**come, "count": 1}
        waste = {"id": str(uuid4()), "kind": "added", "amount": "3 l", "note": "a drum"}
        yield "/api/shelf/waste/", "post", "", waste
        prices = self.lead.get("/api/workshop/settings/").json()
        yield "/api/workshop/settings/", "put", "", prices
        taken = {"id": str(uuid4()), "bike": str(self.heron.pk), "reservoir": "engine", "fluid": ""}
        yield "/api/lab/samples/", "post", "", taken
        pk = self.lead.post(
            "/api/lab/samples/", {**taken, "id": str(uuid4())}, format="json"
        ).json()["id"]
        path = "/api/lab/samples/{sample_id}/simulated/"
        yield path, "post", f"/api/lab/samples/{pk}/simulated/", {"x": ""}
        yield "/api/lab/files/", "post", "", {"id": str(uuid4()), "text": "label,received,Fe"}
        school = {"kind": "engine", "topic": "washer", "choice": "turned over once"}
        yield "/api/schools/", "put", "", {**school, "bike": "", "seen": ""}

    def people(self) -> Iterator[Write]:
        new = {"id": str(uuid4()), "username": "bram", "name": "Bram", "role": "reader"}
        yield "/api/people/", "post", "", {**new, "qualifications": ["tyres"]}
        runa = next(
            one
            for one in self.lead.get("/api/people/").json()["people"]
            if one["username"] == "runa"
        )
        path = "/api/people/{person_id}/"
        yield path, "put", f"/api/people/{runa['id']}/", {**runa, "role": "technician"}
        path += "welcome/{act}/"
        yield path, "put", f"/api/people/{runa['id']}/welcome/{uuid4()}/", {"x": ""}
        units = {"volume_unit": "l", "torque_unit": "lbf·ft", "ounces": "us"}
        yield "/api/own/", "put", "", units
        current = {"current": "harbour-oda"}
        yield "/api/own/password/", "put", "", {**current, "password": "four wet ropes"}
        yield "/api/own/pin/", "put", "", {**current, "pin": "2580"}
        yield "/api/session/hands/", "put", "", {"x": ""}
        erased = {"id": str(uuid4()), "name": self.heron.owner}
        yield "/api/owners/erasure/", "post", "", erased
        yield "/api/owners/data/", "post", "", {**erased, "id": str(uuid4())}
        yield "/api/own/proof/", "put", "", current
        begun = self.lead.post("/api/own/second/").json()
        yield "/api/own/second/", "post", "", {"x": ""}
        code = shown(b32decode(begun["secret"]), time.time())
        yield "/api/own/second/", "put", "", {"code": code}
        TOTPDevice.objects.update(confirmed=True)
        yield "/api/own/second/codes/", "post", "", {"x": ""}
        path = "/api/own/second/passkeys/"
        yield path, "post", "", {"x": ""}
        yield path, "put", "", {"answer": "{}", "name": "The bench's tablet"}
        yield "/api/keeping/passphrase/", "put", "", {"passphrase": SHOWN}
        yield "/api/tablets/", "post", "", {"id": str(uuid4()), "name": "Bench 1"}
        yield "/api/doorway/", "post", "", {"username": "oda", "pin": "2580"}
        link = self.lead.post(
            "/api/people/",
            {**new, "id": str(uuid4()), "username": "bo", "name": "Bo"},
            format="json",
        ).json()["path"]
        chosen = {"password": "four wet ropes", "pin": "2580"}
        yield "/api/welcome/{token}/", "post", f"/api{link}/", chosen
        wrench = {"id": 0, "version": 0, "name": "Stubby", "unit": "N·m", "low": "2", "high": "25"}
        wrench |= {"resolution": "0.5", "accuracy": "4", "length": "190"}
        yield "/api/wrenches/", "put", "", wrench

    def springs(self) -> Iterator[Write]:
        """What goes to a specialist, and what is worked out about a spring."""
        here, there, last = (self.sprung(name) for name in ("Siskin", "Serin", "Redpoll"))
        url, soon = f"/api/bikes/{here}/", f"{days.today()}"
        out = {"id": str(uuid4()), "reservoir": "shock", "to": "t", "own": "", "qualified": "q"}
        out |= {"wanted": "oil", "waits": "on the lift", "back_by": soon}
        yield "/api/bikes/{bike_id}/away/", "post", f"{url}away/", out
        back = {"id": str(uuid4()), "came": "rebuilt", "oil": "o", "pressure": "10 bar"}
        back |= {"temperature": "20", "paper": "p", "note": "n", "sure": ["x"]}
        handed = []
        for bike in (there, last):
            handed.append(str(uuid4()))
            self.out(bike, {**out, "id": handed[-1]})
        yield "/api/away/{handed_id}/back/", "post", f"/api/away/{handed[0]}/back/", back
        self.lead.post(f"/api/away/{handed[1]}/back/", {**back, "id": str(uuid4())}, format="json")
        fitted = {"id": str(uuid4()), "torqued": "48 N·m", "username": "mira"}
        fitted |= {"password": "harbour-mira"}
        yield "/api/away/{handed_id}/fitted/", "post", f"/api/away/{handed[1]}/fitted/", fitted
        sag = {"free": "620", "bike_down": "606", "bike_up": "602", "rider_down": "588"}
        sag |= {"rider_up": "583", "weight": "80 kg", "ridden": "road", "sure": ["x"]}
        yield "/api/bikes/{bike_id}/sag/{reservoir}/", "post", f"{url}sag/shock/", sag
        gap = {"gap": "90 mm", "sure": ["x"]}
        yield "/api/bikes/{bike_id}/gap/{reservoir}/", "post", f"{url}gap/fork left/", gap

    def sprung(self, name: str) -> str:
        """Another bike whose shock is on its sheet."""
        form = self.lead.get(f"/api/bikes/{self.heron.pk}/form/").json()["form"]
        model = Bike.objects.filter(model__name="Tandem 890")[0].model_id
        body = {**form, "id": str(uuid4()), "name": name, "model": model, "odometer": "1"}
        answer = self.lead.post("/api/bikes/", body, format="json")
        self.assertEqual(answer.status_code, 201, answer.content)
        return str(body["id"])

    def out(self, bike: str, body: dict[str, Any]) -> None:
        answer = self.lead.post(f"/api/bikes/{bike}/away/", body, format="json")
        self.assertEqual(answer.status_code, 204, answer.content)

    def visits(self) -> Iterator[Write]:
        engine = {"reservoir": "engine", "variant": "with filter", "fluid": ""}
        new = {"id": str(uuid4()), "bike": str(self.heron.pk), "tasks": [engine], "cold": ["tyres"]}
        new |= {"odometer": "61 300", "hours": "", "order": [], "sure": []}
        yield "/api/visits/", "post", "", new
        somebody = {"username": "nobody", "password": "x", "second": "1", "passkey": "{}"}
        yield "/api/session/", "post", "", somebody
        yield from self.standing_before("confirm", "pour", "waits")

    def bench(self) -> Iterator[Write]:
        yield from self.standing_before("amount", "finding", "torque", "takes over")

    def standing_before(self, *kinds: str) -> Iterator[Write]:
        """What is written in a visit that stands before an entry of each of these kinds."""
        part = {"form": "slivers", "matter": "steel", "share_percent": "5", "largest": "1 mm"}
        part |= {"count": "3", "magnetic": True, "pile": "1 mm"}
        spot = {"id": str(uuid4()), "x": "0.5", "y": "0.5"}
        found = {"parts": [part], "oil": ["dark"], "note": "n", "kept": "k", "pictures": [spot]}
        amount = {"amount": "3.4 l", "sure": "", "by": "jug", "celsius": "60", "warmth": "hot"}
        readings = {
            "confirm": {},
            "amount": amount,
            "finding": found,
            "torque": {"reading": "29", "unit": "N·m", "wrench": "1", "sure": "", "over": False},
            "pour": {"amount": "2 l", "sure": "", "fluid": "", "closed": True},
            "waits": {"what": "a part", "words": "w"},
            "takes over": {"hands": ["engine/drain plug"]},
        }
        for kind in kinds:
            data = readings[kind]
            with transaction.atomic():  # the next one's visit stands elsewhere
                mira = self.at(kind)
                if kind == "confirm":
                    data = {"items": mira.ticks()}
                entry = {"id": str(uuid4()), "step": mira.sheet["focus"], "kind": kind}
                entry |= {"at": mira.now.isoformat(), "sent_at": mira.now.isoformat()}
                entry["description"] = DESCRIPTION
                url = f"/api/visits/{mira.visit}/"
                if kind == "confirm":
                    path = "/api/visits/{visit_id}/signature/"
                    nobody = {"username": "nobody", "password": "x"}
                    yield path, "post", f"{url}signature/", nobody
                    looks = {**nobody, "id": str(uuid4()), "step": mira.sheet["focus"]}
                    yield "/api/visits/{visit_id}/second/", "post", f"{url}second/", looks
                path = "/api/visits/{visit_id}/entries/"
                yield path, "post", f"{url}entries/", {**entry, "data": data}
                if kind == "finding":
                    read = {"step": mira.sheet["focus"], "data": found}
                    yield "/api/visits/{visit_id}/verdict/", "post", f"{url}verdict/", read
                if kind == "confirm":
                    path = "/api/visits/{visit_id}/tasks/"
                    added = {"reservoir": "front brake", "variant": "", "fluid": "", "entry": ""}
                    yield path, "post", f"{url}tasks/", added
                    path = "/api/visits/{visit_id}/tips/"
                    tip = {"id": str(uuid4()), "step": "cold", "text": "t", "tools": "a, b"}
                    yield path, "post", f"{url}tips/", tip
                    path = "/api/visits/{visit_id}/leave/"
                    yield path, "post", f"{url}leave/", {"reason": "r"}
                transaction.set_rollback(True)

    def at(self, kind: str) -> Technician:
        """A visit that stands before an entry of this kind."""
        mira = Technician(self.api, Bike.objects.get(name="Red Buoy").pk)
        with transaction.atomic():
            self.assertEqual(mira.open("31 900").status_code, 201, mira.last.content)
            if kind == "pour":
                mira.until_fill()
            elif kind in ("amount", "finding", "torque"):
                self.before(mira, kind)
        return mira

    def before(self, mira: Technician, kind: str) -> None:
        mira.until_drained()
        if kind != "amount":
            mira.entry("amount", {"amount": mira.task["capacity"]})
        if kind == "torque":
            mira.entry("finding", {"parts": [], "oil": []})
            mira.entry("answer", {"value": "new"})
            mira.tick()

    def send(self, api: APIClient, method: str, url: str, body: Any) -> Any:
        with transaction.atomic():
            signed_in = api.cookies.copy()
            answer = api.generic(method.upper(), url, json.dumps(body), "application/json")
            transaction.set_rollback(True)
            api.cookies = signed_in
        return answer


class EveryWriteTests(WritesTestCase):
    def test_no_write_route_is_left_out(self) -> None:
        tried = {path for part in HOUSE for path, *_ in getattr(self, part)()}
        with_body = {
            path
            for path, methods in SCHEMA["paths"].items()
            for operation in methods.values()
            if "requestBody" in operation
        }
        self.assertEqual(with_body - tried - set(ELSEWHERE), set())


class FuzzTests:
    """Each field of every write of one part of the house; a class a part, to run side by side."""

    part: str

    def test_each_field_of_every_write(self: Any) -> None:
        tries, fell = 0, []
        for nth, (path, method, url, body) in enumerate(getattr(self, self.part)()):
            with transaction.atomic():
                through = self.send(self.lead, method, url or path, body)
                most = 500 if path in REFUSED else 300
                self.assertLess(through.status_code, most, (path, through.content[:300]))
                for which, hostile in enumerate(HOSTILE):
                    places = (("", hostile), *changed(body, hostile))
                    for place, sent in places[(nth + which) % APART :: APART]:
                        tries += 1
                        answer = self.send(self.lead, method, url or path, sent)
                        worded = answer.status_code < 400 or answer.get("Content-Type") == (
                            "application/problem+json"
                        )
                        if answer.status_code >= 500 or not worded:
                            what = f"{answer.status_code} {method} {path} {place}"
                            fell.append(f"{what} {str(hostile)[:20]!r}")
                transaction.set_rollback(True)
        print(f"fuzz, {self.part}: {tries} tries, {len(fell)} server errors", flush=True)
        self.assertEqual(fell, [])


class VisitsFuzzTests(FuzzTests, WritesTestCase):
    part = "visits"


class BenchFuzzTests(FuzzTests, WritesTestCase):
    part = "bench"


class BikesFuzzTests(FuzzTests, WritesTestCase):
    part = "bikes"


class SpringsFuzzTests(FuzzTests, WritesTestCase):
    part = "springs"


class ShelfFuzzTests(FuzzTests, WritesTestCase):
    part = "shelf"


class SheetsFuzzTests(FuzzTests, WritesTestCase):
    part = "sheets"


class PeopleFuzzTests(FuzzTests, WritesTestCase):
    part = "people"

    def setUp(self) -> None:
        super().setUp()
        kept = Path(self.enterContext(TemporaryDirectory()), "kept.json")
        kept.write_text(json.dumps({"check": passphrase.key_for(passphrase.TYPED, SHOWN)}))
        self.enterContext(self.settings(KEPT=str(kept)))
