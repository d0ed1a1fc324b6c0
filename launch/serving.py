"""Running the application: database, web processes, worker; all end together."""

import fcntl
import os
import secrets
import shutil
import signal
import socket
import ssl
import time
import urllib.request
from functools import partial
from pathlib import Path
from typing import TextIO

from . import front, leftovers
from .debian import postgres_bin
from .places import ROOT, WEB, digest, python
from .postgres import Postgres, free_port
from .say import Stop, run, say
from .supervisor import Part, Supervisor


def _own_key(file: Path) -> str:
    """The key of this installation, made once."""
    if not file.exists():
        part = file.with_suffix(".part")
        part.touch(0o600)
        part.write_text(secrets.token_urlsafe(50))
        part.replace(file)
    return file.read_text().strip()


def settings(data: Path, database: str, host: str, port: int) -> dict[str, str]:
    """The environment that the server's processes run in."""
    secret = os.environ.get("SAUCER_SECRET_KEY", "") or _own_key(data / "secret-key")
    names = {"localhost", "127.0.0.1", "[::1]", host, socket.gethostname()}
    if host in ("0.0.0.0", "::"):
        names.add("*")
    secure = {"SAUCER_HTTPS": "1"} if os.environ.get("SAUCER_CERTIFICATE") else {}
    return {
        **secure,
        "DATABASE_URL": database,
        "SAUCER_DATA": str(data),
        "SAUCER_SECRET_KEY": secret,
        "SAUCER_HOSTS": os.environ.get("SAUCER_HOSTS", ",".join(sorted(names))),
        "DJANGO_SETTINGS_MODULE": "saucer_server.settings",
        "PYTHONDONTWRITEBYTECODE": "",
        **ONE_THREAD,
        # Where web processes add their metrics up.
        "PROMETHEUS_MULTIPROC_DIR": str(data / "metrics"),
    }


