"""Writing files so that nobody ever finds half of one."""

import os
import tempfile
from collections.abc import Callable
from pathlib import Path


def whole(path: Path, write: Callable[[Path], None]) -> None:
    """``write`` fills a temporary neighbour, which then takes the name; on any error nothing stays."""
    handle, name = tempfile.mkstemp(dir=path.parent, prefix=".part-", suffix=path.suffix)
    os.close(handle)
    part = Path(name)
    try:
        write(part)
        os.replace(part, path)
    finally:
        part.unlink(missing_ok=True)


def whole_text(path: Path, text: str) -> None:
    """``text`` in UTF-8, whole or not at all."""

    def fill(part: Path) -> None:
        part.write_text(text, encoding="utf-8")

    whole(path, fill)
