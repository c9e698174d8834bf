"""Tests run as the role the server runs as; making the tables and emptying them is the owner's."""

from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any

from django.conf import settings
from django.db import connection, connections
from django.db.backends.base.base import BaseDatabaseWrapper
from django.db.backends.signals import connection_created
from django.db.migrations.executor import MigrationExecutor
from django.test import TransactionTestCase
from django.test.runner import (  # type: ignore[attr-defined]
    DiscoverRunner,
    ParallelTestSuite,
    RemoteTestResult,
    RemoteTestRunner,
    _init_worker,
)
from workshop.roles import grant


def _become(found: BaseDatabaseWrapper) -> None:
    with found.cursor() as cursor:
        cursor.execute(f"SET ROLE {settings.RUNTIME_ROLE}")


def _on_connected(sender: object, connection: BaseDatabaseWrapper, **_: Any) -> None:
    _become(connection)


@contextmanager
def as_owner() -> Iterator[None]:
    """What only the owner of the tables may do: migrations, mending."""
    with connection.cursor() as cursor:
        cursor.execute("RESET ROLE")
    try:
        yield
    finally:
        _become(connection)


@contextmanager
def tampered() -> Iterator[None]:
    """For tests of what a wrong fact looks like: a superuser's hand in the tables, past every guard."""
    with as_owner(), connection.cursor() as cursor:
        cursor.execute("SET LOCAL session_replication_role = replica")
        yield
        cursor.execute("SET LOCAL session_replication_role = origin")


# what migrations make, each kind with where its names are found; the schema itself stays as it is
_MADE = {
    "TYPE": "SELECT t.oid::regtype::text FROM pg_type t LEFT JOIN pg_class c ON c.oid = t.typrelid"
    " WHERE typnamespace = 'public'::regnamespace AND (typtype = 'e' OR c.relkind = 'c')",
    "TABLE": "SELECT tablename FROM pg_tables WHERE schemaname = 'public'",
    "FUNCTION": "SELECT oid::regprocedure::text FROM pg_proc WHERE pronamespace = 'public'::regnamespace",
}


class MigrationTestCase(TransactionTestCase):
    """The database of an earlier release brought up to date; all of it the owner's work."""

    def setUp(self) -> None:
        self.enterContext(as_owner())
        self.addCleanup(grant, self, "default")
        self.addCleanup(self.migrate)

    def as_of(self, targets: list[tuple[str, str]]) -> Any:
        """The tables of then, made from nothing; the models as they were. (Going back from today to them
        takes three times as long: every migration since is worked out backwards first.)"""
        with connection.cursor() as cursor:
            for word, found in _MADE.items():
                cursor.execute(found)
                for (name,) in cursor.fetchall():
                    cursor.execute(f"DROP {word} {name} CASCADE")
        return self.migrate(targets)

    def migrate(self, targets: list[tuple[str, str]] | None = None) -> Any:
        """Migrate, to the newest if no targets are named; the models as they are then."""
        executor = MigrationExecutor(connection)
        targets = targets or executor.loader.graph.leaf_nodes()
        executor.migrate(targets)
        return MigrationExecutor(connection).loader.project_state(targets).apps


def _init(*args: Any) -> None:
    """Each process has a copy of the database, made before it was said what the runtime role may do."""
    _init_worker(*args)
    *_, used = args
    for alias in used:
        with as_owner():
            grant(_init, alias)


class _Sent(RemoteTestResult):
    """A failed part of a test is sent home by its name alone: what the test held cannot be sent."""

    def addSubTest(self, test: Any, subtest: Any, err: Any) -> None:
        if err is not None:
            named = object.__new__(type(test))
            named._testMethodName, named._testMethodDoc = test._testMethodName, test._testMethodDoc
            subtest.test_case = named
        super().addSubTest(test, subtest, err)


class _Runner(RemoteTestRunner):
    resultclass = _Sent


def _takes_long(suite: Any) -> bool:
    return any(getattr(test, "takes_long", False) for test in suite)


class SideBySide(ParallelTestSuite):
    """The classes of tests shared out to several processes, those first that say they take long."""

    init_worker = _init
    runner_class = _Runner

    def __init__(self, subsuites: Any, *more: Any, **named: Any) -> None:
        long_first = sorted(subsuites, key=lambda suite: not _takes_long(suite))
        super().__init__(long_first, *more, **named)


# the queue's tables are not the framework's to empty
QUEUE = (
    "TRUNCATE procrastinate_jobs, procrastinate_periodic_defers, procrastinate_workers CASCADE",
)


class AsInUse(DiscoverRunner):
    """Makes the test database as its owner, then goes on as the runtime role."""

    parallel_test_suite = SideBySide

    def setup_databases(self, **kwargs: Any) -> Any:
        made = super().setup_databases(**kwargs)
        for found in (connections[alias] for *_, alias in [(c, c.alias) for c, *_ in made]):
            empty = found.ops.execute_sql_flush

            def flush(words: list[str], empty: Any = empty) -> None:
                with as_owner():
                    empty([*words, *QUEUE])

            found.ops.execute_sql_flush = flush  # type: ignore[method-assign, assignment]
            grant(self, found.alias)
            _become(found)
        if made:
            connection_created.connect(_on_connected, dispatch_uid="tests.role")
        return made

    def teardown_databases(self, old_config: Any, **kwargs: Any) -> None:
        connection_created.disconnect(dispatch_uid="tests.role")
        super().teardown_databases(old_config, **kwargs)
