"""Rarer LUT files, read through OpenColorIO where it is installed.

OpenColorIO says what it read as a Common LUT Format file, which our own reader takes: curves stay curves,
grids keep their points and domains, matrices their numbers. It does so in a process of its own (see
``foreign_child``), so that no file can hang or fill the one that asks.
"""

import tempfile
from functools import cache
from importlib.util import find_spec
from pathlib import Path

import numpy as np

from ..errors import FileError
from ..operations import Linear, Operation
from ..tables.chain import Chain
from ..tables.interpolate import GridRead, Interpolation
from ..tables.lut import Lut, Shaper, ShaperRead
from . import alone, clf, xml

SIZE_LIMIT = 64 * 2**20
#: Seconds after which the process is ended whatever it does; it ends itself earlier by its own limit of
#: computing time.
PATIENCE = 30
_CHILD = Path(__file__).with_name("foreign_child.py")


@cache
def suffixes() -> tuple[str, ...]:
    """The suffixes that OpenColorIO reads; empty where it is not installed."""
    if find_spec("PyOpenColorIO") is None:
        return ()
    import PyOpenColorIO as ocio

    return tuple(sorted({f".{suffix.lower()}" for _, suffix in ocio.FileTransform.getFormats()}))


def read(path: Path, name: str | None = None) -> Lut | Chain:
    """The file as OpenColorIO reads it. Raises ``FileError`` with its reason."""
    name = name or path.name
    if not suffixes():
        raise FileError(name, "files of this kind are read through OpenColorIO, which is not installed")
    if path.stat().st_size > SIZE_LIMIT:
        raise FileError(name, f"larger than {SIZE_LIMIT // 2**20} MiB, the most a LUT file may be")
    with tempfile.TemporaryDirectory() as folder:
        # Its readers choose by suffix: the file is given the suffix of its name.
        copy, result = Path(folder) / f"table{Path(name).suffix.lower()}", Path(folder) / "result.clf"
        copy.write_bytes(path.read_bytes())
        alone.run(_CHILD, str(copy), str(result), path=copy, name=name, what="a LUT file", patience=PATIENCE)
        found = clf.read_text(xml.decoded(result.read_bytes(), name), name)
    note = "read through OpenColorIO"
    title = Path(name).stem
    if isinstance(found, Lut):
        return Lut(found.grid, found.shaper, found.low, found.high, title, (note,), found.interpolation)
    plain = _plain(found.steps)
    if plain is not None:
        grid, shaper, interpolation = plain
        return Lut(
            grid.grid if grid else None, shaper, title=title, comments=(note,), interpolation=interpolation
        )
    return Chain(found.steps, found.source, title=title, comments=(note,), size=found.size)


def _plain(steps: tuple[Operation, ...]) -> tuple[GridRead | None, Shaper | None, Interpolation] | None:
    """The steps as a shaper before a grid, or either alone; ``None`` where they are more than that."""
    rest = list(steps)
    low, high = np.zeros(3, np.float32), np.ones(3, np.float32)
    if len(rest) > 1 and isinstance(first := rest[0], Linear) and isinstance(rest[1], ShaperRead):
        scale = np.diag(first.matrix)
        if not np.array_equal(first.matrix, np.diag(scale)) or (scale <= 0).any():
            return None
        low, high = (((v - first.constant) / scale).astype(np.float32) for v in (0.0, 1.0))
        rest = rest[1:]
    shaper = None
    if rest and isinstance(curve := rest[0], ShaperRead):
        shaper = Shaper(np.ascontiguousarray(curve.values.T), low, high)
        rest = rest[1:]
    if not rest and shaper is not None:
        return None, shaper, "tetrahedral"
    if len(rest) == 1 and isinstance(grid := rest[0], GridRead):
        return grid, shaper, grid.interpolation
    return None
