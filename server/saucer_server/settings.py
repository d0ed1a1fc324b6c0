"""Settings, all taken from the environment; the defaults suit one machine."""

import os
from ipaddress import ip_network
from pathlib import Path
from typing import Any

import dj_database_url

BASE = Path(__file__).resolve().parents[2]
DATA = Path(os.environ.get("SAUCER_DATA", BASE / ".saucer"))

SECRET_KEY = os.environ.get("SAUCER_SECRET_KEY", "only-for-checks-and-types")
DEBUG = False
ALLOWED_HOSTS = os.environ.get("SAUCER_HOSTS", "localhost,127.0.0.1,[::1]").split(",")
#: Addresses and networks of proxies that are believed; the front believes the same ones.
PROXIES = [
    ip_network(a.strip(), strict=False) for a in os.environ.get("SAUCER_PROXY", "").split(",") if a.strip()
]
CSRF_TRUSTED_ORIGINS = [o for o in os.environ.get("SAUCER_ORIGINS", "").split(",") if o]

INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "django.contrib.postgres",
    "procrastinate.contrib.django",
    # Its pages for the interface's document are served from its own files.
    "ninja",
    "django.contrib.staticfiles",
    "saucer_server.people",
    "saucer_server.removals",
    "saucer_server.jobs",
    "saucer_server.encodings",
    "saucer_server.frames",
    "saucer_server.intake",
    "saucer_server.clips",
    "saucer_server.looks",
    "saucer_server.luts",
    "saucer_server.bakes",
    "saucer_server.presets",
    "saucer_server.catalogue",
    "saucer_server.reviewing",
    "saucer_server.sheets",
    "saucer_server.outgoing",
    "saucer_server.packs",
    "saucer_server.inspecting",
    "saucer_server.projects",
    "saucer_server.cuts",
    "saucer_server.reel",
    "saucer_server.delivering",
    "saucer_server.housekeeping",
]
#: Whether a front stands before the server, which says in ``X-Real-IP`` who asks and takes files from where
#: they are kept.
BEHIND_FRONT = os.environ.get("SAUCER_FRONT") == "1"
MIDDLEWARE = [
    "saucer_server.watching.Watching",
    "django.middleware.security.SecurityMiddleware",
    "saucer_server.security_headers.SecurityHeaders",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "saucer_server.people.passes.Passes",
    "saucer_server.people.circles.Asking",
    "saucer_server.bodies.Bodies",
    *(["saucer_server.cancellation.Cancellation"] if BEHIND_FRONT else []),
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
]
ROOT_URLCONF = "saucer_server.urls"
WSGI_APPLICATION = "saucer_server.wsgi.application"
TEMPLATES = [{"BACKEND": "django.template.backends.django.DjangoTemplates", "APP_DIRS": True}]

DATABASES = {
    "default": dj_database_url.config(
        default="postgres://saucer@127.0.0.1:5432/saucer", conn_max_age=600, conn_health_checks=True
    )
}
#: How alike a misspelt word must be to one of a look: two letters that changed places are forgiven. And
#: within half a minute the database notices that a machine is gone, so that what it had locked is free; so
#: does Saucer that the database's is.
SOON = {"tcp_user_timeout": 30_000, "keepalives_idle": 10, "keepalives_interval": 5, "keepalives_count": 4}
SESSION = {
    "pg_trgm.word_similarity_threshold": 0.5,
    **{f"tcp_{name.removeprefix('tcp_')}": value for name, value in SOON.items()},
}
DATABASES["default"].setdefault("OPTIONS", {}).update(
    SOON, options=" ".join(f"-c {name}={value}" for name, value in SESSION.items())
)
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"
AUTH_USER_MODEL = "people.Person"
PASSWORD_HASHERS = ["django.contrib.auth.hashers.ScryptPasswordHasher"]
#: Long enough; not among the twenty thousand most common ones, which Django brings along; no digits alone,
#: and not one's own name.
AUTH_PASSWORD_VALIDATORS = [
    {"NAME": f"django.contrib.auth.password_validation.{name}", "OPTIONS": options}
    for name, options in (
        ("MinimumLengthValidator", {"min_length": 10}),
        ("CommonPasswordValidator", {}),
        ("NumericPasswordValidator", {}),
        (
            "UserAttributeSimilarityValidator",
            {"user_attributes": ("username", "full_name", "email"), "max_similarity": 0.6},
        ),
    )
]

LANGUAGE_CODE = "en-gb"
USE_TZ = True
TIME_ZONE = "UTC"

