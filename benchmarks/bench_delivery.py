"""What a worker holds in memory while it delivers 24 shots of 3840 × 2160, each a frame of its own, and how
long it takes."""

import os
import re
import subprocess
import time
from pathlib import Path

from launch.places import ROOT, python
from launch.serving import Application

from .amount import much
from .instance import instance
from .report import Table

SHOTS = much(24, 2)
#: Makes the frames, the project and the delivery in the server's own surroundings; prints the delivery's
#: number.
ORDER = f"""
import tempfile
from pathlib import Path
import django
django.setup()
import numpy as np
from saucer_core.formats import pictures
from saucer_server.frames import rules as frames
from saucer_server.looks.models import Revision
from saucer_server.people.rules import Person
from saucer_server.delivering import rules as deliveries
from saucer_server.delivering.plan import Plan
from saucer_server.projects import assigning, rules
from saucer_server.projects.payloads import Wanted, Wish
lead = Person.objects.get(username="odile")
project = rules.create(lead, "Large shots", "")
y, x = np.mgrid[0:2160, 0:3840].astype(np.float32)
with tempfile.TemporaryDirectory() as folder:
    made = []
    for k in range({SHOTS}):
        path = Path(folder) / f"shot{{k}}.png"
        wave = 0.5 + 0.5 * np.sin(x / (90 + k) + y / (70 + 2 * k))
        pictures.write(path, np.stack([x / 3839, wave, y / 2159], axis=-1), "uint8")
        made.append(frames.add(path, path.name, name=f"Shot {{k}}", light="", encoding_key="srgb",
        person=lead))
        path.unlink()
shots = rules.add_shots(project, lead, [rules.NewShot(f) for f in made])
revisions = list(Revision.objects.values_list("pk", flat=True))[:6]
for k, shot in enumerate(shots):
    layers = (Wanted(revision=revisions[k % len(revisions)]),)
    assigning.assign(project, lead, Wish(shots=(shot.pk,), layers=layers))
print(deliveries.order(project, lead, Plan(parts=("looks", "shots", "stills"), held="anyway")).pk)
"""
STATE = """
import sys, django
django.setup()
from saucer_server.delivering.models import Delivery
row = Delivery.objects.select_related("job").get(pk=int(sys.argv[1]))
print(row.job.state, row.bytes)
"""


def inside(application: Application, code: str, *words: str) -> str:
    """Runs code in the server's own surroundings; gives what it prints."""
    env = {**os.environ, **application.env, "PYTHONPATH": f"{ROOT / 'core'}:{ROOT / 'server'}"}
    done = subprocess.run(
        [python(), "-c", code, *words], env=env, cwd=ROOT, check=True, capture_output=True, text=True
    )
    return done.stdout.strip()


def largest(process: int) -> int:
    """The most memory that a process has held so far, in bytes."""
    found = re.search(r"VmHWM:\s+(\d+) kB", Path(f"/proc/{process}/status").read_text())
    assert found is not None
    return int(found[1]) * 1024


def run() -> list[Table]:
    """Starts Saucer with demo data on a database of its own, orders the delivery and watches its worker."""
    with instance() as (application, _):
        worker = application.supervisor.pid("worker")
        before = largest(worker)
        delivery = inside(application, ORDER)
        start = time.perf_counter()
        while (state := inside(application, STATE, delivery).split())[0] in ("waiting", "running"):
            time.sleep(1)
        taken = time.perf_counter() - start
        if state[0] != "done":
            raise RuntimeError(f"the delivery came to be {state[0]}")
        table = Table(f"Delivering {SHOTS} shots of 3840 × 2160", ["", "the worker"])
        table.add("memory, waiting", f"{before / 2**20:.0f} MiB")
        table.add("memory, at most", f"{largest(worker) / 2**20:.0f} MiB")
        table.want("memory of the worker:", largest(worker) / 2**20, 1024, " MiB")
        table.add("time for a shot", f"{taken / SHOTS:.1f} s")
        table.add("package", f"{int(state[1]) / 2**20:.0f} MiB")
    return [table]
