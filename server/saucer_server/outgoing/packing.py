"""Making a pack that goes out. Done by a worker.

At its top stand the recipes by collection, each whole: it comes into an empty Saucer without any loss. Under
``beside`` stands what other programs and eyes read: tables, previews, a contact sheet, lists with checksums.
"""

import hashlib
import tempfile
import zipfile
from pathlib import Path

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
from .contents import Contents, PackedFile, PackedLook, changed, to_be_read
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


def _last(row: Outgoing) -> Contents | None:
    last = Outgoing.objects.filter(name=row.name, pk__lt=row.pk).exclude(file="").first()
    return last.contents if last else None


class _Package:
    """The ZIP while it is filled, and the list of what was put in."""

    def __init__(self, out: zipfile.ZipFile) -> None:
        self._out = out
        self.files: list[PackedFile] = []
        self._names: set[str] = set()

    def free(self, folder: str, name: str, suffix: str) -> str:
        """A path that is not taken yet, whatever case the names are in."""
        for k in range(1, 10_000):
            path = "/".join(p for p in (folder, f"{name}{f' {k}' if k > 1 else ''}{suffix}") if p)
            if path.lower() not in self._names:
                self._names.add(path.lower())
                return path
        raise LookError(f"Too many looks are called {name}.")

    def put(self, path: str, data: bytes) -> str:
        """Writes a file; gives its path."""
        self._out.writestr(path, data)
        self.files.append(PackedFile(path=path, bytes=len(data), sha256=hashlib.sha256(data).hexdigest()))
        return path


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


def _fill(row: Outgoing, path: Path, progress: Progress) -> Contents:
    there = members(row.collections, row.looks, row.made_by)
    progress.total(len(there) + 1)
    shown = [f for f in frames.every() if f.pk in row.frames] or [f for f in frames.every() if not f.chart][
        :4
    ]
    listed: list[PackedLook] = []
    lines: list[Line] = []
    with zipfile.ZipFile(path, "w", zipfile.ZIP_DEFLATED, compresslevel=4) as out:
        package = _Package(out)
        for k, (folder, look) in enumerate(there):
            progress.at(k, look.name)
            listed.append(_look(package, row, folder, look, shown, lines))
        progress.at(len(there), "contact sheet and lists")
        about = f"{row.made_by}, {timezone.localtime(row.made_at):%d %B %Y}, {len(there)} looks"
        package.put(f"{BESIDE}/contact sheet.html", page(row.name, about, [f.name for f in shown], lines))
        contents = Contents(
            name=row.name,
            made_by=str(row.made_by),
            made_at=row.made_at.isoformat(timespec="seconds"),
            collections=tuple(row.collections),
            looks=tuple(listed),
            files=tuple(package.files),
        )
        out.writestr(f"{BESIDE}/contents.txt", to_be_read(contents))
        out.writestr(CONTENTS, contents.model_dump_json(indent=1, by_alias=True))
    return contents


def _look(
    package: _Package,
    row: Outgoing,
    folder: str,
    look: looks.Look,
    shown: list[frames.Frame],
    lines: list[Line],
) -> PackedLook:
    revision = looks.latest(look)
    assert revision is not None
    look_recipe = looks.recipe_of(revision)
    base, inside = safe_name(look.name), safe_name(folder) if folder else ""
    text = recipe.dumps(look_recipe, name=look.name, note=look.note, tables=table, record=record(look))
    recipe_path = package.put(package.free(inside, base, recipe.SUFFIX), text.encode())
    files, left_out = _files(package, row, look, revision, row.made_by, inside)
    preview = None
    if shown:
        still = pictures.still(look_recipe, revision.digest, shown[0], PREVIEW)
        preview = package.put(package.free(f"{BESIDE}/previews", base, ".jpg"), still)
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
    return PackedLook(
        look=look.name,
        revision=revision.number,
        status=revision.status,
        digest=revision.digest,
        rights=look.rights,
        origin=look.origin,
        maker=str(look.maker),
        collection=folder,
        recipe=recipe_path,
        files=tuple(files),
        left_out=tuple(left_out),
        preview=preview,
    )


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
        paths.append(package.put(package.free(folder, name, suffix), out.files[kind]))
    return paths, left_out
