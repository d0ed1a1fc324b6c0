"""The WSGI application that gunicorn serves."""

import os
from threading import Thread

from django.core.wsgi import get_wsgi_application

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "saucer_server.settings")
application = get_wsgi_application()

# The first visitor is not to wait for the compiler.
from saucer_core.kernels import warm  # noqa: E402

Thread(target=warm, name="warm", daemon=True).start()
