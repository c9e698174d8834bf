"""Two writes at once: counts stay right. On real transactions, with two connections."""

from collections import Counter
from threading import Barrier, Thread

from demo.testing import load_stories
from django.db import connection
from django.test import TransactionTestCase
from garage.models import Bike
from workshop import days

from planning.models import DueRow, Tally, WardRow
from planning.services import refresh


class TogetherTests(TransactionTestCase):
    def setUp(self) -> None:
        load_stories()
        self.today = days.today()
        self.ids = list(Bike.objects.values_list("pk", flat=True))

    def at_once(self, *orders: list[object]) -> list[Exception]:
        """Refresh these lists of bikes at the same moment, each on its own connection."""
        barrier, failed = Barrier(len(orders)), []

        def work(order: list[object]) -> None:
            try:
                for _ in range(3):
                    barrier.wait(20)
                    refresh(order, self.today)  # type: ignore[arg-type]
            except Exception as error:
                failed.append(error)
            finally:
                connection.close()

        threads = [Thread(target=work, args=(order,)) for order in orders]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join(60)
        return failed

    def test_the_same_bikes_in_any_order_neither_wait_forever_nor_count_twice(self) -> None:
        before = dict(Tally.objects.exclude(count=0).values_list("name", "count"))
        failed = self.at_once(list(self.ids), list(reversed(self.ids)), self.ids[:3])
        self.assertEqual(failed, [])
        counts: Counter[str] = Counter()
        for row in WardRow.objects.all():
            counts.update(row.tally)
        now = dict(Tally.objects.exclude(count=0).values_list("name", "count"))
        self.assertEqual((now, dict(counts)), (before, before))
        self.assertEqual(WardRow.objects.count(), 6)
        self.assertEqual(
            DueRow.objects.count(), DueRow.objects.values("bike", "reservoir").distinct().count()
        )
