"""Settings. What differs between machines comes from the environment, set by `bin/demo` and `bin/test`."""

import os
from pathlib import Path

ROOT = Path(__file__).resolve().parents[2]
WEB_DIST = Path(os.environ.get("ESKEL_WEB_DIST", ROOT / "web" / "dist"))

SECRET_KEY = os.environ.get("ESKEL_SECRET", "only-for-commands-that-serve-nothing")
DEBUG = False
ALLOWED_HOSTS = ["127.0.0.1", "localhost", "[::1]"]
ROOT_URLCONF = "eskel_server.urls"
ASGI_APPLICATION = "eskel_server.asgi.application"

INSTALLED_APPS = [
    "django.contrib.postgres",
    "django.contrib.staticfiles",
    "ninja",
    "eskel_server",
    "eskel_server.accounts",
    "eskel_server.bench",
    "eskel_server.pieces",
    "eskel_server.sizes",
    "eskel_server.runs",
    "eskel_server.log",
    "eskel_server.rehearsals",
]
MIDDLEWARE = [
    "django.middleware.security.SecurityMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "eskel_server.policy.content_policy",
    "django.middleware.gzip.GZipMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
]
DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.postgresql",
        "HOST": "127.0.0.1",
        "PORT": os.environ.get("ESKEL_DB_PORT", ""),
        "NAME": os.environ.get("ESKEL_DB_NAME", "eskel"),
        "USER": "eskel",
        "PASSWORD": os.environ.get("ESKEL_DB_PASSWORD", ""),
        "CONN_MAX_AGE": 60,
        "CONN_HEALTH_CHECKS": True,
        "ATOMIC_REQUESTS": True,
        "TEST": {"NAME": os.environ.get("ESKEL_TEST_DB_NAME", "test_eskel")},
    }
}
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"
USE_TZ = True
TIME_ZONE = "UTC"
STATIC_URL = "/static/"
WHITENOISE_ROOT = WEB_DIST if WEB_DIST.is_dir() else None
WHITENOISE_INDEX_FILE = False
# Vite puts a hash of the content into every name under assets/.
WHITENOISE_IMMUTABLE_FILE_TEST = r"^/assets/.+-[\w-]{8}\.\w+$"
DATA_UPLOAD_MAX_MEMORY_SIZE = 6_000_000
LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "handlers": {"console": {"class": "logging.StreamHandler"}},
    "root": {"handlers": ["console"], "level": "WARNING"},
}
