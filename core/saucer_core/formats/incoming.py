"""Files of any kind that hold looks, read as what they would be kept as, with what is known of them before
that.

A table becomes a look that wears it, a CDL list one look a correction, a carrier the table it brings, a
recipe the look in it.
"""

import re
from collections.abc import Iterable
from dataclasses import dataclass, field, replace
from pathlib import Path
from typing import Literal

from pydantic import ValidationError

from ..encodings import CameraEncoding, Encoding
from ..encodings.registry import forget
from ..errors import FileError, LookError
from ..look import Look, check, wearing
from ..readings.clipped import clipped
from ..readings.guess import Guess, guess, only
from ..steps import Tables
from ..steps.slope_offset_power import step_of
from ..tables.health import health
from ..tables.lut import Lut, Table
from . import carrier, cdl, clf, pictures, recipe, registry, xml

Kind = Literal["table", "correction", "carrier", "look", "preset"]
NAME_LIMIT = 120
#: What writers put where a format asks for a name and they have none.
_NO_NAMES = {"look", "lut", "untitled", "none"}
#: What tables are taken for before anybody says or guesses.
_TAKEN_FOR = "bt709_display"
#: How a Common LUT Format file says what it expects and gives; S-2014-006 v1.0, ProcessList.
_DESCRIPTOR = re.compile(r"<(Input|Output)Descriptor>\s*([^<]{1,200}?)\s*</")
_AS = {"Input": "Comes in as", "Output": "Goes out as"}


@dataclass(frozen=True)
class Incoming:
    """One look that a file brings.

    form: the kind of file and its size, in words. look: as it would be kept, with the guessed encodings.
    luts: the tables that it borrows, by digest. guess: ``None`` where the encodings are part of what the file
    holds. findings: what a person should know, the gravest first; serious: whether any of it speaks against
    relying on the look.
    """

    kind: Kind
    form: str
    name: str
    look: Look
    luts: dict[str, Table] = field(default_factory=dict)
    note: str = ""
    guess: Guess | None = None
    findings: tuple[str, ...] = ()
    serious: bool = False
    encodings: tuple[CameraEncoding, ...] = ()
    record: recipe.Record | None = None

    @property
    def tables(self) -> Tables:
        """The tables that came along."""
        return self.luts.get

    @property
    def table(self) -> Table | None:
        """The table that is the whole look, where it is one."""
        return next(iter(self.luts.values()), None) if self.kind in ("table", "carrier") else None

    def renamed(self, name: str) -> "Incoming":
        """The same under another name."""
        table = self.table
        if table is None:
            return replace(self, name=name)
        return replace(self, name=name, look=wearing(table.digest(), name, self.look.input, self.look.output))

    def read_as(self, expects: str, gives: str) -> "Incoming":
        """The same with other encodings; as it is where they are part of what the file holds."""
        table = self.table
        if self.kind == "correction":
            # A correction stays in the encoding that it is given.
            return replace(self, look=self.look.model_copy(update={"input": expects, "output": expects}))
        if table is None:
            return self
        return replace(self, look=wearing(table.digest(), self.name, expects, gives))


def suffixes() -> tuple[str, ...]:
    """The endings of files that can hold looks."""
    return (recipe.SUFFIX, *registry.readable(), *pictures.SUFFIXES)


def holds_looks(name: str) -> bool:
    """Whether a file of that name can hold looks."""
    return name.lower().endswith(suffixes())


def read(path: Path, name: str, cameras: Iterable[Encoding] = (), judged: bool = True) -> list[Incoming]:
    """Everything that a file brings. Raises ``FileError``.

    cameras: the team's encodings, for guesses. judged: with guesses and health; without them tables are taken
    for display tables.

    Encodings that a recipe brings are not left known to this process: see ``encodings.registry.known``.
    """
    lower = name.lower()
    if lower.endswith(recipe.SUFFIX):
        return [_recipe(path, name)]
    if lower.endswith(pictures.SUFFIXES):
        return [_carrier(path, name, cameras, judged)]
    if lower.endswith(cdl.SUFFIXES):
        return _corrections(path, name)
    if lower.endswith(".zip"):
        raise FileError(name, "is a pack inside a pack. Bring it in by itself")
    table = registry.read_table(path, name)
    words = [Path(name).stem, table.title, *table.comments]
    if lower.endswith(clf.SUFFIX):
        words += [
            f"{_AS[place]}: {said}"
            for place, said in _DESCRIPTOR.findall(xml.read_limited(path, name)[:8192])
        ]
    size = f"{table.size} × {table.size} × {table.size}" if table.size else "one curve a channel"
    return [
        _worn(
            "table",
            f"{Path(name).suffix.lower()}, {size}",
            _named(table.title, name),
            table,
            words,
            cameras,
            judged=judged,
        )
    ]


