import os
import sys
from pathlib import Path

sys.path.insert(0, str(Path(__file__).resolve().parent.parent.parent / "core"))
os.environ.setdefault("DJANGO_SETTINGS_MODULE", "config.settings")

# the solver takes seconds to load: before the first request, not with it
import oilward_core.order.search  # noqa: F401
from django.core.wsgi import get_wsgi_application

application = get_wsgi_application()
