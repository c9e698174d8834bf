"""Makes the tables as some migrations leave them, in an empty database. Which ones is told on standard
input, as a list of pairs of app and name."""

import json
import sys
from typing import Any

from django.core.management.base import BaseCommand
from django.db import connection
from django.db.migrations.executor import MigrationExecutor


class Command(BaseCommand):
    help = "Make the tables as some migrations leave them."

    def handle(self, *args: Any, **options: Any) -> None:
        wanted = {(app, name) for app, name in json.load(sys.stdin)}
        executor = MigrationExecutor(connection)
        graph = executor.loader.graph
        last = [
            node
            for node in wanted & set(graph.nodes)
            if not any(child.key in wanted for child in graph.node_map[node].children)
        ]
        executor.migrate(sorted(last))
