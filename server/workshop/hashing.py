"""Passwords cost time to check, on purpose. One is checked at a time in each process, and few wait for
it: a flood of tries keeps nobody from working."""

from collections.abc import Iterator
from contextlib import contextmanager
from threading import Lock, Semaphore

from django.conf import settings
from django.contrib.auth.hashers import PBKDF2PasswordHasher, ScryptPasswordHasher
from rest_framework.exceptions import APIException


class Busy(APIException):
    """Too many wait for their turn already."""

    status_code = 503
    default_code = "access.busy"
    wait = 2


class Turns:
    """One at a time, and up to ``most`` that wait."""

    def __init__(self, most: int) -> None:
        self.most, self.waiting = most, 0
        self._count, self._one = Lock(), Semaphore()

    @contextmanager
    def turn(self) -> Iterator[None]:
        """One's turn. Raises Busy where too many wait."""
        with self._count:
            if self.waiting > self.most:
                raise Busy
            self.waiting += 1
        try:
            with self._one:
                yield
        finally:
            with self._count:
                self.waiting -= 1


TURNS = Turns(settings.HASHES_WAITING)


class Scrypt(ScryptPasswordHasher):
    """As the framework has it, in its turn."""

    def encode(self, *args: object, **more: object) -> str:
        with TURNS.turn():
            return super().encode(*args, **more)  # type: ignore[arg-type]


class PBKDF2(PBKDF2PasswordHasher):
    """As earlier releases kept a password, in its turn."""

    def encode(self, *args: object, **more: object) -> str:
        with TURNS.turn():
            return super().encode(*args, **more)  # type: ignore[arg-type]
