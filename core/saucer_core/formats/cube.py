"""The ``.cube`` format: Cube LUT Specification 1.0, and what is met in the wild.

Beyond the specification it reads CRLF, a byte-order mark, tabs, blank lines, input-range keywords, and a 1-D shaper and a
3-D table in one file (shaper first).
"""

import io
import math
import re
from pathlib import Path

import numpy as np

from ..arrays import F32
from ..errors import FileError
from ..lut.lut import GRID_LIMIT, SHAPER_LIMIT, Lut, Shaper

SUFFIX = ".cube"
SIZE_LIMIT = 64 * 2**20

_RANGES = {"LUT_1D_INPUT_RANGE", "LUT_3D_INPUT_RANGE"}
_DOMAINS = {"DOMAIN_MIN", "DOMAIN_MAX"}
_SIZES = {"LUT_1D_SIZE": SHAPER_LIMIT, "LUT_3D_SIZE": GRID_LIMIT}
_NUMBER = re.compile(r"[-+.0-9]")


class _Header:
    def __init__(self) -> None:
        self.title = ""
        self.comments: list[str] = []
        self.sizes: dict[str, int] = {}
        self.ranges: dict[str, tuple[float, float]] = {}
        self.domains: dict[str, tuple[float, ...]] = {}


def _numbers(name: str, words: list[str], count: int, line: int) -> tuple[float, ...]:
    if len(words) != count:
        raise FileError(name, f"expected {count} numbers, found {len(words)}", line)
    try:
        values = tuple(float(w) for w in words)
    except ValueError:
        raise FileError(name, f"“{' '.join(words)[:60]}” is not {count} numbers", line) from None
    if not all(math.isfinite(v) for v in values):
        raise FileError(name, "infinity and NaN are not colours", line)
    return values


def _keyword(name: str, header: _Header, text: str, line: int) -> None:
    word, _, rest = text.partition(" ")
    rest = rest.strip()
    if word == "TITLE":
        quoted = len(rest) > 1 and rest[0] == rest[-1] == '"'
        header.title = rest[1:-1] if quoted else rest
    elif word in _SIZES:
        limit = _SIZES[word]
        if not rest.isdigit() or not 2 <= int(rest) <= limit:
            raise FileError(name, f"{word} must be a whole number from 2 to {limit}, not “{rest[:40]}”", line)
        header.sizes[word] = int(rest)
    elif word in _RANGES:
        low, high = _numbers(name, rest.split(), 2, line)
        header.ranges[word] = low, high
    elif word in _DOMAINS:
        header.domains[word] = _numbers(name, rest.split(), 3, line)
    else:
        raise FileError(name, f"“{word[:40]}” is not a keyword of a .cube file", line)


def _rows(name: str, lines: list[str], first: int, expected: int) -> F32:
    """The numbers of all data lines, ``(expected, 3)``; on trouble finds the line at fault."""
    body = "\n".join(lines)
    if "#" not in body and body.strip():
        try:
            values = np.loadtxt(io.StringIO(body), dtype=np.float64, ndmin=2)
        except ValueError:
            values = np.empty((0, 0))
        if values.shape == (expected, 3) and np.isfinite(values).all() and np.abs(values).max() < 3e38:
            return values.astype(np.float32)
    rows: list[tuple[float, ...]] = []
    for k, text in enumerate(lines, first):
        text = text.split("#")[0].strip()
        if text:
            if len(rows) == expected:
                raise FileError(name, f"more rows of numbers than the {expected:,} that the size asks for", k)
            rows.append(_numbers(name, text.split(), 3, k))
    if len(rows) < expected:
        raise FileError(name, f"ends after {len(rows):,} of {expected:,} rows: the file is cut short")
    values = np.array(rows, dtype=np.float64)
    if np.abs(values).max() >= 3e38:
        raise FileError(name, "a number is too large for a colour")
    return values.astype(np.float32)


