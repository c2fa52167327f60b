"""Django's settings. Everything private comes from the environment that ./limpet sets."""

from __future__ import annotations

import os
import tempfile
from datetime import timedelta
from pathlib import Path
from urllib.parse import urlsplit

ROOT = Path(__file__).resolve().parent.parent
WEB_DIST = ROOT / "web" / "dist"

SECRET_KEY = os.environ.get("LIMPET_SECRET_KEY", "")
if not SECRET_KEY:
    raise RuntimeError("LIMPET_SECRET_KEY is not set; start the server with ./limpet start")
DEBUG = False


def _asked(name: str) -> bool | None:
    """Whether a switch of the environment is on or off; None when nobody said."""
    said = os.environ.get(name, "").strip().lower()
    if said in ("1", "yes", "on", "open"):
        return True
    return False if said else None


#: Names under which this Limpet is reached beside this machine's own; without any it is a rider's
#: own Limpet on loopback, open to whoever sits there.
_HOSTS = os.environ.get("LIMPET_HOSTS", "").split()
ON_LOOPBACK = not _HOSTS
ALLOWED_HOSTS = ["127.0.0.1", "localhost", *_HOSTS]
_SIGN_UP, _DEMO = _asked("LIMPET_SIGN_UP"), _asked("LIMPET_DEMO")
SIGN_UP_OPEN = ON_LOOPBACK if _SIGN_UP is None else _SIGN_UP
DEMO_OFFERED = ON_LOOPBACK if _DEMO is None else _DEMO
ADMIN_OPEN = _asked("LIMPET_ADMIN") is True

#: The address on the local network that is served over TLS beside loopback, where it was asked for
#: (`./limpet start --lan`); the files of its certificates, and where a phone gets the authority's.
LAN_ADDRESS = os.environ.get("LIMPET_LAN", "")
LAN_ORIGIN = os.environ.get("LIMPET_LAN_ORIGIN", "")
LAN_DOORSTEP = os.environ.get("LIMPET_LAN_DOORSTEP", "")
LAN_FOLDER = Path(os.environ.get("LIMPET_LAN_FOLDER", ROOT / ".run" / "lan"))
#: Whether accounts are made, and the demo is opened, from the network too.
LAN_SIGN_UP = _asked("LIMPET_LAN_SIGN_UP") is True
if LAN_ADDRESS:
    ALLOWED_HOSTS.append(LAN_ADDRESS)
#: Where this Limpet is reached behind a proxy of one's own that speaks https.
_OVER_TLS = os.environ.get("LIMPET_SCHEME", "http") == "https"
#: So many proxies of one's own stand before it: what they say of where a request comes from is believed.
PROXIES = int(os.environ.get("LIMPET_PROXIES", "1" if _OVER_TLS else "0"))
PUBLIC_ORIGIN = f"https://{_HOSTS[0]}" if _HOSTS and _OVER_TLS else ""

#: Behind a proxy that speaks https, everything is https: cookies, redirects, HSTS.
if _OVER_TLS:
    SESSION_COOKIE_SECURE = CSRF_COOKIE_SECURE = True
    SECURE_SSL_REDIRECT = True
    SECURE_PROXY_SSL_HEADER = ("HTTP_X_FORWARDED_PROTO", "https")
    SECURE_HSTS_SECONDS = 365 * 24 * 3600
    SECURE_HSTS_INCLUDE_SUBDOMAINS = SECURE_HSTS_PRELOAD = True
    CSRF_TRUSTED_ORIGINS = [f"https://{host}" for host in _HOSTS]

INSTALLED_APPS = [
    "django.contrib.admin",
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "django.contrib.messages",
    "django.contrib.staticfiles",
    "axes",  # counts wrong passwords
    "csp",
    "ninja",  # ships the API page's own scripts, so that nothing is fetched
    "server.accounts",
    "server.kit",
    "server.logbook",
    "server.results",
    "server.imports",
    "server.plans",
    "server.backups",
    "server",
]
#: Whether this process computes results itself; servers of several leave it to `compute_results`, and call
#: it through a pipe where it is on the same machine.
COMPUTES_RESULTS = os.environ.get("LIMPET_COMPUTES_RESULTS") != "0"
_CALLS = os.environ.get("LIMPET_CALLS", "")
CALLS = int(_CALLS) if _CALLS.isdigit() else None
#: Whether the made-up island is at hand; the app that loads it is named here and imported nowhere.
WITH_DEMO = os.environ.get("LIMPET_WITH_DEMO") != "0"
if WITH_DEMO:
    INSTALLED_APPS.append("demo")
