"""Making a pack that goes out. Done by a worker.

At its top stand the recipes by collection, each whole: it comes into an empty Saucer without any loss. Under
``beside`` stands what other programs and eyes read: tables, previews, a contact sheet, lists with checksums.
"""

import hashlib
import json
import tempfile
import zipfile
from pathlib import Path
from typing import Any

from django.core.files import File
from django.core.files.storage import default_storage
from django.utils import timezone
from saucer_core.errors import LookError
from saucer_core.formats import recipe
from saucer_core.formats.pack import BESIDE, CONTENTS

from ..bakes.rules import FILE_KINDS, written
from ..bakes.rules import Order as BakeOrder
from ..bench import pictures
from ..catalogue import collecting
from ..fields import safe_name
from ..frames import rules as frames
from ..jobs.rules import Progress, running
from ..looks import rules as looks
from ..luts.rules import table
from ..people.rules import Person
from ..sheets.pages import WIDTH, Line, page
from .models import Outgoing
from .rules import members

PREVIEW = 640


def make(outgoing_id: int) -> None:
    """Makes the pack; whatever stops it leaves no file. May run again after a worker died."""
    row = Outgoing.objects.select_related("job", "made_by").get(pk=outgoing_id)

    def undo() -> None:
        if row.file:
            default_storage.delete(row.file)
        Outgoing.objects.filter(pk=row.pk).update(file="", bytes=0)

    with running(row.job_id, undo) as progress, tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "pack.zip"
        row.contents = _fill(row, path, progress)
        row.changes = changed(_last(row), row.contents)
        name = f"outgoing/{row.pk}-{hashlib.sha256(path.read_bytes()).hexdigest()[:16]}.zip"
        if not default_storage.exists(name):
            with path.open("rb") as f:
                name = default_storage.save(name, File(f))
        row.file, row.bytes = name, path.stat().st_size
        row.save(update_fields=["contents", "changes", "file", "bytes"])


def _last(row: Outgoing) -> dict[str, Any] | None:
    last = Outgoing.objects.filter(name=row.name, pk__lt=row.pk).exclude(file="").first()
    return last.contents if last else None


class _Package:
    """The ZIP while it is filled, and the list of what was put in."""

    def __init__(self, out: zipfile.ZipFile) -> None:
        self._out = out
        self.files: list[dict[str, Any]] = []
        self._names: set[str] = set()

    def free(self, folder: str, name: str, suffix: str) -> str:
        """A path that is not taken yet, whatever case the names are in."""
        for k in range(1, 10_000):
            path = "/".join(p for p in (folder, f"{name}{f' {k}' if k > 1 else ''}{suffix}") if p)
            if path.lower() not in self._names:
                self._names.add(path.lower())
                return path
        raise LookError(f"Too many looks are called {name}.")

    def put(self, path: str, data: bytes) -> dict[str, Any]:
        """Writes a file; gives its line in the list."""
        self._out.writestr(path, data)
        listed = {"path": path, "bytes": len(data), "sha256": hashlib.sha256(data).hexdigest()}
        self.files.append(listed)
        return listed


def record(look: looks.Look) -> recipe.Record:
    """All that goes with a look."""
    revisions = look.revisions.select_related("made_by").order_by("number")
    kept = tuple(
        recipe.Kept(
            r.number,
            looks.recipe_of(r),
            r.note,
            r.status,
            str(r.made_by),
            r.made_at.isoformat(timespec="seconds"),
        )
        for r in revisions
    )
    tags = tuple(t.name for t in look.tags.all())
    return recipe.Record(
        str(look.maker),
        look.rights,
        look.origin,
        tags,
        tuple(collecting.of_look(look)),
        kept[-recipe.REVISIONS :],
    )


def _fill(row: Outgoing, path: Path, progress: Progress) -> dict[str, Any]:
    there = members(row.collections, row.looks, row.made_by)
    progress.total(len(there) + 1)
    shown = [f for f in frames.every() if f.pk in row.frames] or [f for f in frames.every() if not f.chart][
        :4
    ]
    listed: list[dict[str, Any]] = []
    lines: list[Line] = []
    with zipfile.ZipFile(path, "w", zipfile.ZIP_DEFLATED, compresslevel=4) as out:
        package = _Package(out)
        for k, (folder, look) in enumerate(there):
            progress.at(k, look.name)
            listed.append(_look(package, row, folder, look, shown, lines))
        progress.at(len(there), "contact sheet and lists")
        about = f"{row.made_by}, {timezone.localtime(row.made_at):%d %B %Y}, {len(there)} looks"
        package.put(f"{BESIDE}/contact sheet.html", page(row.name, about, [f.name for f in shown], lines))
        contents = {
            "saucer_pack": 1,
            "name": row.name,
            "made_by": str(row.made_by),
            "made_at": row.made_at.isoformat(timespec="seconds"),
            "collections": row.collections,
            "looks": listed,
            "files": package.files,
        }
        out.writestr(f"{BESIDE}/contents.txt", _listing(contents))
        out.writestr(CONTENTS, json.dumps(contents, indent=1, ensure_ascii=False))
    return contents


