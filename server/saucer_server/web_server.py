"""How gunicorn serves Saucer: ``gunicorn saucer_server.wsgi -c python:saucer_server.web_server``, behind the
front.

Names of this module that gunicorn knows are its settings and hooks.
"""

import gc
import sys
from threading import Thread

from saucer_core.kernels import warm

from .caches import PROCESSES

workers = PROCESSES
worker_class = "gthread"
threads = 8
#: Seconds. A worker that says nothing for longer is replaced.
timeout = 120
#: A worker is replaced after so many requests, each after a number of its own.
max_requests = 50_000
max_requests_jitter = 5_000
#: Bytes. What is longer ends at the front, in Saucer's words.
limit_request_line = 8190
limit_request_field_size = 16_384
control_socket_disable = True
#: The code is loaded once and shared by the workers. Where sources are watched, each worker loads it anew.
preload_app = "--reload" not in sys.argv


#: New objects after which Python looks for cycles among them. A long list makes hundreds of thousands, which
#: all live until it is sent; with the usual 700, looking through them takes a third of its time.
NEW_OBJECTS = 50_000


def when_ready(server: object) -> None:
    """Runs once all code is loaded, before the workers are forked: what stays for good is not looked through
    by each of them."""
    _stays()


def post_worker_init(worker: object) -> None:
    """Runs in each worker: the first visitor does not wait for the compiler."""
    gc.set_threshold(NEW_OBJECTS)
    Thread(target=_ready, name="ready", daemon=True).start()


def _ready() -> None:
    warm()
    _stays()


def _stays() -> None:
    """Keeps the garbage collector from what is loaded now."""
    gc.collect()
    gc.freeze()
