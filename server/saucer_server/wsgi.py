"""The WSGI application that gunicorn serves."""

import gc
import os
from threading import Thread

from django.core.wsgi import get_wsgi_application

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "saucer_server.settings")
application = get_wsgi_application()

from saucer_core.kernels import warm  # noqa: E402


def _get_ready() -> None:
    """The first visitor does not wait for the compiler, nor does anybody, every few seconds, for a look through what stays for good."""
    warm()
    gc.collect()
    gc.freeze()


Thread(target=_get_ready, name="ready", daemon=True).start()