def _hold(data: Path) -> TextIO | None:
    """The file that names who runs with that data, locked as long as it is open; None where somebody else
    holds it."""
    file = (data / "running.pid").open("a+")
    try:
        fcntl.flock(file, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except BlockingIOError:
        file.close()
        return None
    return file


#: A process a core, each with one thread of its own for numbers: threads of several processes that wait for
#: each other take five times as long for a pair of pictures.
ONE_THREAD = {"NUMBA_NUM_THREADS": "1", "OPENBLAS_NUM_THREADS": "1"}
#: How many web processes run: one a core, as the kernels of one picture fill one.
WEB_PROCESSES = int(os.environ.get("SAUCER_WEB_PROCESSES", 0)) or max(1, min(4, os.cpu_count() or 1))


#: Gunicorn with Saucer's settings for it; they say how many web processes there are
#: (``SAUCER_WEB_PROCESSES``).
GUNICORN = ("-m", "gunicorn", "-c", "python:saucer_server.web_server")


def worker_words(cores: int) -> dict[str, tuple[str, ...]]:
    """The workers, by name: one is always free for what somebody waits at
    (``saucer_server.jobs.rules.Queue``), the other takes all."""
    start = ("procrastinate", "worker", "--concurrency")
    return {"worker": (*start, str(min(4, cores))), "worker-soon": (*start, "1", "--queues", "soon")}


#: MiB that must be free for a start: the database writes down that it runs, and what it does.
ROOM = 96
#: A mark in the data folder while it is restored.
RESTORING = "being-restored"
#: With the signal to end when whoever started it ends, even when that is killed.
TIED = ("setpriv", "--pdeathsig=TERM")


class Application:
    """Everything that one ``./saucer start`` runs, each part started again when it ends.

    With ``vite``, the environment in which Node is found, it runs for somebody who works on it: the page
    comes from Vite, which shows changed sources at once and hands on what is asked of ``/api``. The server
    stands on the next port and starts anew when its sources change.
    """

    def __init__(
        self,
        data: Path,
        host: str,
        port: int,
        vite: dict[str, str] | None = None,
        processes: int = WEB_PROCESSES,
    ) -> None:
        self.data, self.host, self.port, self.vite, self.processes = data, host, port, vite, processes
        self.postgres: Postgres | None = None
        self.supervisor = Supervisor(data)
        self.env: dict[str, str] = {}
        self.held: TextIO | None = None

    def start(self, *, demo: bool = True, looks: int = 0) -> str:
        """Starts all; gives the address to open. looks: how many the demo data is to have, made-up ones
        added."""
        self.data.mkdir(parents=True, exist_ok=True)
        free = shutil.disk_usage(self.data).free // 2**20
        if free < ROOM:
            raise Stop(
                f"the disk of {self.data} has {free} MiB left, and starting needs {ROOM}. Make room there, "
                "then start again."
            )
        self.held = _hold(self.data)
        if self.held is None or leftovers.launcher(leftovers.servers(self.data)):
            if self.held is not None:
                self.held.close()
                self.held = None
            raise Stop(
                f"Saucer runs already with the data in {self.data}. ./saucer stop --data {self.data} ends it."
            )
        _clear(self.data)
        for left in ("arriving", "metrics"):
            shutil.rmtree(self.data / left, ignore_errors=True)
        (self.data / "metrics").mkdir()
        if (self.data / RESTORING).exists():
            raise Stop(
                f"{self.data} was being restored when that was interrupted. Empty it and restore again, or "
                "name another folder."
            )
        self.held.truncate(0)
        self.held.write(str(os.getpid()))
        self.held.flush()
        for port in {self.port, self.port + 1} if self.vite else {self.port}:
            self._port_is_free(port)
        database = os.environ.get("DATABASE_URL")
        if not database:
            self.postgres = Postgres(self.data)
            self.supervisor.add(self.postgres.part())
            database = self.postgres.database(self.postgres.wait(), "saucer")
        self.env = settings(self.data, database, self.host, self.port) | {
            "SAUCER_WEB_PROCESSES": str(self.processes)
        }
        manage: list[str | Path] = [python(), ROOT / "server" / "manage.py"]
        self._prepare(manage, demo)
        if demo and looks:
            run([python(), "-m", "demo.more", str(looks)], cwd=ROOT, env=self.env)
        shown = f"[{self.host}]" if ":" in self.host else self.host
        nginx = front.program() if self.vite is None else None
        behind = free_port() if nginx else self.port + 1 if self.vite else self.port
        if nginx:
            self.env["SAUCER_FRONT"] = "1"
            self.env["SAUCER_FRONT_FILES"] = "" if os.environ.get("SAUCER_S3_BUCKET") else "1"
        elif self.vite is None:
            say(
                "nginx cannot be had here: the web processes are asked directly, and slow visitors are not "
                "kept from them"
            )
        bound = f"127.0.0.1:{behind}" if nginx else f"{shown}:{behind}"
        web: list[str | Path] = [python(), *GUNICORN, "saucer_server.wsgi", "-b", bound]
        self._add("web", [*web, "--reload"] if self.vite else web)
        if self.vite:
            self.env |= {"PATH": self.vite["PATH"], "SAUCER_SERVER": f"http://{shown}:{behind}"}
            words: list[str | Path] = ["node", WEB / "node_modules" / "vite" / "bin" / "vite.js", WEB]
            self._add("vite", [*words, "--host", self.host, "--port", str(self.port), "--strictPort"])
        for name, how in worker_words(os.cpu_count() or 1).items():
            self._add(name, [*manage, *how])
        if nginx:
            self._add_front(nginx, f"{shown}:{self.port}", behind)
        secure = "https" if nginx and os.environ.get("SAUCER_CERTIFICATE") else "http"
        address = f"{secure}://{'127.0.0.1' if self.host in ('0.0.0.0', '::') else shown}:{self.port}"
        self._wait(address)
        return address

    def _add(self, name: str, words: list[str | Path]) -> None:
        self.supervisor.add(Part(name, [*TIED, *words], ROOT, dict(self.env)))

    def _add_front(self, nginx: Path, listen: str, behind: int) -> None:
        home = self.data / "front"
        secret = front.pass_secret(self.env["SAUCER_SECRET_KEY"])
        written = front.write(home, listen=listen, behind=behind, secret=secret, files=self.data / "files")
        words: list[str | Path] = [*TIED, nginx, "-p", home, "-c", written, "-e", "stderr"]
        # A front that was killed leaves the process behind that holds the port.
        take_back = partial(_end_front, home)
        self.supervisor.add(Part("front", words, home, dict(self.env), before=take_back))

    def _prepare(self, manage: list[str | Path], demo: bool) -> None:
        """Brings the database up to date and loads the demo data once; skipped where nothing of it changed
        since."""
        sources = [ROOT / "requirements.lock", *(ROOT / "server").rglob("migrations/*.py")]
        wanted = f"{digest(sources)} {demo}"
        mark = self.data / "prepared"
        # A database of somebody else may have been emptied since, so the mark counts only for our own.
        if self.postgres is not None and mark.is_file() and mark.read_text() == wanted:
            return
        run([*manage, "migrate", "--no-input"], env=self.env)
        if demo:
            if not (self.data / "files").exists():
                say("loading the demo data")
            run([python(), "-m", "demo.load"], cwd=ROOT, env=self.env)
        mark.write_text(wanted)

    def _port_is_free(self, port: int) -> None:
        family = socket.AF_INET6 if ":" in self.host else socket.AF_INET
        with socket.socket(family) as s:
            s.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
            try:
                s.bind((self.host, port))
            except OSError as error:
                raise Stop(
                    f"{self.host}:{port} cannot be used ({error.strerror}). Choose another with --port."
                ) from None

    def _wait(self, address: str) -> None:
        anybody = ssl.create_default_context()
        # Only whether it answers is asked; whose certificate it shows is for those who come from elsewhere.
        anybody.check_hostname, anybody.verify_mode = False, ssl.CERT_NONE
        for _ in range(600):
            try:
                urllib.request.urlopen(f"{address}/api/session", timeout=5, context=anybody).read()
                return
            except OSError:
                time.sleep(0.1)
        logs = ", ".join(p.name for p in sorted(self.data.glob("*.log")))
        raise Stop(f"the server did not answer within a minute; its logs are in {self.data}: {logs}")

    def wait(self) -> int:
        """Until Ctrl-C or a signal to end."""
        try:
            while True:
                time.sleep(3600)
        except KeyboardInterrupt:
            say("stopping")
            return 0

    def stop(self) -> None:
        """Ends all that was started."""
        self.supervisor.stop()
        if self.held is not None:
            (self.data / "running.pid").unlink(missing_ok=True)
            self.held.close()
            self.held = None


def _end_front(home: Path) -> None:
    leftovers.end(leftovers.standing_in(home), signal.SIGKILL)


def _clear(data: Path) -> bool:
    """Ends what a start that is gone has left running on the data; whether there was anything."""
    left = leftovers.servers(data)
    leftovers.end(left)
    postgres = (
        leftovers.database(Postgres(data).home)
        if postgres_bin() and not os.environ.get("DATABASE_URL")
        else []
    )
    leftovers.end(postgres, signal.SIGINT)
    fronts = leftovers.standing_in(data / "front")
    leftovers.end(fronts)
    return bool(left or postgres or fronts)


def stop_running(data: Path) -> int:
    """Ends an application that another terminal started, whatever became of its mark."""
    path = data / "running.pid"
    owner = leftovers.launcher(leftovers.servers(data))
    free = _hold(data) if path.exists() else None
    if free is None and path.exists() and not owner:
        owner = int(path.read_text() or 0)
    if free is not None:
        path.unlink(missing_ok=True)
        free.close()
    if owner:
        leftovers.end([owner])
    if not owner and not (data.is_dir() and _clear(data)):
        say("nothing is running")
        return 0
    _clear(data)
    say("stopped")
    return 0
