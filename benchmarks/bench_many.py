"""Many at once: designers who drag a control, and people who leaf through the catalogue; with one web process
and with one a core."""

import json
import os
import re
import subprocess
import threading
import time
from collections.abc import Callable
from pathlib import Path

import numpy as np

from launch.serving import Application

from .amount import much
from .bench_delivery import inside
from .instance import instance
from .report import Table
from .visitor import Visitor, session_of

DESIGNERS = much((2, 10, 25, 50), (2,))
BROWSERS = much(200, 4)
#: Seconds of dragging.
DRAGGING = much(8.0, 1.0)
#: Seconds of the pause after an answer: as long as a screen shows one picture.
PAUSE = 1 / 30
#: Seconds over which the people come who leaf through, and for which each looks at a page.
COMING, READING = much((12.0, 10.0), (1.0, 0.5))
TEAM = ("ines", "tomas", "odile", "vera")


def _drag(
    one: Visitor, look: dict[str, object], frame: int, stop: threading.Event, found: list[float]
) -> None:
    steps = look["steps"]
    assert isinstance(steps, list)
    number = 0
    while not stop.is_set():
        number += 1
        # Another value each time, as a hand gives it.
        moved = {**look, "steps": [{**steps[0], "strength": 0.5 + (number % 97) / 200}, *steps[1:]]}
        body = json.dumps({"look": moved, "frame": frame}).encode()
        begun = time.perf_counter()
        one.ask("POST", "/api/live", body)
        found.append(time.perf_counter() - begun)
        time.sleep(PAUSE)


def dragging(address: str, sessions: list[str], count: int) -> tuple[float, float, float]:
    """So many designers drag at once: median and 95 % of the time to an answer in seconds, and answers a
    second in all."""
    visitors = [Visitor(address, sessions[k % len(sessions)], 1) for k in range(count)]
    first = visitors[0]
    first.get("/api/session")
    worked = json.loads(first.get("/api/looks"))
    frames = json.loads(first.get("/api/frames"))
    looks = [json.loads(first.get(f"/api/looks/{w['id']}"))["draft"] for w in worked[:8]]
    stop, found = threading.Event(), [list[float]() for _ in visitors]
    threads = []
    for k, one in enumerate(visitors):
        one.get("/api/session")
        words = (one, looks[k % len(looks)], frames[k % len(frames)]["id"], stop, found[k])
        threads.append(threading.Thread(target=_drag, args=words))
    for thread in threads:
        thread.start()
    time.sleep(2)
    for own in found:
        own.clear()
    time.sleep(DRAGGING)
    stop.set()
    for thread in threads:
        thread.join()
    every = np.array([t for own in found for t in own])
    return float(np.median(every)), float(np.percentile(every, 95)), len(every) / DRAGGING


