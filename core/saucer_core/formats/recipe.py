"""The look recipe, ``.saucer.json``: a look with its name, note and all it borrows, in one file.

``{"saucer": 2, "name": …, "note": …, "look": {…}, "tables": {sha256: table}, "encodings": …}``.
A table is ``{"title", "size", "low", "high", "grid", "shaper"}`` with the numbers as base64 of little-endian
float32, or ``{"title", "text"}`` for a chain of operations as a Common LUT Format file. A look that goes to
another Saucer whole also has ``"record"``: what is said of it, and its earlier revisions. ``schema()``
publishes the whole as JSON Schema. Version 1 knew neither chains, team encodings nor a finish; it is read and
brought up to date.
"""

import base64
import json
import re
from collections.abc import Callable
from dataclasses import asdict, dataclass, field
from pathlib import Path
from typing import Any

import numpy as np
from pydantic import ValidationError

from ..arrays import F32
from ..encodings import CameraEncoding, define, definition
from ..encodings.registry import forget
from ..errors import FileError, MissingTable
from ..look import Look, every_step
from ..steps import Tables
from ..tables.chain import Chain
from ..tables.interpolate import Interpolation
from ..tables.lut import GRID_LIMIT, SHAPER_LIMIT, Lut, Shaper, Table
from . import cdl, clf
from .files import whole_text

SUFFIX = ".saucer.json"
VERSION = 2
SIZE_LIMIT = 64 * 2**20


@dataclass(frozen=True)
class Kept:
    """A revision as a recipe tells it: its number, the look as it was then, and what was said when it was
    kept."""

    number: int
    look: Look
    note: str = ""
    status: str = ""
    made_by: str = ""
    made_at: str = ""


@dataclass(frozen=True)
class Record:
    """What goes with a look so that nothing is lost on the way. revisions: the oldest first; the last one is
    the look itself."""

    maker: str = ""
    rights: str = ""
    origin: str = ""
    tags: tuple[str, ...] = ()
    collections: tuple[str, ...] = ()
    revisions: tuple[Kept, ...] = ()


@dataclass(frozen=True)
class RecipeFile:
    """A look as a file holds it.

    encodings: the team encodings that it brings. preset: the look holds one step, kept to start from.
    version: the one the file was written in, which may be older than ``VERSION``.
    """

    look: Look
    name: str = ""
    note: str = ""
    luts: dict[str, Table] = field(default_factory=dict)
    encodings: tuple[CameraEncoding, ...] = ()
    preset: bool = False
    version: int = VERSION
    record: Record | None = None

    def tables(self, digest: str) -> Table | None:
        """The borrowed table of that digest, if the file embeds it."""
        return self.luts.get(digest)


def _pack(values: F32) -> str:
    return base64.b64encode(np.ascontiguousarray(values, dtype="<f4").tobytes()).decode()


#: An object of JSON as a file holds it, before it is checked.
Json = dict[str, Any]
#: Numbers, strings, lists and objects in a recipe: a look of 200 steps with full curves has some 40,000.
VALUE_LIMIT = 200_000
#: Lists and objects inside one another.
DEPTH_LIMIT = 64
_STRING = re.compile(r'"(?:[^"\\]|\\.)*"')
#: Text that a person wrote: no control characters but line breaks, no halves of characters.
_NO_TEXT = re.compile("[\x00-\x08\x0b\x0c\x0e-\x1f\x7f\ud800-\udfff]")
_LARGEST = 1e9


def _parsed(text: str, name: str) -> Any:
    """The JSON of a file, counted and measured for depth before anything is made of it. Raises
    ``FileError``."""
    outline = _STRING.sub("", text)
    if sum(outline.count(c) for c in ",[{") > VALUE_LIMIT:
        raise FileError(name, f"holds more than {VALUE_LIMIT:,} values: no look has as many")
    depth = deepest = 0
    for mark in re.findall(r"[\[\]{}]", outline):
        depth += 1 if mark in "[{" else -1
        deepest = max(deepest, depth)
    if deepest > DEPTH_LIMIT:
        raise FileError(name, f"is nested more than {DEPTH_LIMIT} deep")
    try:
        return json.loads(text)
    except (ValueError, RecursionError) as error:
        raise FileError(
            name, "is not JSON", error.lineno if isinstance(error, json.JSONDecodeError) else None
        ) from None


