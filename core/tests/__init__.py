"""The core's tests. They need no database, and no fast machine: properties are tried without a
clock, and on the same examples each time. ``./ward test wide`` tries new and
many more ones."""

import os

from hypothesis import HealthCheck, settings

settings.register_profile(
    "steady", deadline=None, derandomize=True, suppress_health_check=[HealthCheck.too_slow]
)
settings.register_profile("wide", parent=settings.get_profile("steady"), derandomize=False)
WIDE = os.environ.get("OILWARD_PROPERTIES") == "wide"


def tries(steady: int, wide: int) -> int:
    """How often something is tried that takes long each time."""
    return wide if WIDE else steady


settings.load_profile(os.environ.get("OILWARD_PROPERTIES", "steady"))
