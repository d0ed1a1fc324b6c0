"""The ``.cube`` format: Cube LUT Specification 1.0, and what is met in the wild.

Beyond the specification it reads CRLF, a byte-order mark, UTF-16, tabs, blank lines, comments after a size,
input-range keywords, keywords for video levels, and a 1-D shaper and a 3-D table in one file (shaper first).
"""

import codecs
import io
import math
import re
from dataclasses import replace
from pathlib import Path

import numpy as np

from ..arrays import F32
from ..encodings.code_range import to_full
from ..errors import FileError, LookError
from ..operations import apply
from ..tables.lut import GRID_LIMIT, SHAPER_LIMIT, Lut, Shaper
from .rows import rows

SUFFIX = ".cube"
SIZE_LIMIT = 64 * 2**20

_RANGES = {"LUT_1D_INPUT_RANGE", "LUT_3D_INPUT_RANGE"}
_DOMAINS = {"DOMAIN_MIN", "DOMAIN_MAX"}
_SIZES = {"LUT_1D_SIZE": SHAPER_LIMIT, "LUT_3D_SIZE": GRID_LIMIT}
_NUMBER = re.compile(r"[-+.0-9]")
#: Beyond these a domain or a colour is no use to anybody.
_LARGEST = 1e9
#: The comment that keeps a title which the quotes around it cannot.
_TITLE = "# Title as given: "
#: Keywords met in the wild that say the table takes, or gives, narrow range.
_VIDEO = {"LUT_IN_VIDEO_RANGE", "LUT_OUT_VIDEO_RANGE"}
#: Characters of one line.
_LINE_LIMIT = 4096
#: Lines of comment before the numbers.
_COMMENT_LIMIT = 10_000


class _Header:
    def __init__(self) -> None:
        self.title = ""
        self.comments: list[str] = []
        self.sizes: dict[str, int] = {}
        self.ranges: dict[str, tuple[float, float]] = {}
        self.domains: dict[str, tuple[float, ...]] = {}
        self.video: set[str] = set()


def _numbers(name: str, words: list[str], count: int, line: int) -> tuple[float, ...]:
    if len(words) != count:
        raise FileError(name, f"expected {count} numbers, found {len(words)}", line)
    try:
        values = tuple(float(w) for w in words)
    except ValueError:
        raise FileError(name, f"“{' '.join(words)[:60]}” is not {count} numbers", line) from None
    if not all(math.isfinite(v) for v in values):
        raise FileError(name, "infinity and NaN are not colours", line)
    if max(map(abs, values)) > _LARGEST:
        raise FileError(name, f"a number is larger than {_LARGEST:g}, too large for a colour", line)
    return values


def _keyword(name: str, header: _Header, text: str, line: int) -> None:
    word, _, rest = text.partition(" ")
    rest = rest.strip()
    if word == "TITLE":
        quoted = len(rest) > 1 and rest[0] == rest[-1] == '"'
        header.title = header.title or (rest[1:-1] if quoted else rest)
        return
    # What stands behind the numbers of a keyword is a comment (met in the wild).
    rest = rest.split("#")[0].strip()
    if word in _SIZES:
        limit = _SIZES[word]
        if not (rest.isascii() and rest.isdigit() and len(rest) < 9) or not 2 <= int(rest) <= limit:
            raise FileError(name, f"{word} must be a whole number from 2 to {limit}, not “{rest[:40]}”", line)
        header.sizes[word] = int(rest)
    elif word in _RANGES:
        low, high = _numbers(name, rest.split(), 2, line)
        header.ranges[word] = low, high
    elif word in _DOMAINS:
        header.domains[word] = _numbers(name, rest.split(), 3, line)
    elif word in _VIDEO:
        header.video.add(word)
    else:
        raise FileError(name, f"“{word[:40]}” is not a keyword of a .cube file", line)