MIDDLEWARE = [
    "django.middleware.security.SecurityMiddleware",
    # Outside of those that set cookies.
    "server.lan.secure.SecureCookies",
    "server.static.PageFiles",
    "django.middleware.gzip.GZipMiddleware",
    "server.wire.private.Private",
    # Before a session is looked up.
    "server.wire.instruments.InstrumentsInLine",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "django.contrib.messages.middleware.MessageMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
    "csp.middleware.CSPMiddleware",
    "axes.middleware.AxesMiddleware",
    "server.accounts.reader.InReadersUnits",
    # Innermost: what a view stores is rolled back when it is answered with a failure.
    "server.wire.whole.WholeOrNothing",
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
#: Where conditions are asked for, and where the demo's account asks: a made-up office.
WEATHER_URL = os.environ.get("LIMPET_WEATHER_URL", "")
DEMO_WEATHER_URL = os.environ.get("LIMPET_DEMO_WEATHER_URL", "")
#: Where files lie while they are looked at, until they are taken or let go of.
HELD_FOLDER = Path(os.environ.get("LIMPET_HELD", ROOT / ".run" / "held"))
ROOT_URLCONF = "server.urls"
ASGI_APPLICATION = "server.asgi.application"

DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.mysql",
        "NAME": os.environ.get("LIMPET_DB_NAME", "limpet"),
        "USER": "limpet",
        "PASSWORD": os.environ.get("LIMPET_DB_PASSWORD", ""),
        "HOST": "127.0.0.1",
        "PORT": os.environ.get("LIMPET_DB_PORT", "3306"),
        # Requests are answered by threads that stay, each with a connection that stays.
        "CONN_MAX_AGE": 300,
        "CONN_HEALTH_CHECKS": True,
        "OPTIONS": {
            "charset": "utf8mb4",
            "sql_mode": "TRADITIONAL",
            "isolation_level": "read committed",
            # A database that hangs must not take every thread with it.
            "connect_timeout": 5,
            "read_timeout": 300,
            "write_timeout": 300,
        },
        "TEST": {"NAME": "limpet_test", "CHARSET": "utf8mb4", "COLLATION": "utf8mb4_unicode_ci"},
    }
}
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"
AUTHENTICATION_BACKENDS = [
    "axes.backends.AxesStandaloneBackend",
    "server.accounts.backend.NameBackend",
]
_VALIDATION = "django.contrib.auth.password_validation"
AUTH_PASSWORD_VALIDATORS = [
    {"NAME": f"{_VALIDATION}.UserAttributeSimilarityValidator"},
    {"NAME": f"{_VALIDATION}.MinimumLengthValidator"},
    {"NAME": f"{_VALIDATION}.CommonPasswordValidator"},
    {"NAME": f"{_VALIDATION}.NumericPasswordValidator"},
    {"NAME": "server.accounts.passwords.VarietyValidator"},
]
# Wrong passwords are counted for each account at each address, and for each account over all of them
# (`accounts.services`); each address is held to a rate as well, before a password is looked at, for
# looking at one takes a second.
AXES_LOCKOUT_PARAMETERS = [["username", "ip_address"]]
AXES_CLIENT_IP_CALLABLE = "server.accounts.rates.address_of"
AXES_FAILURE_LIMIT = 10
AXES_COOLOFF_TIME = timedelta(minutes=10)
AXES_RESET_ON_SUCCESS = True
AXES_DISABLE_ACCESS_LOG = True
AXES_ENABLE_ADMIN = False
AXES_VERBOSE = False
# Addresses are held to a rate by the addresses' own throttle (`accounts.api`).
SILENCED_SYSTEM_CHECKS = ["axes.W006"]
#: How often, and within how long [s].
SIGN_INS_PER_ADDRESS, SIGN_UPS_PER_ADDRESS = (20, 60), (20, 3600)
DEMOS_PER_ADDRESS, PASSWORDS_PER_ACCOUNT = (600, 3600), (10, 600)
WRONG_PASSWORDS_ELSEWHERE = 30

#: Where pictures of the ground come from, with {z}, {x} and {y} in it, and whom to thank for them; nothing is fetched
#: where nobody names one.
TILES_URL = os.environ.get("LIMPET_TILES", "")
TILES_CREDIT = os.environ.get("LIMPET_TILES_CREDIT", "")
_TILES_AT = urlsplit(TILES_URL)
_TILES = [f"{_TILES_AT.scheme}://{_TILES_AT.netloc}"] if _TILES_AT.netloc else []
if TILES_URL and not (_TILES and all(part in TILES_URL for part in ("{z}", "{x}", "{y}"))):
    raise RuntimeError("LIMPET_TILES must be a whole address with {z}, {x} and {y} in it")

