"""Writing files so that nobody ever finds half of one."""

import os
import secrets
from collections.abc import Callable
from pathlib import Path

from ..errors import FileError


def whole(path: Path, write: Callable[[Path], None]) -> None:
    """``write`` fills a temporary neighbour, which then takes the name; on any error nothing stays.

    The file has the rights that the one it replaces had, or those of any new file. Raises ``FileError`` where
    the folder cannot be written to.
    """
    part = path.parent / f".part-{secrets.token_hex(6)}{path.suffix}"
    try:
        # Made by its own call, so that it gets the rights that every new file gets here.
        os.close(os.open(part, os.O_CREAT | os.O_EXCL | os.O_WRONLY, 0o666))
    except FileNotFoundError:
        raise FileError(str(path), f"there is no folder {path.parent}. Make it first") from None
    except OSError as error:
        raise FileError(str(path), f"cannot be written: {os.strerror(error.errno or 0)}") from None
    try:
        if path.exists():
            part.chmod(path.stat().st_mode & 0o777)
        write(part)
        os.replace(part, path)
    except OSError as error:
        raise FileError(str(path), f"cannot be written: {os.strerror(error.errno or 0)}") from None
    finally:
        part.unlink(missing_ok=True)


def whole_text(path: Path, text: str) -> None:
    """``text`` in UTF-8, whole or not at all. Raises ``FileError``."""

    def fill(part: Path) -> None:
        part.write_text(text, encoding="utf-8")

    whole(path, fill)
