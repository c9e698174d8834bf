"""Settings for the tests: as in use, but with a quick password hash."""

from .settings import *  # noqa: F403

# far from UTC: for most of a day it is another date here
TIME_ZONE = "Pacific/Kiritimati"
TEST_RUNNER = "demo.as_in_use.AsInUse"
PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
# what the tests break on purpose is said by them, not by the log
LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "loggers": {"oilward": {"handlers": ["nowhere"], "propagate": False}},
    "handlers": {"nowhere": {"class": "logging.NullHandler"}},
}

# tests go from one day to the next without signing in again
SESSION_COOKIE_AGE = 14 * 24 * 3600
