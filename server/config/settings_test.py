"""Settings for the tests: as in use, but with a quick password hash."""

from .settings import *  # noqa: F403

PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
# what the tests break on purpose is said by them, not by the log
LOGGING["loggers"]["oilward"]["handlers"] = []  # type: ignore[index]  # noqa: F405
