"""A tablet on another host, with nothing but Python: it learns to trust the workshop, comes in by a
one-time link, and does a workshop's first visit, up to the signature. Run as a program by the test."""

import json
import ssl
import sys
import time
import urllib.error
import urllib.request
from collections import Counter
from datetime import UTC, datetime
from hashlib import sha256
from http.client import HTTPSConnection
from http.cookiejar import CookieJar
from pathlib import Path
from typing import Any
from urllib.parse import urlsplit
from uuid import uuid4

MINUTE = 0.05  # seconds; the server was told so


def authority(plain: str, fingerprint: str) -> ssl.SSLContext:
    """Fetch the workshop's certificate without encryption, and compare it before it is trusted."""
    page = urllib.request.urlopen(f"{plain}/", timeout=10).read().decode()
    assert fingerprint in page, page
    pem = urllib.request.urlopen(f"{plain}/oilward-ca.crt", timeout=10).read().decode()
    found = sha256(ssl.PEM_cert_to_DER_cert(pem)).digest().hex(":").upper()
    assert found == fingerprint, (found, fingerprint)
    return ssl.create_default_context(cadata=pem)


class Tablet:
    """A browser's manners: it keeps cookies, sends the token back, and believes only that authority."""

    def __init__(self, base: str, trust: ssl.SSLContext) -> None:
        self.base, self.cookies = base, CookieJar()
        self.opener = urllib.request.build_opener(
            urllib.request.HTTPSHandler(context=trust),
            urllib.request.HTTPCookieProcessor(self.cookies),
        )
        self.opener.open(f"{base}/", timeout=20).read()

    def ask(
        self, method: str, path: str, body: Any = None, wanted: tuple[int, ...] = (200, 201)
    ) -> Any:
        token = next(one.value for one in self.cookies if one.name == "__Host-csrftoken")
        headers = {"X-CSRFToken": token or "", "Referer": f"{self.base}/"}
        data = None if body is None else json.dumps(body).encode()
        headers |= {"Content-Type": "application/json"} if data else {}
        request = urllib.request.Request(f"{self.base}{path}", data, headers, method=method)
        try:
            with self.opener.open(request, timeout=30) as answer:
                status, said = answer.status, answer.read()
        except urllib.error.HTTPError as refused:
            status, said = refused.code, refused.read()
        assert status in wanted, (method, path, status, said[:600], body)
        return json.loads(said) if said else None

    def come_in(self, link: str, password: str) -> None:
        path = f"/api{link.removeprefix(self.base)}/"
        self.ask("GET", path)
        session = self.ask("POST", path, {"password": password, "pin": "2580"})
        assert session["signed_in"], session


def colleague(lead: Tablet, trust: ssl.SSLContext, name: str) -> Tablet:
    """Somebody the lead adds, who comes in on a tablet of theirs."""
    person = {"id": str(uuid4()), "username": name.lower(), "name": name, "role": "technician"}
    link = lead.ask("POST", "/api/people/", {**person, "qualifications": []})
    tablet = Tablet(lead.base, trust)
    tablet.come_in(link["path"], "nine dry docks")
    return tablet


def again(base: str, trust: ssl.SSLContext, username: str) -> Tablet:
    """Somebody who is known signs in on another tablet."""
    tablet = Tablet(base, trust)
    tablet.ask("POST", "/api/session/", {"username": username, "password": "nine dry docks"})
    return tablet


def began(lead: Tablet, mira: Tablet, document: dict[str, Any]) -> int:
    """A sheet of a colleague's that the lead approves, a wrench and an oil."""
    sheet = mira.ask("POST", "/api/sheets/document/", document)
    numbers = [one["path"] for one in sheet["unchecked_numbers"]]
    lead.ask("POST", f"/api/sheets/{sheet['id']}/approval/", {"unchecked": numbers})
    wrench = {"id": 0, "version": 0, "name": "Click wrench", "unit": "N·m", "low": "5"}
    wrench |= {"high": "60", "resolution": "0.5", "accuracy": "4", "length": ""}
    mira.ask("PUT", "/api/wrenches/", wrench)
    return int(sheet["model"]["id"])


def bike(mira: Tablet, model: int) -> str:
    bike_id = str(uuid4())
    form = {
        **{
            "id": bike_id,
            "model": model,
            "name": "First Light",
            "owner": "",
            "use_class": "touring",
        },
        **{"odometer_unit": "km", "records": "none", "new_on": "", "severity": "1"},
        **{
            "counts_hours": False,
            "notes": "",
            "archived": False,
            "version": 0,
            "odometer": "12 000",
        },
    }
    mira.ask("POST", "/api/bikes/", form)
    return bike_id


