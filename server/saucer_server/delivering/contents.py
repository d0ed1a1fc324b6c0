"""What stands in a delivery once it is made: the list for programs, the one for people, and checksums."""

import json
from typing import Literal

from pydantic import BaseModel, ConfigDict, Field, TypeAdapter
from saucer_core.trim import Trim

from .plan import PARTS, Part

#: What was measured or chosen while a file was made, by what it is called in the lists: open by nature, each
#: part has its own.
Facts = dict[str, str | int | float]


class _Listed(BaseModel):
    model_config = ConfigDict(frozen=True, validate_by_name=True, validate_by_alias=True)


class DeliveredFile(_Listed):
    """A file: its path in the package, checksum and size in bytes."""

    path: str
    sha256: str
    bytes: int


class ListedShot(_Listed):
    """A shot as the list says it."""

    number: int
    name: str
    scene: str
    words: str
    encoding: str
    trim: Trim


class ListedPiece(_Listed):
    """A piece as the list says it. shot: the number of the shot that it is of, where it is of one."""

    path: str
    facts: Facts
    shot: int | None = Field(None, exclude_if=lambda number: number is None)


class Contents(_Listed):
    """The list of a delivery, as it stands in the package as ``contents.json``."""

    saucer_delivery: Literal[1] = 1
    project: str
    delivery: int
    #: The number of the cut that its shots followed.
    cut: int | None = Field(None, exclude_if=lambda number: number is None)
    made_by: str = Field(alias="made by")
    made_at: str = Field(alias="made at")
    encodings: tuple[str, ...]
    shots: tuple[ListedShot, ...]
    parts: dict[Part, tuple[ListedPiece, ...]]
    files: tuple[DeliveredFile, ...]


class Change(BaseModel):
    """What is otherwise than in the delivery before: in words, and the ids of the shots that it is about."""

    model_config = ConfigDict(frozen=True)

    text: str
    shots: tuple[int, ...]


def lists(contents: Contents, changes: list[Change], left_out: list[str]) -> dict[str, bytes]:
    """The lists that stand in the package: for programs, for people, and checksums as ``sha256sum -c`` reads
    them."""
    plain = TypeAdapter(Contents).dump_python(contents, mode="json", by_alias=True)
    sums = "".join(f"{f.sha256}  {f.path}\n" for f in contents.files)
    return {
        "contents.json": json.dumps(plain, indent=1, ensure_ascii=False).encode(),
        "contents.txt": _to_be_read(contents, changes, left_out).encode(),
        "checksums.sha256": sums.encode(),
    }


def _to_be_read(contents: Contents, changes: list[Change], left_out: list[str]) -> str:
    lines = [
        f"{contents.project}, delivery {contents.delivery}"
        + (f", of cut {contents.cut}" if contents.cut is not None else ""),
        f"made by {contents.made_by}, {contents.made_at}",
        "",
    ]
    if changes:
        lines += ["Since the last one", *(f"  {c.text}" for c in changes), ""]
    for part, rows in contents.parts.items():
        lines.append(PARTS[part])
        for row in rows:
            said = ", ".join(f"{k} {v}" for k, v in row.facts.items())
            lines.append(f"  {row.path}{f': {said}' if said else ''}")
        lines.append("")
    if left_out:
        lines += ["Not in it", *(f"  {why}" for why in left_out)]
    return "\n".join(lines) + "\n"