def _read_rows(name: str, body: bytes, first: int, expected: int) -> F32:
    """The numbers of all data lines, ``(expected, 3)``; on trouble finds the line at fault."""
    if body.count(b"\n") > 2 * expected + _COMMENT_LIMIT:
        # Nothing of them is read: sixty MiB of lines without a number would take a minute.
        raise FileError(
            name,
            f"has far more lines than the {expected:,} rows that its size asks for: not a .cube file",
            first,
        )
    try:
        values = (
            np.loadtxt(io.TextIOWrapper(io.BytesIO(body), "latin-1"), dtype=np.float64, ndmin=2)
            if body.strip()
            else None
        )
    except ValueError:
        values = None
    if (
        values is not None
        and values.shape == (expected, 3)
        and np.isfinite(values).all()
        and np.abs(values).max() < _LARGEST
    ):
        return values.astype(np.float32)
    out, done = np.empty((expected, 3), dtype=np.float32), 0
    for k, raw in enumerate(io.BytesIO(body), first):
        text = raw.decode("latin-1").split("#")[0].strip()
        if text:
            if done == expected:
                raise FileError(name, f"more rows of numbers than the {expected:,} that the size asks for", k)
            out[done] = _numbers(name, text.split(), 3, k)
            done += 1
    if done < expected:
        raise FileError(name, f"ends after {done:,} of {expected:,} rows: the file is cut short")
    return out


def read_text(text: str, name: str) -> Lut:
    """A ``Lut`` from the text of a file; raises ``FileError`` with line and reason."""
    return _read(text.encode("utf-8", "replace"), name)


def _decoded(data: bytes) -> str:
    try:
        return data.decode("utf-8")
    except UnicodeDecodeError:
        return data.decode("latin-1")


def _read(data: bytes, name: str) -> Lut:
    header = _Header()
    data = data.removeprefix(codecs.BOM_UTF8).replace(b"\r\n", b"\n").replace(b"\r", b"\n")
    start, k = 0, 0
    while start < len(data):
        end = data.find(b"\n", start)
        end = len(data) if end < 0 else end
        if end - start > _LINE_LIMIT:
            raise FileError(name, f"is longer than {_LINE_LIMIT:,} characters: not a .cube file", k + 1)
        line = _decoded(data[start:end]).replace("\t", " ").strip()
        if _NUMBER.match(line):
            break
        if line.startswith(_TITLE):
            header.title = line[len(_TITLE) :].strip()
        elif line.startswith("#"):
            header.comments.append(line[1:].strip())
        elif line:
            _keyword(name, header, line, k + 1)
        if len(header.comments) > _COMMENT_LIMIT:
            raise FileError(
                name, f"has more than {_COMMENT_LIMIT:,} lines of comment before its numbers", k + 1
            )
        start, k = end + 1, k + 1
    if not header.sizes:
        raise FileError(name, "has neither LUT_1D_SIZE nor LUT_3D_SIZE before its numbers: not a .cube file")
    flat, cube = header.sizes.get("LUT_1D_SIZE", 0), header.sizes.get("LUT_3D_SIZE", 0)
    values = _read_rows(name, data[start:], k + 1, flat + cube**3)
    low, high = _domain(name, header, "LUT_3D_INPUT_RANGE" if cube else "LUT_1D_INPUT_RANGE")
    shaper = None
    if flat:
        range_low, range_high = (low, high) if not cube else _domain(name, header, "LUT_1D_INPUT_RANGE")
        shaper = Shaper(np.ascontiguousarray(values[:flat]), range_low, range_high)
        if cube and "LUT_3D_INPUT_RANGE" not in header.ranges:
            low, high = np.zeros(3, np.float32), np.ones(3, np.float32)
    grid = np.ascontiguousarray(values[flat:].reshape(cube, cube, cube, 3)) if cube else None
    return _in_full_range(Lut(grid, shaper, low, high, header.title, tuple(header.comments)), header.video)


