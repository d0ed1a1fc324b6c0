"""An hour of work by ten designers, visitors and deliveries, one round after the other: what web processes
and worker hold in memory."""

import json
import os
import time

from launch.serving import Application

from .amount import much
from .bench_delivery import inside
from .bench_many import TEAM, browsing, dragging, memory_of
from .instance import instance
from .report import Table
from .visitor import Visitor, session_of

#: Minutes of the measurement.
MINUTES = much(float(os.environ.get("SAUCER_MINUTES", 60)), 0.1)
#: Minutes after which everything that is remembered has filled up.
FILLED = 10.0
#: Designers who drag.
DESIGNERS = 10
#: MiB that a web process may take.
LIMIT = 1024.0
PROCESSES = os.cpu_count() or 1
#: Orders a delivery of the demo's project, as new: what was made before is not taken again, since the grid is
#: another one.
ORDER = """
import sys, django
django.setup()
from saucer_server.delivering import rules
from saucer_server.delivering.plan import Plan
from saucer_server.people.rules import Person
from saucer_server.projects.rules import find
grid = 17 + int(sys.argv[1]) % 30
lead = Person.objects.get(username="odile")
    rules.order(find(1), lead, Plan(parts=("looks", "shots", "stills"), grid=grid, held="anyway"))
"""


def _full_size(address: str, session: str, turn: int) -> None:
    """Frames at full size under looks, with what a hand changed on them."""
    one = Visitor(address, session)
    one.get("/api/session")
    frames = [f["id"] for f in json.loads(one.get("/api/frames"))]
    worked = json.loads(one.get("/api/looks"))
    look = json.loads(one.get(f"/api/looks/{worked[turn % len(worked)]['id']}"))["draft"]
    for k, frame in enumerate(frames):
        look["steps"][0]["strength"] = 0.5 + ((turn * 31 + k) % 97) / 200
        one.ask("POST", "/api/exact?width=4096", json.dumps({"look": look, "frame": frame}).encode())


def _held(application: Application) -> tuple[float, float]:
    """MiB of all web processes and of the worker."""
    return memory_of(application, "web"), memory_of(application, "worker")


def run() -> list[Table]:
    """All of it."""
    found = Table(
        f"{MINUTES:g} minutes of ten designers, visitors and deliveries",
        ["minutes", f"{PROCESSES} web processes", "the worker"],
    )
    with instance(processes=PROCESSES) as (application, address):
        sessions = [session_of(application, name) for name in TEAM]
        begun, turn, next_row = time.monotonic(), 0, 0.0
        filled: tuple[float, float] | None = None
        most = (0.0, 0.0)
        while (minutes := (time.monotonic() - begun) / 60) < MINUTES:
            inside(application, ORDER, str(turn))
            dragging(address, sessions, DESIGNERS)
            _full_size(address, sessions[turn % len(sessions)], turn)
            if turn % 4 == 0:
                browsing(address, sessions)
            turn += 1
            held = _held(application)
            most = (max(most[0], held[0]), max(most[1], held[1]))
            if filled is None and minutes >= min(FILLED, MINUTES / 2):
                filled = held
            if minutes >= next_row:
                found.add(f"{minutes:.0f}", f"{held[0]:.0f} MiB", f"{held[1]:.0f} MiB")
                next_row = minutes + MINUTES / 12
        last = _held(application)
        found.add(f"{MINUTES:.0f}", f"{last[0]:.0f} MiB", f"{last[1]:.0f} MiB")
        found.want("a web process at most:", most[0] / application.processes, LIMIT, " MiB")
        found.want("the worker at most:", most[1], LIMIT, " MiB")
        if filled is not None:
            for name, now, then in zip(("web", "worker"), last, filled, strict=True):
                found.want(f"{name} at the end, times once filled:", now / then, 1.1)
    return [found]
