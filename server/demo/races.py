"""What race tests share: calls that begin at the same moment, each on its own connection."""

from collections.abc import Callable
from threading import Barrier, Thread
from typing import Any

from django.db import connection
from django.test import TransactionTestCase
from garage.models import Bike
from rest_framework.test import APIClient

from demo.testing import load_stories, signed_in

TRIES = 20


class RaceTestCase(TransactionTestCase):
    """The demo workshop on real transactions."""

    def setUp(self) -> None:
        load_stories()
        self.heron = Bike.objects.get(name="Grey Heron")

    def signed_in(self, username: str) -> APIClient:
        return signed_in(username)

    def at_once(self, *calls: Callable[[], Any]) -> list[Any]:
        """What these calls answer, made at the same moment, in their order."""
        barrier = Barrier(len(calls))
        answers: list[Any] = [None] * len(calls)

        def work(number: int, call: Callable[[], Any]) -> None:
            try:
                barrier.wait(20)
                answers[number] = call()
            except Exception as error:
                answers[number] = error
            finally:
                connection.close()

        threads = [Thread(target=work, args=one) for one in enumerate(calls)]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join(60)
        return answers

    def codes(self, *calls: Callable[[], Any]) -> list[int]:
        """The status codes of requests made at the same moment."""
        return [getattr(answer, "status_code", 0) for answer in self.at_once(*calls)]
