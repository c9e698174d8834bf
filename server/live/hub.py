"""What changed, from the database to everybody who watches."""

import asyncio
import contextlib
from collections.abc import Iterator

import psycopg
from django.conf import settings
from workshop.announce import CHANNEL, listening_to

AGAIN = "again"  # something may have been missed: ask for everything
_MOST = 100
_RETRY = 1.0  # seconds


class Watch:
    """One who watches some topics; with none named, all. ``person``: whose it is."""

    def __init__(self, topics: frozenset[str], person: int = 0) -> None:
        self.topics, self.person = topics, person
        self._heard: asyncio.Queue[str] = asyncio.Queue(_MOST)

    def tell(self, topic: str) -> None:
        """Never waits: who is too slow is told to ask for everything."""
        if topic != AGAIN and self.topics and topic not in self.topics:
            return
        if self._heard.full():
            while not self._heard.empty():
                self._heard.get_nowait()
            topic = AGAIN
        self._heard.put_nowait(topic)

    async def next(self, seconds: float) -> str | None:
        """The next topic, or none in that time."""
        with contextlib.suppress(TimeoutError):
            return await asyncio.wait_for(self._heard.get(), seconds)
        return None


class Hub:
    """One connection to the database that listens, and any number who watch."""

    def __init__(self) -> None:
        self._watching: set[Watch] = set()
        self.listening = asyncio.Event()

    @contextlib.contextmanager
    def watching(self, topics: frozenset[str], person: int = 0) -> Iterator[Watch]:
        watch = Watch(topics, person)
        self._watching.add(watch)
        try:
            yield watch
        finally:
            self._watching.discard(watch)

    def held_by(self, person: int) -> int:
        """How many streams somebody holds open."""
        return sum(watch.person == person for watch in self._watching)

    def tell(self, topic: str) -> None:
        for watch in self._watching:
            watch.tell(topic)

    async def listen(self) -> None:
        """Listens until it is cancelled. A database that went away is tried again, and whoever
        watches asks for what may have been missed."""
        while True:
            with contextlib.suppress(psycopg.Error, OSError):
                await self._hear()
            self.listening.clear()
            await asyncio.sleep(_RETRY)

    async def _hear(self) -> None:
        at = listening_to(settings.DATABASES["default"])
        connection = await psycopg.AsyncConnection.connect(**at)
        async with connection:
            await connection.execute(f"LISTEN {CHANNEL}")
            self.listening.set()
            self.tell(AGAIN)
            async for notice in connection.notifies():
                self.tell(notice.payload)
