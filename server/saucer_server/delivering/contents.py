"""What stands in a delivery once it is made: the list for programs, the one for people, and checksums."""

import json

from pydantic import BaseModel, ConfigDict, TypeAdapter
from saucer_core.formats.delivery import CONTENTS, Contents

from .plan import PARTS


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
        CONTENTS: json.dumps(plain, indent=1, ensure_ascii=False).encode(),
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