def read_text(text: str, name: str) -> Lut:
    """A ``Lut`` from the text of a file; raises ``FileError`` with line and reason."""
    header = _Header()
    lines = text.removeprefix("\ufeff").replace("\r\n", "\n").replace("\r", "\n").split("\n")
    first = len(lines)
    for k, raw in enumerate(lines):
        line = raw.replace("\t", " ").strip()
        if not line:
            continue
        if line.startswith("#"):
            header.comments.append(line[1:].strip())
        elif _NUMBER.match(line):
            first = k
            break
        else:
            _keyword(name, header, line, k + 1)
    if not header.sizes:
        raise FileError(name, "has neither LUT_1D_SIZE nor LUT_3D_SIZE before its numbers: not a .cube file")
    flat, cube = header.sizes.get("LUT_1D_SIZE", 0), header.sizes.get("LUT_3D_SIZE", 0)
    values = _rows(name, lines[first:], first + 1, flat + cube**3)
    low, high = _domain(name, header, "LUT_3D_INPUT_RANGE" if cube else "LUT_1D_INPUT_RANGE")
    shaper = None
    if flat:
        range_low, range_high = (low, high) if not cube else _domain(name, header, "LUT_1D_INPUT_RANGE")
        shaper = Shaper(np.ascontiguousarray(values[:flat]), range_low, range_high)
        if cube and "LUT_3D_INPUT_RANGE" not in header.ranges:
            low, high = np.zeros(3, np.float32), np.ones(3, np.float32)
    grid = np.ascontiguousarray(values[flat:].reshape(cube, cube, cube, 3)) if cube else None
    return Lut(grid, shaper, low, high, header.title, tuple(header.comments))


def _domain(name: str, header: _Header, keyword: str) -> tuple[F32, F32]:
    low: tuple[float, ...] = header.domains.get("DOMAIN_MIN", (0.0,) * 3)
    high: tuple[float, ...] = header.domains.get("DOMAIN_MAX", (1.0,) * 3)
    if keyword in header.ranges:
        a, b = header.ranges[keyword]
        low, high = (a,) * 3, (b,) * 3
    if any(b - a < 1e-9 for a, b in zip(low, high, strict=True)):
        raise FileError(name, "the domain's maximum does not lie above its minimum")
    return np.array(low, dtype=np.float32), np.array(high, dtype=np.float32)


def read(path: Path, name: str | None = None) -> Lut:
    """A ``Lut`` from a file; raises ``FileError``."""
    name = name or path.name
    if path.stat().st_size > SIZE_LIMIT:
        raise FileError(name, f"larger than {SIZE_LIMIT // 2**20} MiB, the most a .cube file may be")
    data = path.read_bytes()
    if b"\0" in data[:4096]:
        raise FileError(name, "holds binary data: not a .cube file, which is text")
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError:
        text = data.decode("latin-1")
    return read_text(text, name)


def _one_line(text: str) -> str:
    return " ".join(text.split())


def _block(values: F32) -> str:
    rows = values.reshape(-1, 3).tolist()
    return "".join(["%.9g %.9g %.9g\n" % (r, g, b) for r, g, b in rows])


def write_text(lut: Lut) -> str:
    """The text of a file. Line breaks and quotes have no room in a title: they become spaces and apostrophes."""
    head = []
    if lut.title:
        head.append('TITLE "' + _one_line(lut.title).replace('"', "'") + '"')
    head += [f"# {_one_line(c)}" for c in lut.comments]
    body = ""
    if lut.shaper is not None:
        head.append(f"LUT_1D_SIZE {len(lut.shaper.values)}")
        low, high = lut.shaper.low, lut.shaper.high
        if lut.grid is None:
            head += _domain_lines(low, high)
        else:
            head.append(f"LUT_1D_INPUT_RANGE {low[0]:.9g} {high[0]:.9g}")
        body += _block(lut.shaper.values)
    if lut.grid is not None:
        head.append(f"LUT_3D_SIZE {lut.size}")
        if lut.shaper is not None:
            head.append(f"LUT_3D_INPUT_RANGE {lut.low[0]:.9g} {lut.high[0]:.9g}")
        else:
            head += _domain_lines(lut.low, lut.high)
        body += _block(lut.grid)
    return "\n".join(head) + "\n" + body


def _domain_lines(low: F32, high: F32) -> list[str]:
    return [f"{word} " + " ".join(f"{v:.9g}" for v in row) for word, row in (("DOMAIN_MIN", low), ("DOMAIN_MAX", high))]