class Visit:
    """The first visit, step by step as the sheet asks."""

    def __init__(self, tablet: Tablet, bike_id: str) -> None:
        self.tablet, self.id, self.levels = tablet, str(uuid4()), ["0.4", "0.72"]
        task = {"reservoir": "engine", "variant": "with filter"}
        new = {"id": self.id, "bike": bike_id, "tasks": [task], "odometer": "12 010"}
        self.sheet = tablet.ask("POST", "/api/visits/", new)

    def entry(self, kind: str, data: dict[str, Any] | None = None) -> None:
        now = datetime.now(UTC).isoformat()
        body = {"id": str(uuid4()), "step": self.sheet["focus"], "kind": kind, "at": now}
        path = f"/api/visits/{self.id}/entries/"
        self.sheet = self.tablet.ask("POST", path, {**body, "data": data or {}})

    @property
    def step(self) -> dict[str, Any]:
        return next(one for one in self.sheet["steps"] if one["id"] == self.sheet["focus"])

    def level(self) -> str:
        """Low at first; from the second look on it stands where it should."""
        return self.levels.pop(0) if len(self.levels) > 1 else self.levels[0]

    def wait(self) -> None:
        if self.step["status"] != "running":
            self.entry("start")
        time.sleep(max(1.1, float(self.step.get("minutes") or 10) * MINUTE + 0.3))
        self.entry("stop")

    def do(self) -> None:
        step, task = self.step, self.sheet["tasks"][0]
        kind, items = step["kind"], {"items": [item["code"] for item in step["items"]]}
        if step["not_before"]:
            early = datetime.fromisoformat(step["not_before"]) - datetime.now(UTC)
            time.sleep(max(early.total_seconds(), 0) + 0.1)
        if kind in ("timer", "drain", "wait"):
            self.wait()
        elif kind == "torque":
            best, ring = step["card"]["wrenches"][0], step["card"]["ring"]
            pull = {"reading": step["card"]["aim"], "wrench": str(best["id"]), **items}
            if ring:
                half = ring["next"] == "half"
                pull |= {"stage": ring["next"] or "full", "reading": best["half"]} if half else {}
                pull |= {} if half else {"stage": "full"}
            self.entry("torque", pull)
        elif kind == "fill":
            amount = {"amount": task["coach"]["amount"]}
            if step["draws"]:
                self.entry("draw", amount)
            else:
                self.entry("pour", {**amount, "closed": True})
        elif kind == "level":
            seen = {"sight": "seen", "position": self.level(), "attitude": "upright"}
            self.entry("level", seen)
        else:
            said: dict[str, tuple[str, dict[str, Any]]] = {
                "check": ("confirm", items),
                "look up": ("confirm", items),
                "gate": (
                    "answer",
                    {"value": step["options"][0]["code"] if step["options"] else ""},
                ),
                "amount": ("amount", {"amount": task["capacity"]}),
                "finding": ("finding", {"parts": [], "oil": ["dark"]}),
                "choice": ("answer", {"value": "new"}),
                "filter": ("filter", {"amount": "5 oz", **items}),
                "leaks": ("leaks", {"result": "dry"}),
            }
            self.entry(*said[kind])

    def whole(self) -> None:
        for _ in range(60):
            if self.sheet["ready_to_sign"]:
                break
            self.do()
        self.sheet = self.tablet.ask("POST", f"/api/visits/{self.id}/signature/", {})


def together(signed_in: list[Tablet], trust: ssl.SSLContext, number: int) -> str:
    """So many tablets behind this one address, some of them with the same sign-in, each on a line where
    it is told of changes and on one where it asks; what they were answered."""
    held, at = [], urlsplit(signed_in[0].base)
    for n in range(number):
        cookies = signed_in[n % len(signed_in)].cookies
        sent = {"Cookie": "; ".join(f"{one.name}={one.value}" for one in cookies)}
        for path in ("/events/", "/api/ward/"):
            line = HTTPSConnection(at.hostname or "", at.port, context=trust, timeout=40)
            line.request("GET", path, headers=sent)
            held.append(line)
    answers = Counter(line.getresponse().status for line in held)
    return ", ".join(f"{status} {many} times" for status, many in answers.items())


def main(plain: str, fingerprint: str, link: str, document: str) -> None:
    """From the one-time link to the signature."""
    trust = authority(plain, fingerprint)
    base = link.partition("/welcome/")[0]
    lead = Tablet(base, trust)
    lead.come_in(link, "four wet ropes")
    mira, *_ = [colleague(lead, trust, name) for name in ("Mira", "Runa", "Piet")]
    model = began(lead, mira, json.loads(Path(document).read_text()))
    visit = Visit(mira, bike(mira, model))
    visit.whole()
    print(f"signed: {visit.sheet['state']}")
    signed_in = [again(base, trust, name) for name in ("mira", "runa", "piet") for _ in range(4)]
    print(f"sixty: {together(signed_in, trust, 60)}")


if __name__ == "__main__":
    main(*sys.argv[1:])
