"""Settings of a workshop's own server: behind nginx, over HTTPS alone."""

import os

from .settings import *  # noqa: F403
from .settings import REST_FRAMEWORK

SECRET_KEY = os.environ["OILWARD_SECRET_KEY"]
DEBUG = False
ALLOWED_HOSTS = os.environ["OILWARD_HOSTS"].split(",")

# nginx says so itself, whatever a tablet sends
SECURE_PROXY_SSL_HEADER = ("HTTP_X_FORWARDED_PROTO", "https")
SECURE_SSL_REDIRECT = True
# while the authority is the workshop's own, the page that hands out its certificate has to be reachable
# by a browser that has never seen it: a promise made for the machine before is taken back
_FOR_GOOD = os.environ.get("OILWARD_HSTS") == "1"
SECURE_HSTS_SECONDS = 365 * 24 * 3600 if _FOR_GOOD else 0
SECURE_HSTS_INCLUDE_SUBDOMAINS = SECURE_HSTS_PRELOAD = _FOR_GOOD
REST_FRAMEWORK = {**REST_FRAMEWORK, "NUM_PROXIES": 1}

SESSION_COOKIE_SECURE = CSRF_COOKIE_SECURE = True
SESSION_COOKIE_NAME = "__Host-session"
CSRF_COOKIE_NAME = "__Host-csrftoken"
TABLET_COOKIE = "__Host-tablet"

EVENTS_AT = "/events/"
