"""Many at once: designers who drag a control, and people who leaf through the catalogue; with one web process
and with one a core."""

import json
import os
import subprocess
import threading
import time
from collections.abc import Callable
from pathlib import Path

import numpy as np

from launch.serving import Application

from .amount import much
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
    pages = sum(int(Path(f"/proc/{pid}/statm").read_text().split()[1]) for pid in pids)
    return pages * os.sysconf("SC_PAGE_SIZE") / 2**20


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
    for processes in much(sorted({1, cores}), [cores]):
        with instance(processes=processes) as (application, address):
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
    return [live, pages]
