"""Django's settings. Everything private comes from the environment that ./limpet sets."""

from __future__ import annotations

import os
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
WEB_DIST = ROOT / "web" / "dist"

SECRET_KEY = os.environ.get("LIMPET_SECRET_KEY", "")
if not SECRET_KEY:
    raise RuntimeError("LIMPET_SECRET_KEY is not set; start the server with ./limpet start")
DEBUG = False
ALLOWED_HOSTS = ["127.0.0.1", "localhost", *os.environ.get("LIMPET_HOSTS", "").split()]

INSTALLED_APPS = [
    "django.contrib.admin",
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "django.contrib.messages",
    "django.contrib.staticfiles",
    "ninja",  # ships the API page's own scripts, so that nothing is fetched
    "server.accounts",
    "server.kit",
    "server.logbook",
    "server.plans",
]
MIDDLEWARE = [
    "django.middleware.security.SecurityMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "django.middleware.gzip.GZipMiddleware",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "django.contrib.messages.middleware.MessageMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
]
TEMPLATES = [
    {
        "BACKEND": "django.template.backends.django.DjangoTemplates",
        "APP_DIRS": True,
        "OPTIONS": {
            "context_processors": [
                "django.template.context_processors.request",
                "django.contrib.auth.context_processors.auth",
                "django.contrib.messages.context_processors.messages",
            ]
        },
    }
]
#: Where conditions are asked for; `server.serve` starts the stand-in when there is none.
WEATHER_URL = os.environ.get("LIMPET_WEATHER_URL", "")
ROOT_URLCONF = "server.urls"
ASGI_APPLICATION = "server.asgi.application"

DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.mysql",
        "NAME": "limpet",
        "USER": "limpet",
        "PASSWORD": os.environ.get("LIMPET_DB_PASSWORD", ""),
        "HOST": "127.0.0.1",
        "PORT": os.environ.get("LIMPET_DB_PORT", "3306"),
        "CONN_MAX_AGE": 60,
        "CONN_HEALTH_CHECKS": True,
        "OPTIONS": {
            "charset": "utf8mb4",
            "sql_mode": "TRADITIONAL",
            "isolation_level": "read committed",
        },
        "TEST": {"NAME": "limpet_test", "CHARSET": "utf8mb4", "COLLATION": "utf8mb4_unicode_ci"},
    }
}
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"
AUTH_PASSWORD_VALIDATORS = [
    {"NAME": "django.contrib.auth.password_validation.MinimumLengthValidator"},
    {"NAME": "django.contrib.auth.password_validation.CommonPasswordValidator"},
]
USE_TZ = True
TIME_ZONE = "UTC"
LANGUAGE_CODE = "en"

STATIC_URL = "/static/"
WHITENOISE_USE_FINDERS = True
if WEB_DIST.is_dir():
    WHITENOISE_ROOT = WEB_DIST
    # Vite puts a hash of the content into every name under assets/.
    WHITENOISE_IMMUTABLE_FILE_TEST = r"^/assets/.+"

CSRF_COOKIE_SAMESITE = SESSION_COOKIE_SAMESITE = "Lax"
# Two checkouts on one machine share the host name, and cookies do not know ports.
_SUFFIX = os.environ.get("LIMPET_COOKIE_SUFFIX", "")
SESSION_COOKIE_NAME = f"limpet_session{_SUFFIX}"
CSRF_COOKIE_NAME = f"limpet_csrf{_SUFFIX}"
SESSION_COOKIE_AGE = 180 * 24 * 3600

#: The demo's account; the start page offers it only when the demo is loaded.
DEMO_USERNAME = "demo"
# A logger's day at ten rows a second is 100 MB of text.
DATA_UPLOAD_MAX_MEMORY_SIZE = 8 * 2**20
FILE_UPLOAD_MAX_MEMORY_SIZE = 256 * 2**20
MOST_UPLOAD_BYTES = 512 * 2**20

LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "handlers": {"console": {"class": "logging.StreamHandler"}},
    "root": {"handlers": ["console"], "level": "WARNING"},
}
