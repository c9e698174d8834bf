"""Settings. Everything that differs between machines comes from OILWARD_* variables."""

import os
from pathlib import Path

VERSION = "0.11.0"
ROOT = Path(__file__).resolve().parent.parent.parent
WEB = Path(os.environ.get("OILWARD_WEB", ROOT / "web" / "dist"))

SECRET_KEY = os.environ.get("OILWARD_SECRET_KEY", "only-for-tests-and-checks")
DEBUG = os.environ.get("OILWARD_DEBUG") == "1"
ALLOWED_HOSTS = ["127.0.0.1", "localhost", "[::1]"]

INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "rest_framework",
    "drf_spectacular",
    "procrastinate.contrib.django",
    "django_otp",
    "django_otp.plugins.otp_totp",
    "django_otp.plugins.otp_static",
    "workshop",
    "workshop.second",
    "garage",
    "shelf",
    "findings",
    "visits",
    "planning",
    "demo",
]
MIDDLEWARE = [
    "config.middleware.content_policy",
    "django.middleware.security.SecurityMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "config.middleware.no_store",
    "config.middleware.body_limit",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
]
# tries are counted by workshop.tries, in one place
OTP_TOTP_ISSUER, OTP_TOTP_THROTTLE_FACTOR, OTP_STATIC_THROTTLE_FACTOR = "Oil Ward", 0, 0
CSRF_FAILURE_VIEW = "config.problems.not_from_here"
ROOT_URLCONF = "config.urls"
AUTH_USER_MODEL = "workshop.Person"
# the second is of earlier releases; a password kept by it is kept by the first once it was typed
PASSWORD_HASHERS = [
    "workshop.hashing.Scrypt",
    "workshop.hashing.PBKDF2",
]
# how many may wait in one process until a password is checked
HASHES_WAITING = int(os.environ.get("OILWARD_HASHES_WAITING", "2"))
AUTH_PASSWORD_VALIDATORS = [
    {
        "NAME": "django.contrib.auth.password_validation.MinimumLengthValidator",
        # a shorter one of earlier releases stays until it is changed
        "OPTIONS": {"min_length": 12},
    },
    {"NAME": "django.contrib.auth.password_validation.CommonPasswordValidator"},
    {"NAME": "django.contrib.auth.password_validation.UserAttributeSimilarityValidator"},
]

DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.postgresql",
        "HOST": os.environ.get("OILWARD_DB_HOST", "127.0.0.1"),
        "PORT": os.environ.get("OILWARD_DB_PORT", "5432"),
        "NAME": os.environ.get("OILWARD_DB_NAME", "oilward"),
        "USER": os.environ.get("OILWARD_DB_USER", "oilward"),
        "PASSWORD": os.environ.get("OILWARD_DB_PASSWORD", ""),
        "CONN_MAX_AGE": 60,
        "CONN_HEALTH_CHECKS": True,
    }
}
# the tables belong to one role, the server runs as another
OWNER_ROLE = os.environ.get("OILWARD_DB_OWNER_ROLE", "oilward_owner")
RUNTIME_ROLE = os.environ.get("OILWARD_DB_RUNTIME_ROLE", "oilward_app")

USE_TZ = True
# where a new workshop stands until its lead says otherwise
TIME_ZONE = os.environ.get("OILWARD_TIME_ZONE", "UTC")
STATIC_URL = "/static/"
WHITENOISE_ROOT = WEB if WEB.is_dir() else None
WHITENOISE_INDEX_FILE = False
WHITENOISE_ALLOW_ALL_ORIGINS = False
TABLET_COOKIE = "tablet"
SESSION_COOKIE_AGE = 12 * 3600  # a working day; on a bench, minutes without a touch
SESSION_COOKIE_HTTPONLY = True
SESSION_COOKIE_SAMESITE = "Lax"
CSRF_COOKIE_SAMESITE = "Lax"
# our own door counts, view by view
DATA_UPLOAD_MAX_MEMORY_SIZE = None
MOST_BODY = 1_000_000

REST_FRAMEWORK = {
    "DEFAULT_AUTHENTICATION_CLASSES": ["workshop.authentication.SessionSignIn"],
    "DEFAULT_PERMISSION_CLASSES": ["rest_framework.permissions.IsAuthenticated"],
    "DEFAULT_RENDERER_CLASSES": ["rest_framework.renderers.JSONRenderer"],
    "DEFAULT_PARSER_CLASSES": ["config.parsers.CarefulJSONParser"],
    "DEFAULT_SCHEMA_CLASS": "drf_spectacular.openapi.AutoSchema",
    "EXCEPTION_HANDLER": "config.problems.problem",
    # an address is the connection's own: no header steps round the throttle
    "NUM_PROXIES": 0,
}
LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    # a line is a JSON object: what somebody typed stays within its quotes
    "formatters": {
        "line": {
            "()": "pythonjsonlogger.json.JsonFormatter",
            "fmt": "{asctime}{levelname}{name}{message}",
            "style": "{",
            "rename_fields": {"asctime": "at", "levelname": "level", "name": "by"},
            "json_ensure_ascii": True,
        }
    },
    "handlers": {"stderr": {"class": "logging.StreamHandler", "formatter": "line"}},
    "loggers": {"oilward": {"handlers": ["stderr"], "level": "INFO", "propagate": False}},
}
SPECTACULAR_SETTINGS = {
    "TITLE": "Oil Ward",
    "DESCRIPTION": "The API of Oil Ward, a bench tool for a motorcycle's lubricants.",
    "VERSION": VERSION,
    "SERVE_INCLUDE_SCHEMA": False,
    "COMPONENT_SPLIT_REQUEST": True,
    "ENUM_NAME_OVERRIDES": {
        "DueState": "oilward_core.due.DueState",
        "DebrisForm": "oilward_core.debris.Form",
        "Matter": "oilward_core.debris.Matter",
        "DebrisPlace": "oilward_core.codes.debris.Place",
        "OilLook": "oilward_core.debris.OilLook",
        "LevelWord": "oilward_core.debris.LevelWord",
        "StepKind": "oilward_core.runsheet.Ask",
        "EntryKind": "oilward_core.bench.EntryKind",
        "AsideKind": "oilward_core.bench.ASIDES",
        "Pose": "oilward_core.runsheet.Pose",
        "StepStatus": "oilward_core.bench.Status",
        "VisitState": "visits.shapes.VISIT_STATES",
        "CoachAction": "visits.shapes.ACTIONS",
        "RoleWord": "workshop.rights.Role",
    },
    "POSTPROCESSING_HOOKS": [
        "drf_spectacular.hooks.postprocess_schema_enums",
        "config.schema.add_problem",
        "visits.schema.type_entries",
    ],
}

# Where the events process listens. 0: there is none, and screens ask every so often.
EVENTS_PORT = int(os.environ.get("OILWARD_EVENTS_PORT", "0"))
# And where a page finds it: another port of the same host, unless a proxy brings both together.
EVENTS_AT = f":{EVENTS_PORT}/events/" if EVENTS_PORT else ""

STREAMS_PER_PERSON = int(os.environ.get("OILWARD_STREAMS_PER_PERSON", "20"))

# Where the keeper of backups tells what it did; empty where there is none.
KEPT = os.environ.get("OILWARD_KEPT", "")

# How long a minute at the bench lasts. 60 unless somebody practises or tests.
SECONDS_PER_MINUTE = float(os.environ.get("OILWARD_SECONDS_PER_MINUTE", "60"))
