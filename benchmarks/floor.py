"""The floor under the live loop: what a browser and a server cost where nothing is computed.

``Floor`` watches the bench for what it posts and is answered, and serves the same bytes as constants to a
page (``web/floor``) that draws them with the bench's own drawing. ``application`` is what answers, run as the
real server is.
"""

import json
import os
import re
import subprocess
from collections.abc import Callable, Iterable
from pathlib import Path
from typing import Any

from playwright.sync_api import Page, Response

from launch import environment
from launch.places import ROOT, WEB, python
from launch.postgres import free_port
from launch.serving import GUNICORN, WEB_PROCESSES

#: The canvases of the bench: their sizes, and where the pictures lie that fill them. The row of frames is
#: drawn as eight cells.
CANVASES = """
() => [...document.querySelectorAll("main canvas[data-drawn]")]
    .map((c) => ({ width: c.width, height: c.height }))
"""


class Floor:
    """What was seen at the bench, as files for ``application``."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        self.process: subprocess.Popen[bytes] | None = None
        self._bodies: dict[str, str] = {}
        self._pictures: list[tuple[int, str]] = []

    def watch(self, page: Page) -> None:
        """Keeps what that page posts and is answered from now on."""
        (self.folder / "picture").mkdir(parents=True)
        page.on("response", self._seen)

    def _seen(self, response: Response) -> None:
        name = re.sub(r".*/api/|\?.*", "", response.url)
        if name in ("live", "readings"):
            self._bodies[name] = response.request.post_data or ""
            (self.folder / name).write_bytes(response.body())
        elif found := re.match(r"frames/(\d+)/places", name):
            width = re.search(r"width=(\d+)", response.url)
            assert width is not None
            key = f"{found[1]}-{width[1]}"
            (self.folder / "picture" / key).write_bytes(response.body())
            self._pictures.append((int(width[1]), key))

    def serve(self, page: Page) -> str:
        """Stops watching, and serves what was seen; the address."""
        page.remove_listener("response", self._seen)
        row, stage = sorted(page.evaluate(CANVASES), key=lambda c: int(c["height"]))
        wide = max(width for width, _ in self._pictures)
        cells = [key for width, key in self._pictures if width < wide]
        large = next(key for width, key in self._pictures if width == wide)
        stage["places"] = [_place(large, 0, stage["width"], stage["height"])]
        each = row["width"] / max(len(cells), 1)
        row["places"] = [_place(key, k * each, each, row["height"]) for k, key in enumerate(cells)]
        (self.folder / "told.json").write_text(json.dumps({"canvases": [stage, row], **self._bodies}))
        built: list[str | Path] = [
            "npx",
            "vite",
            "build",
            "floor",
            "--outDir",
            self.folder / "page",
            "--emptyOutDir",
            "--logLevel",
            "error",
        ]
        subprocess.run(built, cwd=WEB, env={**os.environ, **environment.web_packages()}, check=True)
        port = free_port()
        self.process = subprocess.Popen(
            [python(), *GUNICORN, "benchmarks.floor:application", "-b", f"127.0.0.1:{port}"],
            cwd=ROOT,
            env={**os.environ, "SAUCER_FLOOR": str(self.folder), "SAUCER_WEB_PROCESSES": str(WEB_PROCESSES)},
            stderr=subprocess.DEVNULL,
        )
        return f"http://127.0.0.1:{port}"

    def stop(self) -> None:
        """Ends the serving."""
        if self.process is not None:
            self.process.terminate()
            self.process.wait()


def _place(picture: str, x: float, width: float, height: float) -> dict[str, Any]:
    return {
        "picture": picture,
        "slot": "look",
        "x": x,
        "y": 0,
        "width": width,
        "height": height,
        "from": x,
        "to": x + width,
    }


_KINDS = {".html": "text/html", ".js": "text/javascript", ".css": "text/css", ".json": "application/json"}
_kept: dict[Path, bytes] = {}


def application(
    environ: dict[str, Any], start: Callable[[str, list[tuple[str, str]]], object]
) -> Iterable[bytes]:
    """Answers with a file of the floor's folder, read once, whatever is posted."""
    folder = Path(os.environ["SAUCER_FLOOR"])
    environ["wsgi.input"].read()
    name = environ["PATH_INFO"].lstrip("/") or "index.html"
    path = next((p for p in (folder / name, folder / "page" / name) if p.is_file()), None)
    if path is None:
        start("404 Not Found", [("Content-Length", "0")])
        return []
    body = _kept.setdefault(path, path.read_bytes())
    kind = _KINDS.get(path.suffix, "application/octet-stream")
    start("200 OK", [("Content-Type", kind), ("Content-Length", str(len(body)))])
    return [body]