def _named(title: str, file_name: str) -> str:
    """A title, or the file's name where it has none, as the name of a look."""
    stem = (
        file_name[: -len(recipe.SUFFIX)]
        if file_name.lower().endswith(recipe.SUFFIX)
        else Path(file_name).stem
    )
    said = " ".join(title.split())
    return (
        (said if said.lower() not in _NO_NAMES else "")
        or " ".join(re.sub(r"[_\s]+", " ", stem).split())
        or "Untitled look"
    )[:NAME_LIMIT]


def _worn(
    kind: Kind,
    form: str,
    name: str,
    table: Table,
    words: list[str],
    cameras: Iterable[Encoding],
    said: tuple[str, ...] = (),
    *,
    judged: bool,
) -> Incoming:
    digest = table.digest()
    if not judged:
        return Incoming(
            kind, form, name, wearing(digest, name, _TAKEN_FOR, _TAKEN_FOR), {digest: table}, findings=said
        )
    likely = guess(table, words, cameras)
    look = wearing(digest, name, likely.expects, likely.gives)
    if kind == "carrier":
        # What is wrong with a carrier was measured on its picture.
        return Incoming(
            kind,
            form,
            name,
            look,
            {digest: table},
            guess=likely,
            findings=(*said, *_clips(look, table, digest)),
        )
    measured = health(table)
    findings = (*said, *_clips(look, table, digest), *measured.findings(clipping=False))
    return Incoming(
        kind, form, name, look, {digest: table}, guess=likely, findings=findings, serious=measured.serious()
    )


def _clips(look: Look, table: Table, digest: str) -> tuple[str, ...]:
    said = clipped(look, tables=only(table, digest)).words()
    return (said,) if said else ()


def _carrier(path: Path, name: str, cameras: Iterable[Encoding], judged: bool) -> Incoming:
    found = carrier.read(path, name)
    lut = found.smoothed or found.lut
    if found.verdict == "refuse" or lut is None or found.arrangement is None:
        raise FileError(name, "; ".join(found.reasons()) or "is no carrier")
    n = found.arrangement.grid
    said = found.reasons()
    if found.smoothed is not None:
        said.append(
            f"smoothed here, which changes colours by ΔE {found.change[0]:.2f}, {found.change[1]:.1f} at most"
        )
    words = [Path(name).stem]
    title = _named("", name)
    return _worn(
        "carrier",
        f"carrier, {n} × {n} × {n}",
        title,
        Lut(lut.grid, title=title),
        words,
        cameras,
        tuple(said),
        judged=judged,
    )


def _corrections(path: Path, name: str) -> list[Incoming]:
    found = cdl.corrections(xml.read_limited(path, name), name)
    brought = []
    for k, one in enumerate(found, 1):
        named = one.id.lower() not in _NO_NAMES and one.id
        title = _named(one.id, name) if named or len(found) == 1 else f"{_named('', name)} {k}"[:NAME_LIMIT]
        try:
            step = step_of(one.correction)
        except ValidationError as error:
            place = ".".join(str(part) for part in error.errors()[0]["loc"])
            raise FileError(
                name, f"correction {one.id or k}: {place} lies outside what a step takes"
            ) from None
        step = step.model_copy(update={"id": "correction"})
        form = Path(name).suffix.lower() + (f", {k} of {len(found)}" if len(found) > 1 else "")
        brought.append(Incoming("correction", form, title, Look(steps=[step]), note=one.description[:4000]))
    return brought


def _recipe(path: Path, name: str) -> Incoming:
    if path.stat().st_size > recipe.SIZE_LIMIT:
        raise FileError(name, f"larger than {recipe.SIZE_LIMIT // 2**20} MiB, the most a recipe may be")
    try:
        found = recipe.loads(path.read_text(encoding="utf-8"), name)
    except UnicodeDecodeError:
        raise FileError(name, "is not text in UTF-8") from None
    try:
        check(found.look)
    except LookError as error:
        raise FileError(name, str(error)) from None
    finally:
        for camera in found.encodings:
            forget(camera)
    missing = [s.name or "unnamed" for s in found.look.lut_steps() if s.table not in found.luts]
    said = tuple(f"the LUT “{title}” that it borrows is not in the file" for title in missing)
    if found.version != recipe.VERSION:
        said += (
            f"of recipe version {found.version}, brought up to {recipe.VERSION}: the colours are the same",
        )
    count = len(found.look.steps)
    kind: Kind = "preset" if found.preset else "look"
    form = "preset" if found.preset else f"recipe, {count} {'step' if count == 1 else 'steps'}"
    if found.record is not None and len(found.record.revisions) > 1:
        form += f", {len(found.record.revisions)} revisions"
    title = _named(found.name, name)
    return Incoming(
        kind,
        form,
        title,
        found.look,
        found.luts,
        found.note[:4000],
        None,
        said,
        bool(missing),
        found.encodings,
        found.record,
    )
