"""The WSGI application that gunicorn serves, with all of its routes loaded."""

import os
from importlib import import_module

from django.conf import settings
from django.core.wsgi import get_wsgi_application

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "saucer_server.settings")
application = get_wsgi_application()
# Django would load the routes with the first request, in each process by itself.
import_module(settings.ROOT_URLCONF)