def _look(
    package: _Package,
    row: Outgoing,
    folder: str,
    look: looks.Look,
    shown: list[frames.Frame],
    lines: list[Line],
) -> dict[str, Any]:
    revision = looks.latest(look)
    assert revision is not None
    look_recipe = looks.recipe_of(revision)
    base, inside = safe_name(look.name), safe_name(folder) if folder else ""
    text = recipe.dumps(look_recipe, name=look.name, note=look.note, tables=table, record=record(look))
    listed: dict[str, Any] = {
        "look": look.name,
        "revision": revision.number,
        "status": revision.status,
        "digest": revision.digest,
        "rights": look.rights,
        "origin": look.origin,
        "maker": str(look.maker),
        "collection": folder,
        "recipe": package.put(package.free(inside, base, recipe.SUFFIX), text.encode())["path"],
    }
    files, left_out = _files(package, row, look, revision, row.made_by, inside)
    listed |= {"files": files, **({"left out": left_out} if left_out else {})}
    if shown:
        still = pictures.still(look_recipe, revision.digest, shown[0], PREVIEW)
        listed["preview"] = package.put(package.free(f"{BESIDE}/previews", base, ".jpg"), still)["path"]
    words = ", ".join(pictures.words_of(look_recipe)[:3])
    cells: list[bytes | None] = [pictures.still(look_recipe, revision.digest, f, WIDTH) for f in shown]
    lines.append(
        Line(
            f"{look.name} r{revision.number}",
            words,
            look.rights or "rights not said",
            [folder] if folder else [],
            cells,
        )
    )
    return listed


def _files(
    package: _Package, row: Outgoing, look: looks.Look, revision: looks.Revision, person: Person, inside: str
) -> tuple[list[str], list[str]]:
    """Writes the chosen kinds; gives their paths, and in words what this look cannot be written as."""
    paths, left_out = [], []
    for kind in row.kinds:
        try:
            out = written(revision, person, BakeOrder((kind,), grid=row.grid, rights=look.rights))
        except LookError as error:
            left_out.append(str(error))
            continue
        name, suffix = out.names[kind].removesuffix(FILE_KINDS[kind].suffix), FILE_KINDS[kind].suffix
        folder = "/".join(p for p in (BESIDE, "files", inside) if p)
        paths.append(package.put(package.free(folder, name, suffix), out.files[kind])["path"])
    return paths, left_out


def _listing(contents: dict[str, Any]) -> str:
    """The contents for people, and checksums as ``sha256sum -c`` reads them."""
    lines = [contents["name"], f"packed by {contents['made_by']}, {contents['made_at']}", "", "Looks"]
    for one in contents["looks"]:
        rights = one["rights"] or "not said"
        lines.append(
            f"  {one['look']} r{one['revision']}, {one['status']}; may be passed on: {rights}; by "
            f"{one['maker']}"
        )
        lines += [f"    not written: {why}" for why in one.get("left out", [])]
    lines += ["", "Checksums (SHA-256)"]
    lines += [f"{one['sha256']}  {one['path']}" for one in contents["files"]]
    return "\n".join(lines) + "\n"


def changed(before: dict[str, Any] | None, after: dict[str, Any]) -> list[str]:
    """What is otherwise than in the last pack of the same name, in words; nothing where it is the first."""
    if before is None:
        return []
    was, now = ({one["look"]: one for one in contents["looks"]} for contents in (before, after))
    said = [f"{name} is new" for name in now if name not in was]
    said += [f"{name} is not in it any more" for name in was if name not in now]
    for name, one in now.items():
        old = was.get(name)
        if old is None:
            continue
        if old["digest"] != one["digest"]:
            said.append(f"{name}: r{old['revision']} → r{one['revision']}")
        for key, word in (("status", "is"), ("rights", "may be passed on"), ("collection", "stands in")):
            if old[key] != one[key]:
                said.append(f"{name} {word} {one[key] or 'nothing said'}, was {old[key] or 'nothing said'}")
        if len(old["files"]) != len(one["files"]):
            said.append(f"{name}: {len(old['files'])} → {len(one['files'])} files")
    return said or ["nothing changed"]