def _said(value: Any, what: str, name: str) -> str:
    text = str(value)
    if _NO_TEXT.search(text):
        raise FileError(name, f"{what} holds characters that are no text")
    return text


def _unpack(text: Any, shape: tuple[int, ...], name: str) -> F32:
    try:
        data = base64.b64decode(text, validate=True)
        values = np.frombuffer(data, dtype="<f4").astype(np.float32).reshape(shape)
    except (ValueError, TypeError):
        raise FileError(name, "an embedded table does not have the numbers its size asks for") from None
    if not (np.abs(values) < _LARGEST).all():
        raise FileError(name, "an embedded table holds infinity, NaN or a number too large for a colour")
    return values


def _domain(data: Json, name: str) -> tuple[F32, F32]:
    low, high = (_unpack(data.get(k), (3,), name) for k in ("low", "high"))
    if not (high - low > 1e-6 * np.maximum(1, np.abs(low))).all():
        raise FileError(name, "an embedded table's domain ends before it begins")
    return low, high


def table_out(lut: Table) -> Json:
    """A table as a recipe embeds it: plain values, every number exact."""
    if isinstance(lut, Chain):
        return {"title": lut.title, "text": lut.source}
    assert isinstance(lut, Lut)
    out: Json = {
        "title": lut.title,
        "low": _pack(lut.low),
        "high": _pack(lut.high),
        "size": lut.size,
    }
    if lut.interpolation != "tetrahedral":
        out["interpolation"] = lut.interpolation
    if lut.grid is not None:
        out["grid"] = _pack(lut.grid)
    if lut.shaper is not None:
        s = lut.shaper
        out["shaper"] = {
            "size": len(s.values),
            "values": _pack(s.values),
            "low": _pack(s.low),
            "high": _pack(s.high),
        }
    return out


def _whole_number(value: Any, limit: int, name: str) -> int:
    if not isinstance(value, int) or isinstance(value, bool) or not 0 <= value <= limit:
        raise FileError(name, f"an embedded table gives a size that is not a whole number up to {limit}")
    return value


def table_in(data: Any, name: str) -> Table:
    """The table that ``table_out`` gave. Raises ``FileError`` naming the file."""
    if not isinstance(data, dict):
        raise FileError(name, "an embedded table is not an object")
    if isinstance(text := data.get("text"), str):
        inner = f"{name}, embedded table “{str(data.get('title', ''))[:60]}”"
        if "ProcessList" in text:
            return clf.read_text(text, inner)
        one = cdl.corrections(text, inner)[0]
        return Chain((one.correction,), text, title=str(data.get("title", "")))
    size = _whole_number(data.get("size", 0), GRID_LIMIT, name)
    grid = _unpack(data.get("grid"), (size, size, size, 3), name) if size else None
    shaper = None
    if isinstance(s := data.get("shaper"), dict):
        count = _whole_number(s.get("size"), SHAPER_LIMIT, name)
        if count < 2:
            raise FileError(name, "an embedded table's shaper has fewer than 2 points")
        shaper = Shaper(_unpack(s.get("values"), (count, 3), name), *_domain(s, name))
    if size == 1 or (grid is None and shaper is None):
        raise FileError(name, "an embedded table has neither a grid of 2 points a side or more, nor a shaper")
    how: Interpolation = "trilinear" if data.get("interpolation") == "trilinear" else "tetrahedral"
    return Lut(
        grid,
        shaper,
        *_domain(data, name),
        _said(data.get("title", ""), "a table's title", name),
        interpolation=how,
    )


def _team_encodings(look: Look) -> dict[str, CameraEncoding]:
    """The camera encodings that a look, its steps and the looks it borrows name."""
    keys = {look.input, look.output}
    for step in every_step(look.steps):
        keys |= {v for name in ("to", "expects", "gives") if isinstance(v := getattr(step, name, None), str)}
    found = {key: camera for key in keys if (camera := definition(key)) is not None}
    for inner in look.borrowed_looks():
        found |= _team_encodings(inner)
    return found


