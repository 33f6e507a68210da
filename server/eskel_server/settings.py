"""Settings. What differs between machines comes from the environment, set by `bin/demo` and `bin/test`."""

import os
from pathlib import Path

from csp.constants import NONCE, NONE, SELF

ROOT = Path(__file__).resolve().parents[2]
# The build of the page that this process serves, whatever is built later; its name tells a tab that there is a newer one.
WEB_DIST = Path(os.environ.get("ESKEL_WEB_DIST", ROOT / ".run" / "pages" / "current")).resolve()

SECRET_KEY = os.environ.get("ESKEL_SECRET", "only-for-commands-that-serve-nothing")
DEBUG = False
ALLOWED_HOSTS = ["127.0.0.1", "localhost", "[::1]"]
ROOT_URLCONF = "eskel_server.urls"
ASGI_APPLICATION = "eskel_server.asgi.application"

INSTALLED_APPS = [
    "django.contrib.postgres",
    "django.contrib.staticfiles",
    "csp",
    "ninja",
    "procrastinate.contrib.django",
    "eskel_server",
    "eskel_server.accounts",
    "eskel_server.bench",
    "eskel_server.pieces",
    "eskel_server.sizes",
    "eskel_server.beginnings",
    "eskel_server.runs",
    "eskel_server.findings",
    "eskel_server.log",
    "eskel_server.rehearsals",
]
MIDDLEWARE = [
    "django.middleware.security.SecurityMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "django.middleware.gzip.GZipMiddleware",
    "csp.middleware.CSPMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
    "eskel_server.gate.not_stored",
    "eskel_server.gate.speak_json",
    "eskel_server.gate.Gate",
    "eskel_server.speech.spoken",
]
STATEMENT_MS = os.environ.get("ESKEL_STATEMENT_MS", "8000")
DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.postgresql",
        "HOST": os.environ.get("ESKEL_DB_HOST", "127.0.0.1"),
        "PORT": os.environ.get("ESKEL_DB_PORT", ""),
        "NAME": os.environ.get("ESKEL_DB_NAME", "eskel"),
        "USER": os.environ.get("ESKEL_DB_USER", "eskel"),
        "PASSWORD": os.environ.get("ESKEL_DB_PASSWORD", ""),
        "CONN_HEALTH_CHECKS": True,
        "OPTIONS": {
            # Connections are lent from a pool and given back with each answer; who finds none in time is told so.
            "pool": {"min_size": 1, "max_size": 10, "timeout": 10, "max_idle": 60},
            "options": f"-c statement_timeout={STATEMENT_MS} -c lock_timeout=5000"
            " -c idle_in_transaction_session_timeout=60000",
        },
        "TEST": {"NAME": os.environ.get("ESKEL_TEST_DB_NAME", "test_eskel")},
    }
}
# Everything comes from this address, nothing from anywhere else; styles that a script puts in carry the page's nonce.
CONTENT_SECURITY_POLICY = {
    "DIRECTIVES": {
        "default-src": [SELF],
        "img-src": [SELF, "data:"],
        "style-src": [SELF, NONCE],
        "object-src": [NONE],
        "base-uri": [NONE],
        "frame-ancestors": [NONE],
        "form-action": [SELF],
    }
}
CSRF_COOKIE_NAME = "eskel_token"
CSRF_COOKIE_SAMESITE = "Strict"
CSRF_FAILURE_VIEW = "eskel_server.gate.no_token"
SECURE_CROSS_ORIGIN_OPENER_POLICY = "same-origin"
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"
USE_TZ = True
TIME_ZONE = "UTC"
STATIC_URL = "/static/"
WHITENOISE_ROOT = WEB_DIST if WEB_DIST.is_dir() else None
WHITENOISE_INDEX_FILE = False
# Vite puts a hash of the content into every name under assets/.
WHITENOISE_IMMUTABLE_FILE_TEST = r"^/assets/.+-[\w-]{8}\.\w+$"
WHITENOISE_MIMETYPES = {".webmanifest": "application/manifest+json"}
DATA_UPLOAD_MAX_MEMORY_SIZE = 6_000_000
LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "handlers": {"console": {"class": "logging.StreamHandler"}},
    # What was refused is told to who asked; only what broke is told here.
    "loggers": {"django.request": {"level": "ERROR"}},
    "root": {"handlers": ["console"], "level": "WARNING"},
}