#: No script but the page's own files. Mantine sets styles on elements, which needs the exception.
CONTENT_SECURITY_POLICY = {
    "DIRECTIVES": {
        "default-src": ["'self'"],
        "script-src": ["'self'"],
        "style-src": ["'self'", "'unsafe-inline'"],
        "img-src": ["'self'", "data:", "blob:"],
        "font-src": ["'self'"],
        "connect-src": ["'self'", *_TILES],
        "worker-src": ["'self'"],
        "object-src": ["'none'"],
        "base-uri": ["'none'"],
        "form-action": ["'self'"],
        "frame-ancestors": ["'none'"],
    }
}
X_FRAME_OPTIONS = "DENY"
USE_TZ = True
TIME_ZONE = "UTC"
LANGUAGE_CODE = "en"

STATIC_URL = "/static/"
WHITENOISE_USE_FINDERS = True
WHITENOISE_MIMETYPES = {".webmanifest": "application/manifest+json"}
if WEB_DIST.is_dir():
    WHITENOISE_ROOT = WEB_DIST
    # Vite puts a hash of the content into every name under assets/.
    WHITENOISE_IMMUTABLE_FILE_TEST = r"^/assets/.+"

CSRF_COOKIE_SAMESITE = SESSION_COOKIE_SAMESITE = "Lax"
# Two checkouts on one machine share the host name, and cookies do not know ports.
COOKIE_SUFFIX = os.environ.get("LIMPET_COOKIE_SUFFIX", "")
SESSION_COOKIE_NAME = f"limpet_session{COOKIE_SUFFIX}"
CSRF_COOKIE_NAME = f"limpet_csrf{COOKIE_SUFFIX}"
SESSION_COOKIE_AGE = 30 * 24 * 3600

DATA_UPLOAD_MAX_MEMORY_SIZE = 2 * 2**20
# Larger files lie on disk while they are read.
FILE_UPLOAD_MAX_MEMORY_SIZE = 1 * 2**20
DATA_UPLOAD_MAX_NUMBER_FIELDS = DATA_UPLOAD_MAX_NUMBER_FILES = 400
# A logger's day at ten rows a second is 100 MB of text.
MOST_UPLOAD_BYTES = 512 * 2**20


def _most(name: str, usual: int) -> int:
    """A limit of the environment's; what is no number is the usual one's."""
    said = os.environ.get(name, "").strip()
    return int(said) if said.isdigit() else usual


#: What one account may keep (`logbook.quotas`); a rider alone with a machine comes near none of them.
QUOTAS = {
    "tests": _most("LIMPET_MOST_TESTS", 20_000),
    "entries": _most("LIMPET_MOST_ENTRIES", 2_000_000),
    "sample_bytes": _most("LIMPET_MOST_SAMPLES_MB", 20_000) * 2**20,
    "photo_bytes": _most("LIMPET_MOST_PHOTOS_MB", 5_000) * 2**20,
}
#: Where the database writes, when it is on this machine; nothing is taken when less than this is free there.
DATABASE_FOLDER = os.environ.get("LIMPET_DB_FOLDER", "")
LEAST_FREE_BYTES = _most("LIMPET_LEAST_FREE_MB", 200) * 2**20

#: How many processes serve beside each other (`./limpet start --workers`), and where those of one machine
#: share their turns at heavy work.
WORKERS = max(_most("LIMPET_WORKERS", 1), 1)
#: Requests that one process answers at once, each with its connection to the database; further ones wait.
THREADS = max(8, min(32, 256 // WORKERS))
TURNS_FOLDER = os.environ.get("LIMPET_TURNS") or os.path.join(
    tempfile.gettempdir(), f"limpet-turns-{os.getuid()}"
)

LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "handlers": {
        "console": {"class": "logging.StreamHandler"},
        "nowhere": {"class": "logging.NullHandler"},
    },
    "root": {"handlers": ["console"], "level": "WARNING"},
    # A refusal is an answer, not an event; failures are logged where they are caught.
    "loggers": {
        "django.request": {"level": "ERROR"},
        # Whoever asks for a host of another name is refused; a trace of it says nothing to anybody. What has no
        # handler at all is printed by Python itself.
        "django.security.DisallowedHost": {"handlers": ["nowhere"], "propagate": False},
    },
}