def _record_out(record: Record) -> Json:
    said = asdict(record) | {"tags": list(record.tags), "collections": list(record.collections)}
    said["revisions"] = [
        {**{k: v for k, v in asdict(r).items() if k != "look"}, "look": r.look.model_dump(mode="json")}
        for r in record.revisions
    ]
    return said


#: Revisions of one look that a recipe tells of.
REVISIONS = 200
#: Tags and collections of one look that a recipe tells of.
WORDS = 60


def _record_in(data: Any, name: str) -> Record | None:
    if not isinstance(data, dict):
        return None

    def text(key: str, of: Json = data, limit: int = 300) -> str:
        return _said(of.get(key, ""), f"its {key}", name)[:limit]

    def words(key: str) -> tuple[str, ...]:
        found = data.get(key)
        return (
            tuple(_said(w, f"one of its {key}", name)[:80] for w in found[:WORDS])
            if isinstance(found, list)
            else ()
        )

    kept = []
    listed = data.get("revisions")
    for one in listed[-REVISIONS:] if isinstance(listed, list) else ():
        if not isinstance(one, dict):
            raise FileError(name, "one of its revisions is not an object")
        try:
            look = Look.model_validate(one.get("look"))
        except (ValidationError, RecursionError) as error:
            why = _first(error) if isinstance(error, ValidationError) else "it is nested too deep"
            raise FileError(name, f"an earlier revision is not sound at {why}") from None
        number = one.get("number")
        if not isinstance(number, int) or isinstance(number, bool) or not 0 < number < 2**31:
            raise FileError(name, "one of its revisions has no number")
        said = {
            key: text(key, one, 4000 if key == "note" else 120)
            for key in ("note", "status", "made_by", "made_at")
        }
        kept.append(Kept(number, look, **said))
    return Record(
        text("maker"), text("rights"), text("origin"), words("tags"), words("collections"), tuple(kept)
    )


def dumps(
    look: Look,
    *,
    name: str = "",
    note: str = "",
    tables: Tables,
    preset: bool = False,
    record: Record | None = None,
) -> str:
    """The text of a recipe, or of a preset: a look of one step. Raises ``LookError`` where a borrowed table
    cannot be had."""
    luts: Json = {}
    looks = [look, *(r.look for r in record.revisions)] if record else [look]
    for step in (s for one in looks for s in one.lut_steps()):
        if step.table in luts:
            continue
        lut = tables(step.table)
        if lut is None:
            raise MissingTable(step.id, step.name)
        luts[step.table] = table_out(lut)
    cameras = {key: camera for one in looks for key, camera in _team_encodings(one).items()}
    whole = {
        "saucer": VERSION,
        **({"preset": True} if preset else {}),
        "name": name,
        "note": note,
        "look": look.model_dump(mode="json"),
        "tables": luts,
        "encodings": {key: camera.model_dump(mode="json") for key, camera in sorted(cameras.items())},
        **({"record": _record_out(record)} if record else {}),
    }
    return json.dumps(whole, indent=1, ensure_ascii=False)


def _from_1(data: Json) -> Json:
    """Version 2 only added: team encodings, chains among the tables, a finish in the look."""
    return {**data, "saucer": 2, "encodings": {}}


#: What brings a version to the next one.
_UPGRADES: dict[int, Callable[[Json], Json]] = {1: _from_1}


def _upgraded(data: Json, name: str) -> Json:
    while (version := data.get("saucer")) != VERSION:
        if not isinstance(version, int) or version not in _UPGRADES:
            raise FileError(
                name, f"is of recipe version {str(version)[:20]}; this Saucer reads versions 1 to {VERSION}"
            )
        data = _UPGRADES[version](data)
    return data


def _first(error: ValidationError) -> str:
    first = error.errors()[0]
    place = ".".join(str(p) for p in first["loc"])
    return f"{place or 'its top'}: {first['msg']}"


