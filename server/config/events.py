"""The events process, as uvicorn starts it."""

import os
import resource
import sys
from importlib import import_module
from pathlib import Path

# each stream is an open file
soft, hard = resource.getrlimit(resource.RLIMIT_NOFILE)
resource.setrlimit(resource.RLIMIT_NOFILE, (hard if hard > 0 else soft, hard))
sys.path.insert(0, str(Path(__file__).resolve().parent.parent.parent / "core"))
os.environ.setdefault("DJANGO_SETTINGS_MODULE", "config.settings")

import django  # noqa: E402

django.setup()
application = import_module("live.app").application
