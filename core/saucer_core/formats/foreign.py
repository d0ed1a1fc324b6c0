"""Rarer LUT files, read through OpenColorIO where it is installed."""

import tempfile
from pathlib import Path
from typing import Any

import numpy as np

from ..errors import FileError
from ..tables.lut import Lut, identity_grid

#: Points of the grid that such a file is sampled on over 0–1.
GRID = 65
SIZE_LIMIT = 64 * 2**20


def _library() -> Any:
    try:
        import PyOpenColorIO
    except ImportError:
        return None
    return PyOpenColorIO


def suffixes() -> tuple[str, ...]:
    """The suffixes that OpenColorIO reads; empty where it is not installed."""
    ocio = _library()
    if ocio is None:
        return ()
    return tuple(sorted({f".{suffix.lower()}" for _, suffix in ocio.FileTransform.getFormats()}))


def read(path: Path, name: str | None = None) -> Lut:
    """The file as OpenColorIO reads it, sampled over 0–1. Raises ``FileError`` with its reason."""
    name = name or path.name
    ocio = _library()
    if ocio is None:
        raise FileError(name, "files of this kind are read through OpenColorIO, which is not installed")
    if path.stat().st_size > SIZE_LIMIT:
        raise FileError(name, f"larger than {SIZE_LIMIT // 2**20} MiB, the most a LUT file may be")
    # Its readers choose by suffix: the file is given the suffix of its name.
    with tempfile.TemporaryDirectory() as folder:
        copy = Path(folder) / f"table{Path(name).suffix.lower()}"
        copy.write_bytes(path.read_bytes())
        try:
            transform = ocio.FileTransform(str(copy), interpolation=ocio.INTERP_TETRAHEDRAL)
            cpu = ocio.Config.CreateRaw().getProcessor(transform).getDefaultCPUProcessor()
            flat = np.array(identity_grid(GRID), dtype=np.float32, copy=True).reshape(-1, 3)
            cpu.applyRGB(flat)
        except ocio.Exception as error:
            reason = " ".join(str(error).replace(str(copy), name).split())[:200]
            raise FileError(name, f"cannot be read: {reason}") from None
    if not np.isfinite(flat).all():
        raise FileError(name, "gives infinity or NaN")
    note = f"read through OpenColorIO and sampled on {GRID} points over 0–1"
    return Lut(flat.reshape(GRID, GRID, GRID, 3), title=Path(name).stem, comments=(note,))
