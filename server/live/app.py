"""The events process: server-sent events to whoever is signed in. An ASGI application of its own, so
that the API's workers are never held by a tablet that only watches."""

import asyncio
import time
from collections.abc import Awaitable, Callable, MutableMapping
from http.cookies import SimpleCookie
from typing import Any
from urllib.parse import parse_qs, urlsplit

from asgiref.sync import sync_to_async
from django.conf import settings
from django.contrib.auth import get_user
from django.contrib.sessions.backends.db import SessionStore
from django.db import close_old_connections
from django.http import HttpRequest
from workshop.tablets.here import over

from live.hub import Hub, Watch

Scope = MutableMapping[str, Any]
Receive = Callable[[], Awaitable[MutableMapping[str, Any]]]
Send = Callable[[MutableMapping[str, Any]], Awaitable[None]]

QUIET = 15.0  # seconds after which a line is sent all the same, and the session looked at again
hub = Hub()


def _signed_in(session: str) -> int:
    close_old_connections()
    request = HttpRequest()
    request.session = SessionStore(session)
    return 0 if over(request.session) else get_user(request).pk or 0


async def _who(session: str) -> int:
    """Whose session it is; 0 for nobody's."""
    return await sync_to_async(_signed_in)(session) if session else 0


def _headers(scope: Scope) -> dict[str, str]:
    return {name.decode(): value.decode("latin-1") for name, value in scope["headers"]}


def _session(headers: dict[str, str]) -> str:
    found = SimpleCookie(headers.get("cookie", "")).get(settings.SESSION_COOKIE_NAME)
    return found.value if found else ""


def _same_house(headers: dict[str, str]) -> list[tuple[bytes, bytes]]:
    """Pages of the same host may read it, whatever port they came from."""
    origin = headers.get("origin", "")
    host = urlsplit(f"//{headers.get('host', '')}").hostname
    if not origin or urlsplit(origin).hostname != host:
        return []
    return [
        (b"access-control-allow-origin", origin.encode("latin-1")),
        (b"access-control-allow-credentials", b"true"),
        (b"vary", b"origin"),
    ]


async def _say(send: Send, status: int, more: list[tuple[bytes, bytes]]) -> None:
    headers = [(b"cache-control", b"no-store"), *more]
    await send({"type": "http.response.start", "status": status, "headers": headers})


async def _stream(send: Send, watch: Watch, session: str) -> None:
    await send({"type": "http.response.body", "body": b"retry: 1000\n\n", "more_body": True})
    looked = time.monotonic()
    while True:
        topic = await watch.next(QUIET)
        if time.monotonic() - looked >= QUIET:  # however much there is to tell
            if not await _who(session):
                return
            looked = time.monotonic()
        line = b":\n\n" if topic is None else f"data: {topic}\n\n".encode()
        await send({"type": "http.response.body", "body": line, "more_body": True})


async def _gone(receive: Receive) -> None:
    while (await receive())["type"] != "http.disconnect":
        pass


async def _events(scope: Scope, receive: Receive, send: Send) -> None:
    headers = _headers(scope)
    session, house = _session(headers), _same_house(headers)
    person = 0
    if scope["path"] != "/events/" or scope["method"] != "GET":
        await _say(send, 404, [])
    elif not (person := await _who(session)):
        await _say(send, 401, house)
    elif hub.held_by(person) >= settings.STREAMS_PER_PERSON:
        await _say(send, 429, [*house, (b"retry-after", b"15")])
    else:
        topics = frozenset(parse_qs(scope["query_string"].decode("latin-1")).get("topic", []))
        with hub.watching(topics, person) as watch:
            await _say(send, 200, [*house, (b"content-type", b"text/event-stream")])
            stream = asyncio.create_task(_stream(send, watch, session))
            gone = asyncio.create_task(_gone(receive))
            _, left = await asyncio.wait({stream, gone}, return_when=asyncio.FIRST_COMPLETED)
            for task in left:
                task.cancel()
    await send({"type": "http.response.body", "body": b""})


async def _lifespan(receive: Receive, send: Send) -> None:
    listening: asyncio.Task[None] | None = None
    while True:
        asked = (await receive())["type"]
        if asked == "lifespan.startup":
            listening = asyncio.create_task(hub.listen())
        elif listening:
            listening.cancel()
        await send({"type": f"{asked}.complete"})
        if asked == "lifespan.shutdown":
            return


async def application(scope: Scope, receive: Receive, send: Send) -> None:
    if scope["type"] == "lifespan":
        await _lifespan(receive, send)
    elif scope["type"] == "http":
        await _events(scope, receive, send)
