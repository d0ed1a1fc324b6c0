"""Scripts that read one foreign file in a process of its own.

A library that hangs, crashes or eats memory ends there and nowhere else. Each script sets its limits itself
before it looks at the file.
"""

import subprocess
import sys
from pathlib import Path

from ..errors import FileError


def run(script: Path, *words: str, path: Path, name: str, what: str, patience: float) -> None:
    """Runs a script with nothing of Saucer. Raises ``FileError`` with its last line where it gives up.

    path: the file as the script knows it; name: as people do. what: what the file is, as "a picture".
    patience: seconds after which the process is ended whatever it does.
    """
    try:
        done = subprocess.run(
            [sys.executable, "-I", str(script), *words],
            stdin=subprocess.DEVNULL,
            stdout=subprocess.DEVNULL,
            stderr=subprocess.PIPE,
            timeout=patience,
            check=False,
        )
    except subprocess.TimeoutExpired:
        raise FileError(name, f"cannot be read: it takes longer than {what} should") from None
    if done.returncode < 0:
        raise FileError(
            name, f"cannot be read: it takes more time or memory than {what} should, or crashes its reader"
        )
    if done.returncode:
        lines = done.stderr.decode("utf-8", "replace").strip().splitlines()
        said = lines[-1].replace(str(path), name).removeprefix("cannot be read: ")[:200] if lines else ""
        raise FileError(name, f"cannot be read: {said or 'no reason given'}")
