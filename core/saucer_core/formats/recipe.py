"""The look recipe, ``.saucer.json``: a look with its name, note and the tables it borrows, in one file.

``{"saucer": 1, "name": …, "note": …, "look": {…}, "tables": {sha256: {"size", "low", "high", "grid", "shaper"}}}`` with the numbers
as base64 of little-endian float32.
"""

import base64
import json
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

import numpy as np
from pydantic import ValidationError

from ..arrays import F32
from ..errors import FileError
from ..look import Look
from ..lut.lut import GRID_LIMIT, SHAPER_LIMIT, Lut, Shaper
from ..steps import Tables
from .files import whole_text

SUFFIX = ".saucer.json"
VERSION = 1
SIZE_LIMIT = 64 * 2**20


@dataclass(frozen=True)
class Recipe:
    """A look as a file holds it."""

    look: Look
    name: str = ""
    note: str = ""
    luts: dict[str, Lut] = field(default_factory=dict)

    def tables(self, digest: str) -> Lut | None:
        """The borrowed table of that digest, if the file embeds it."""
        return self.luts.get(digest)


def _pack(values: F32) -> str:
    return base64.b64encode(np.ascontiguousarray(values, dtype="<f4").tobytes()).decode()


def _unpack(text: Any, shape: tuple[int, ...], name: str) -> F32:
    try:
        data = base64.b64decode(text, validate=True)
        values = np.frombuffer(data, dtype="<f4").astype(np.float32).reshape(shape)
    except (ValueError, TypeError):
        raise FileError(name, "an embedded table does not have the numbers its size asks for") from None
    if not np.isfinite(values).all():
        raise FileError(name, "an embedded table holds infinity or NaN")
    return values


def _lut_out(lut: Lut) -> dict[str, Any]:
    out: dict[str, Any] = {"title": lut.title, "low": _pack(lut.low), "high": _pack(lut.high), "size": lut.size}
    if lut.grid is not None:
        out["grid"] = _pack(lut.grid)
    if lut.shaper is not None:
        s = lut.shaper
        out["shaper"] = {"size": len(s.values), "values": _pack(s.values), "low": _pack(s.low), "high": _pack(s.high)}
    return out


def _whole_number(value: Any, limit: int, name: str) -> int:
    if not isinstance(value, int) or isinstance(value, bool) or not 0 <= value <= limit:
        raise FileError(name, f"an embedded table gives a size that is not a whole number up to {limit}")
    return value


def _lut_in(data: Any, name: str) -> Lut:
    if not isinstance(data, dict):
        raise FileError(name, "an embedded table is not an object")
    size = _whole_number(data.get("size", 0), GRID_LIMIT, name)
    grid = _unpack(data.get("grid"), (size, size, size, 3), name) if size else None
    shaper = None
    if isinstance(s := data.get("shaper"), dict):
        count = _whole_number(s.get("size"), SHAPER_LIMIT, name)
        shaper = Shaper(*(_unpack(s.get(k), shape, name) for k, shape in (("values", (count, 3)), ("low", (3,)), ("high", (3,)))))
    return Lut(grid, shaper, _unpack(data.get("low"), (3,), name), _unpack(data.get("high"), (3,), name), str(data.get("title", "")))


def dumps(look: Look, *, name: str = "", note: str = "", tables: Tables) -> str:
    """The text of a recipe; raises ``LookError`` where a borrowed table cannot be had."""
    from ..errors import MissingTable

    luts: dict[str, Any] = {}
    for step in look.lut_steps():
        lut = tables(step.table)
        if lut is None:
            raise MissingTable(step.id, step.name)
        luts[step.table] = _lut_out(lut)
    return json.dumps(
        {"saucer": VERSION, "name": name, "note": note, "look": look.model_dump(mode="json"), "tables": luts},
        indent=1,
        ensure_ascii=False,
    )


def loads(text: str, name: str) -> Recipe:
    """A recipe from text; raises ``FileError``."""
    try:
        data = json.loads(text)
    except (json.JSONDecodeError, RecursionError) as error:
        line = error.lineno if isinstance(error, json.JSONDecodeError) else None
        raise FileError(name, "is not JSON", line) from None
    if not isinstance(data, dict) or "saucer" not in data:
        raise FileError(name, "is not a look recipe: it has no “saucer” version")
    if data["saucer"] != VERSION:
        raise FileError(name, f"is of recipe version {data['saucer']!r}; this Saucer reads version {VERSION}")
    try:
        look = Look.model_validate(data.get("look"))
    except ValidationError as error:
        first = error.errors()[0]
        place = ".".join(str(p) for p in first["loc"])
        raise FileError(name, f"the look is not sound at {place or 'its top'}: {first['msg']}") from None
    tables = data.get("tables")
    luts = {str(k): _lut_in(v, name) for k, v in tables.items()} if isinstance(tables, dict) else {}
    return Recipe(look, str(data.get("name", "")), str(data.get("note", "")), luts)


def read(path: Path) -> Recipe:
    """A recipe from a file; raises ``FileError``."""
    if path.stat().st_size > SIZE_LIMIT:
        raise FileError(path.name, f"larger than {SIZE_LIMIT // 2**20} MiB, the most a recipe may be")
    try:
        return loads(path.read_text(encoding="utf-8"), path.name)
    except UnicodeDecodeError:
        raise FileError(path.name, "is not text in UTF-8") from None


def write(path: Path, look: Look, *, name: str = "", note: str = "", tables: Tables) -> None:
    """Writes a recipe, whole or not at all."""
    text = dumps(look, name=name, note=note, tables=tables)
    whole_text(path, text)