def _in_full_range(lut: Lut, said: set[str]) -> Lut:
    """A table that the file says is for video levels, as one for full range: the same table over another
    domain, its colours stretched."""

    def full(values: F32) -> F32:
        return apply(to_full("narrow"), values)

    if "LUT_IN_VIDEO_RANGE" in said:
        if lut.shaper is not None:
            lut = replace(
                lut, shaper=replace(lut.shaper, low=full(lut.shaper.low), high=full(lut.shaper.high))
            )
        else:
            lut = replace(lut, low=full(lut.low), high=full(lut.high))
    if "LUT_OUT_VIDEO_RANGE" in said:
        if lut.grid is not None:
            lut = replace(lut, grid=full(lut.grid))
        elif lut.shaper is not None:
            lut = replace(lut, shaper=replace(lut.shaper, values=full(lut.shaper.values)))
    notes = tuple(f"{word}: read as a table for full range" for word in sorted(said))
    return replace(lut, comments=(*lut.comments, *notes))


def _domain(name: str, header: _Header, keyword: str) -> tuple[F32, F32]:
    low: tuple[float, ...] = header.domains.get("DOMAIN_MIN", (0.0,) * 3)
    high: tuple[float, ...] = header.domains.get("DOMAIN_MAX", (1.0,) * 3)
    if keyword in header.ranges:
        a, b = header.ranges[keyword]
        low, high = (a,) * 3, (b,) * 3
    if any(b - a < 1e-5 * max(1.0, abs(a)) for a, b in zip(low, high, strict=True)):
        raise FileError(name, "the domain's maximum does not lie above its minimum")
    return np.array(low, dtype=np.float32), np.array(high, dtype=np.float32)


def read(path: Path, name: str | None = None) -> Lut:
    """A ``Lut`` from a file; raises ``FileError``."""
    name = name or path.name
    if path.stat().st_size > SIZE_LIMIT:
        raise FileError(name, f"larger than {SIZE_LIMIT // 2**20} MiB, the most a .cube file may be")
    data = path.read_bytes()
    if data.startswith((codecs.BOM_UTF16_LE, codecs.BOM_UTF16_BE)):
        data = data.decode("utf-16", "replace").encode("utf-8", "replace")
    if b"\0" in data[:4096]:
        raise FileError(name, "holds binary data: not a .cube file, which is text")
    return _read(data, name)


def _one_line(text: str) -> str:
    return " ".join(text.split())


def left_out(lut: Lut) -> list[str]:
    """What of a table's title and comments the format has no room for, in words."""
    found = []
    if '"' in lut.title:
        found.append("the quotes of the title: they stand as apostrophes, and as they were in a comment")
    if "\n" in lut.title.strip() or "\r" in lut.title.strip():
        found.append("the line breaks of the title: they became spaces")
    return found


def write_text(lut: Lut) -> str:
    """The text of a file. A title has no room for quotes and line breaks, see ``left_out``.

    Raises ``LookError`` for a shaper before a grid: the specification has no such file, and hardly anybody
    reads one.
    """
    if lut.shaper is not None and lut.grid is not None:
        raise LookError(
            "A .cube file that everybody reads cannot hold the shaper that linear light needs. Write it as "
            ".clf, or bake the look for "
            "pictures in a log encoding (film log)."
        )
    title = _one_line(lut.title)
    head = ['TITLE "' + title.replace('"', "'") + '"'] if title else []
    if '"' in title:
        head.append(f"{_TITLE}{title}")
    head += [f"# {_one_line(line)}" for comment in lut.comments for line in comment.splitlines() or [""]]
    if lut.grid is not None:
        head += [f"LUT_3D_SIZE {lut.size}", *_domain_lines(lut.low, lut.high)]
        values = lut.grid
    else:
        assert lut.shaper is not None
        head += [f"LUT_1D_SIZE {len(lut.shaper.values)}", *_domain_lines(lut.shaper.low, lut.shaper.high)]
        values = lut.shaper.values
    return "\n".join(head) + "\n" + rows(values)


def _domain_lines(low: F32, high: F32) -> list[str]:
    return [
        f"{word} " + " ".join(f"{v:.9g}" for v in row)
        for word, row in (("DOMAIN_MIN", low), ("DOMAIN_MAX", high))
    ]