def _cameras(data: Json, name: str) -> tuple[CameraEncoding, ...]:
    found = data.get("encodings")
    brought = []
    for key, one in found.items() if isinstance(found, dict) else ():
        try:
            brought.append(CameraEncoding.model_validate(one))
        except ValidationError as error:
            raise FileError(name, f"the encoding {str(key)[:40]} is not sound at {_first(error)}") from None
    return tuple(brought)


def loads(text: str, name: str) -> RecipeFile:
    """A recipe from text; its team encodings are made known (``forget`` takes that back). Raises
    ``FileError``."""
    data = _parsed(text, name)
    if not isinstance(data, dict) or "saucer" not in data:
        raise FileError(name, "is not a look recipe: it has no “saucer” version")
    version = data["saucer"]
    data = _upgraded(data, name)
    brought = _cameras(data, name)
    for camera in brought:
        define(camera)
    try:
        return _sound(data, name, brought, version)
    except FileError:
        for camera in brought:
            forget(camera)
        raise


def _sound(data: Json, name: str, brought: tuple[CameraEncoding, ...], version: int) -> RecipeFile:
    try:
        look = Look.model_validate(data.get("look"))
    except (ValidationError, RecursionError) as error:
        why = _first(error) if isinstance(error, ValidationError) else "it is nested too deep"
        raise FileError(name, f"the look is not sound at {why}") from None
    tables = data.get("tables")
    luts = {str(k): table_in(v, name) for k, v in tables.items()} if isinstance(tables, dict) else {}
    for digest, table in luts.items():
        if table.digest() != digest:
            raise FileError(
                name,
                f"the embedded table “{table.title[:60]}” is not the one that the look borrows: its numbers "
                "were changed",
            )
    said = {key: _said(data.get(key, ""), f"its {key}", name) for key in ("name", "note")}
    preset = data.get("preset") is True
    if preset and len(look.steps) != 1:
        raise FileError(name, f"a preset holds one step or one group, not {len(look.steps)}")
    return RecipeFile(
        look, said["name"], said["note"], luts, brought, preset, version, _record_in(data.get("record"), name)
    )


def schema() -> Json:
    """The JSON Schema of a recipe of this version."""
    table = {
        "type": "object",
        "properties": {
            "title": {"type": "string"},
            "size": {"type": "integer", "minimum": 0, "maximum": GRID_LIMIT},
            "low": {"type": "string", "contentEncoding": "base64"},
            "high": {"type": "string", "contentEncoding": "base64"},
            "grid": {"type": "string", "contentEncoding": "base64"},
            "interpolation": {"enum": ["tetrahedral", "trilinear"]},
            "shaper": {"type": "object"},
            "text": {"type": "string"},
        },
    }
    look, camera = Look.model_json_schema(), CameraEncoding.model_json_schema()
    definitions = {**look.pop("$defs", {}), **camera.pop("$defs", {}), "CameraEncoding": camera}
    if "$ref" not in look:
        definitions["Look"] = look
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": "Saucer look recipe",
        "type": "object",
        "required": ["saucer", "look"],
        "properties": {
            "saucer": {"const": VERSION},
            "preset": {"type": "boolean"},
            "name": {"type": "string"},
            "note": {"type": "string"},
            "look": {"$ref": "#/$defs/Look"},
            "tables": {"type": "object", "additionalProperties": table},
            "encodings": {"type": "object", "additionalProperties": {"$ref": "#/$defs/CameraEncoding"}},
            "record": {
                "type": "object",
                "properties": {
                    **{key: {"type": "string"} for key in ("maker", "rights", "origin")},
                    **{
                        key: {"type": "array", "items": {"type": "string"}} for key in ("tags", "collections")
                    },
                    "revisions": {
                        "type": "array",
                        "items": {
                            "type": "object",
                            "required": ["number", "look"],
                            "properties": {
                                "number": {"type": "integer"},
                                "look": {"$ref": "#/$defs/Look"},
                                **{
                                    key: {"type": "string"}
                                    for key in ("note", "status", "made_by", "made_at")
                                },
                            },
                        },
                    },
                },
            },
        },
        "$defs": definitions,
    }


def read(path: Path) -> RecipeFile:
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