def browsing(address: str, sessions: list[str]) -> tuple[float, float]:
    """People open the catalogue and two pages of looks, reading between them: median and 95 % of a page, in
    seconds."""
    scout = Visitor(address, sessions[0])
    scout.get("/api/session")
    frame = json.loads(scout.get("/api/frames"))[0]
    found: list[float] = []
    lock = threading.Lock()

    def page(one: Visitor, paths: list[str], stills: Callable[[list[bytes]], list[str]]) -> None:
        begun = time.perf_counter()
        one.all(stills(one.all(paths)))
        with lock:
            found.append(time.perf_counter() - begun)

    def cards(told: list[bytes]) -> list[str]:
        rows = json.loads(told[0])["cards"][:24]
        return [
            f"/api/revisions/{c['revision']['id']}/still?frame={frame['id']}&width=480&v={c['revision']['digest'][:8]}{frame['version']}"
            for c in rows
        ]

    def visit(k: int) -> None:
        one = Visitor(address, sessions[k % len(sessions)])
        one.get("/api/session")
        page(one, ["/api/catalogue", "/api/catalogue/filters", "/api/waiting"], cards)
        for look in (1 + k % 6, 1 + (k + 3) % 6):
            time.sleep(READING)
            parts = ("", "/history", "/notes", "/bakes")
            page(one, [f"/api/looks/{look}{part}" for part in parts], lambda _: [])

    visit(0)
    found.clear()
    threads = [threading.Timer(COMING * k / BROWSERS, visit, [k]) for k in range(BROWSERS)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    return float(np.median(found)), float(np.percentile(found, 95))


def memory_of(application: Application, part: str) -> float:
    """MiB that a part and the processes it started hold now."""
    first = application.supervisor.pid(part)
    pids = [
        first,
        *map(int, subprocess.run(["pgrep", "-P", str(first)], capture_output=True, text=True).stdout.split()),
    ]
    # What several processes share counts once in all.
    told = [Path(f"/proc/{pid}/smaps_rollup").read_text() for pid in pids]
    return sum(int(found[1]) for one in told if (found := re.search(r"^Pss:\s+(\d+) kB", one, re.M))) / 1024


#: Takes live answers apart in the server's own surroundings, one at a time; prints the median of each part
#: in milliseconds.
SPENT = f"""
import json
import time
import django
django.setup()
import numpy as np
from django.test import Client
from saucer_core.baking.bake import bake
from saucer_core.halves import halves
from saucer_core.treatment import Treatment
from saucer_server.bench import pictures
from saucer_server.bench.api import LiveIn
from saucer_server.looks import rules as looks
from saucer_server.luts.rules import table
from saucer_server.people.rules import Person
client = Client(HTTP_HOST="localhost")
client.force_login(Person.objects.get(username="ines"))
drafts = [look.draft for look in looks.every() if look.draft["steps"]][:8]
spent = {{}}

def timed(part, work):
    begun = time.perf_counter()
    made = work()
    spent.setdefault(part, []).append(1000 * (time.perf_counter() - begun))
    return made

def moved(k, share):
    first, *rest = drafts[k % len(drafts)]["steps"]
    look = {{**drafts[k % len(drafts)], "steps": [{{**first, "strength": share}}, *rest]}}
    return json.dumps({{"look": look, "frame": 1}}).encode()

for k in range({much(400, 12)}):
    if k == {much(80, 4)}:
        spent.clear()
    body = moved(k, 0.5 + (k % 97) / 200)
    wish = timed("wish", lambda: LiveIn.model_validate_json(body))
    program = timed("program", lambda: Treatment(wish.look, wish.look.input, ends="screen").compile(table))
    made = timed("table", lambda: bake(program, pictures.LIVE_GRID).grid)
    timed("halves", lambda: halves(made, -1, 2).tobytes())
    timed("traces", lambda: pictures.traces(wish.look))
    body = moved(k, 0.4 + (k % 89) / 200)
    answer = timed("whole", lambda: client.post("/api/live", body, content_type="application/json"))
    assert answer.status_code == 200
print(json.dumps({{part: float(np.median(times)) for part, times in spent.items()}}))
"""
#: The parts, in the order in which they come.
PARTS = {
    "wish": "what is sent read and checked",
    "program": "the look compiled to a program",
    "table": "33³ colours taken through it",
    "halves": "the table as half floats",
    "traces": "what the editors draw",
}


def _taken_apart(application: Application) -> Table:
    told = json.loads(inside(application, SPENT))
    table = Table("What a live answer is spent on, one at a time", ["part", "median"])
    for part, words in PARTS.items():
        table.add(words, f"{told[part]:.2f} ms")
    rest = told["whole"] - sum(told[part] for part in PARTS)
    table.add("session, rights, routes, headers", f"{max(rest, 0):.2f} ms")
    table.add("the whole answer", f"{told['whole']:.2f} ms")
    return table


#: Milliseconds within which 95 of 100 answers are there, by how many drag at once, with a web process a core.
WANTED = {10: 100, 25: 250}


def run() -> list[Table]:
    """All of it."""
    cores = os.cpu_count() or 1
    live = Table(
        "Designers who drag at once",
        ["web processes", "designers", "median", "95 %", "answers a second", "web memory"],
    )
    pages = Table(
        f"{BROWSERS} people at once, a page every {READING:.0f} s",
        ["web processes", "a page, median", "95 %"],
    )
    apart: list[Table] = []
    for processes in much(sorted({1, cores}), [cores]):
        with instance(processes=processes) as (application, address):
            if processes == cores:
                apart.append(_taken_apart(application))
            sessions = [session_of(application, name) for name in TEAM]
            for count in DESIGNERS:
                median, late, rate = dragging(address, sessions, count)
                memory = f"{memory_of(application, 'web'):.0f} MiB"
                if processes == cores and count in WANTED:
                    live.want(f"{count} designers, 95 %:", late * 1000, WANTED[count], " ms")
                    live.want("a web process:", memory_of(application, "web") / processes, 1024, " MiB")
                live.add(
                    str(processes),
                    str(count),
                    f"{median * 1000:.0f} ms",
                    f"{late * 1000:.0f} ms",
                    f"{rate:.0f}",
                    memory,
                )
            median, late = browsing(address, sessions)
            if processes == cores:
                pages.want("95 %:", late * 1000, 1000, " ms")
            pages.add(str(processes), f"{median * 1000:.0f} ms", f"{late * 1000:.0f} ms")
    return [*apart, live, pages]
