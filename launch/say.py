"""What the person at the terminal reads, and commands that are run for them."""

import os
import subprocess
import sys
from collections.abc import Mapping, Sequence
from pathlib import Path

#: The titles of the checks that did not pass, in their order.
failures: list[str] = []


class Stop(Exception):
    """Something that only the person can mend; the text says what."""


def say(text: str) -> None:
    """A line of progress."""
    print(f"saucer: {text}", flush=True)


def run(
    words: Sequence[str | Path],
    *,
    cwd: Path | None = None,
    env: Mapping[str, str] | None = None,
    quiet: bool = True,
) -> str:
    """Runs a command to its end and gives what it printed; on failure raises ``Stop`` with the end of it."""
    done = subprocess.run(
        [str(w) for w in words],
        cwd=cwd,
        env={**os.environ, **(env or {})},
        stdin=subprocess.DEVNULL,
        stdout=subprocess.PIPE if quiet else None,
        stderr=subprocess.STDOUT if quiet else None,
        text=True,
        errors="replace",
    )
    if done.returncode:
        tail = "\n".join((done.stdout or "").splitlines()[-25:])
        raise Stop(f"this failed: {' '.join(str(w) for w in words)}\n{tail}")
    return done.stdout or ""


def passes(
    title: str, words: Sequence[str | Path], *, cwd: Path, env: Mapping[str, str] | None = None
) -> bool:
    """Runs a check in the open and says whether it passed."""
    say(title)
    sys.stdout.flush()
    done = subprocess.run(
        [str(w) for w in words], cwd=cwd, env={**os.environ, **(env or {})}, stdin=subprocess.DEVNULL
    )
    return _passed(title, done.returncode)


def passes_quietly(
    title: str, words: Sequence[str | Path], *, cwd: Path, env: Mapping[str, str] | None = None
) -> bool:
    """``passes`` for a check that runs beside others: what it prints comes in one piece once it has ended."""
    done = subprocess.run(
        [str(w) for w in words],
        cwd=cwd,
        env={**os.environ, **(env or {})},
        stdin=subprocess.DEVNULL,
        stdout=subprocess.PIPE,
        stderr=subprocess.STDOUT,
        text=True,
        errors="replace",
    )
    say(f"{title}\n{done.stdout.rstrip()}" if done.stdout.strip() else title)
    return _passed(title, done.returncode)


def _passed(title: str, status: int) -> bool:
    """Whether the exit status is a good one; if not, says so and keeps the title."""
    if status:
        say(f"FAILED: {title}")
        failures.append(title)
    return status == 0
