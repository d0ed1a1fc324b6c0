"""The list that stands in a pack that goes out."""

from typing import Literal

from pydantic import BaseModel, ConfigDict, Field


class _Listed(BaseModel):
    model_config = ConfigDict(frozen=True, validate_by_name=True, validate_by_alias=True)


class PackedFile(_Listed):
    """A file: its path in the pack, size in bytes, and checksum."""

    path: str
    bytes: int
    sha256: str


class PackedLook(_Listed):
    """A look as the list says it: what it is, and the paths of its files. left_out: in words, what it cannot
    be written as."""

    look: str
    revision: int
    status: str
    digest: str
    rights: str
    origin: str
    maker: str
    collection: str
    recipe: str
    files: tuple[str, ...]
    left_out: tuple[str, ...] = Field((), alias="left out", exclude_if=lambda words: not words)
    preview: str | None = Field(None, exclude_if=lambda path: path is None)


class Contents(_Listed):
    """The list, as it stands in the pack as ``contents.json``."""

    saucer_pack: Literal[1] = 1
    name: str
    made_by: str
    made_at: str
    collections: tuple[str, ...]
    looks: tuple[PackedLook, ...]
    files: tuple[PackedFile, ...]


def to_be_read(contents: Contents) -> str:
    """The contents for people, and checksums as ``sha256sum -c`` reads them."""
    lines = [contents.name, f"packed by {contents.made_by}, {contents.made_at}", "", "Looks"]
    for one in contents.looks:
        rights = one.rights or "not said"
        said = f"{one.look} r{one.revision}, {one.status}; may be passed on: {rights}; by {one.maker}"
        lines.append(f"  {said}")
        lines += [f"    not written: {why}" for why in one.left_out]
    lines += ["", "Checksums (SHA-256)"]
    lines += [f"{one.sha256}  {one.path}" for one in contents.files]
    return "\n".join(lines) + "\n"


#: What is said where this of a look is not what it was.
_SAID = {"status": "is", "rights": "may be passed on", "collection": "stands in"}


def changed(before: Contents | None, after: Contents) -> list[str]:
    """What is otherwise than in the last pack of the same name, in words; nothing where it is the first."""
    if before is None:
        return []
    was, now = ({one.look: one for one in contents.looks} for contents in (before, after))
    said = [f"{name} is new" for name in now if name not in was]
    said += [f"{name} is not in it any more" for name in was if name not in now]
    for name, one in now.items():
        old = was.get(name)
        if old is None:
            continue
        if old.digest != one.digest:
            said.append(f"{name}: r{old.revision} → r{one.revision}")
        for key, word in _SAID.items():
            then, this = getattr(old, key), getattr(one, key)
            if then != this:
                said.append(f"{name} {word} {this or 'nothing said'}, was {then or 'nothing said'}")
        if len(old.files) != len(one.files):
            said.append(f"{name}: {len(old.files)} → {len(one.files)} files")
    return said or ["nothing changed"]