MEDIA_ROOT = DATA / "files"
#: The drop folder: a stand-in for an editing room's shared disk.
SAUCER_DROP_FOLDER = Path(
    os.environ.get("SAUCER_DROP_FOLDER") or os.environ.get("SAUCER_SHELF") or DATA / "edit room shelf"
)
STORAGES: dict[str, dict[str, Any]] = {
    "default": {"BACKEND": os.environ.get("SAUCER_STORAGE", "saucer_server.storage.WholeFileStorage")},
    "staticfiles": {"BACKEND": "django.contrib.staticfiles.storage.StaticFilesStorage"},
}
#: A bucket that all machines see, in place of a folder; who may is said by AWS_ACCESS_KEY_ID and
#: AWS_SECRET_ACCESS_KEY.
BUCKET = os.environ.get("SAUCER_S3_BUCKET", "")
if BUCKET:
    from botocore.config import Config

    STORAGES["default"] = {
        "BACKEND": "storages.backends.s3.S3Storage",
        "OPTIONS": {
            "bucket_name": BUCKET,
            "endpoint_url": os.environ.get("SAUCER_S3_ADDRESS") or None,
            "region_name": os.environ.get("SAUCER_S3_REGION") or None,
            # A machine that is cut off does not hold a request for minutes.
            "client_config": Config(
                connect_timeout=5, read_timeout=20, retries={"total_max_attempts": 3, "mode": "standard"}
            ),
        },
    }
STATIC_URL = "/static/"
WEB_DIST = Path(os.environ.get("SAUCER_WEB", BASE / "web" / "dist"))
#: Built files carry a digest in their names.
WHITENOISE_IMMUTABLE_FILE_TEST = r"^.*/assets/.*$"
WHITENOISE_USE_FINDERS = True
WHITENOISE_ROOT = WEB_DIST if WEB_DIST.is_dir() else None

DATA_UPLOAD_MAX_MEMORY_SIZE = 8 * 2**20
#: Beside the files, so that an upload neither fills the system's own disk nor is copied from one disk to
#: another.
FILE_UPLOAD_TEMP_DIR = DATA / "arriving"
#: That folder is made when the first upload needs it (``storage.arriving``).
SILENCED_SYSTEM_CHECKS = ["files.E001"]

#: Who shows this token at /metrics is told metrics for Prometheus; empty: nobody is.
METRICS = os.environ.get("SAUCER_METRICS", "")
#: A provider of single sign-on by OpenID Connect: its address, what Saucer is there, and what the button
#: says; empty: there is none.
#: role: of somebody who comes by it and is not in the team yet; empty: nobody new comes in that way. only: 1
#: where passwords let nobody in.
OIDC = {
    name: os.environ.get(f"SAUCER_OIDC_{name.upper()}", default)
    for name, default in (
        ("issuer", ""),
        ("client", "saucer"),
        ("secret", ""),
        ("label", "single sign-on"),
        ("role", ""),
        ("only", ""),
    )
}
#: Whether the front hands kept files out itself: it lies on the disk that they lie on.
FRONT_FILES = BEHIND_FRONT and os.environ.get("SAUCER_FRONT_FILES") == "1"
#: GB of files that one person may hold, and one project; 0: as much as the disk holds.
PERSON_GB, PROJECT_GB = (float(os.environ.get(f"SAUCER_{of}_GB", 0)) for of in ("PERSON", "PROJECT"))
#: The token that a studio's directory shows (SCIM 2.0); empty: no directory is let in.
SCIM = os.environ.get("SAUCER_SCIM", "")
#: The role of people whom the directory brings.
SCIM_ROLE = os.environ.get("SAUCER_SCIM_ROLE", "applier")
CSRF_FAILURE_VIEW = "saucer_server.problems.forged"

SECURE_CONTENT_TYPE_NOSNIFF = True
SECURE_REFERRER_POLICY = "same-origin"
SESSION_COOKIE_HTTPONLY = True
SESSION_COOKIE_SAMESITE = "Lax"
SECURE_COOKIES = os.environ.get("SAUCER_HTTPS") == "1"
SESSION_COOKIE_SECURE = CSRF_COOKIE_SECURE = SECURE_COOKIES
#: Once reached by HTTPS, a browser comes by nothing else for a year.
SECURE_HSTS_SECONDS = 31_536_000 if SECURE_COOKIES else 0
if BEHIND_FRONT:
    SECURE_PROXY_SSL_HEADER = ("HTTP_X_FORWARDED_PROTO", "https")

PROCRASTINATE_AUTODISCOVER_MODULE_NAME = "tasks"

LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "formatters": {"json": {"()": "saucer_server.watching.JsonFormatter"}},
    "handlers": {"console": {"class": "logging.StreamHandler", "formatter": "json"}},
    "root": {"handlers": ["console"], "level": os.environ.get("SAUCER_LOG", "WARNING")},
    "loggers": {"saucer": {"level": os.environ.get("SAUCER_LOG", "INFO")}},
}
