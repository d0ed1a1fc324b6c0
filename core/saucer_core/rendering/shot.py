"""Rendering one shot: a clip, numbered pictures, or a still."""

import hashlib
import json
import shutil
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path

from ..encodings import Encoding, encoding
from ..errors import FileError
from ..formats import pictures
from ..formats.clip_index import indexed
from ..formats.clip_kinds import ClipKind
from ..formats.clip_writing import ClipWork, render
from ..formats.delivery import ListedShot, ListedSource
from ..formats.developing import develop
from ..formats.developing.result import Balance, Wish
from ..formats.picture_kinds import depth_for
from ..formats.pictures import PictureFacts
from .feed import sha256_of
from .footage import Clip, Footage, Part, Run, part_of, still_of
from .records import Record, Records
from .way import Way


@dataclass(frozen=True)
class Wanted:
    """How shots are rendered. kind: of clips, see ``CLIP_KINDS``. suffix, depth: of pictures, empty and
    ``None`` for those of the footage. handles: frames more at each end. finish: with the finishes of the
    looks. out: the encoding to go out in, empty for the first of each shot."""

    kind: ClipKind
    suffix: str = ""
    depth: str | None = None
    handles: int = 0
    finish: bool = True
    out: str = ""


@dataclass(frozen=True)
class Found:
    """The footage of a shot: the frames that it uses, or a still. key: what it is made from, with all that is
    done to it. target: what is made, in the folder: a file, or a folder of numbered pictures."""

    shot: ListedShot
    way: Way
    of: Part | Path
    key: str
    target: Path

    @property
    def source(self) -> Path:
        """The footage's file; the first one of numbered pictures."""
        if isinstance(self.of, Path):
            return self.of
        return self.of.of.path if isinstance(self.of.of, Clip) else self.of.of.files[self.of.of.first]


def find(footage: Footage, shot: ListedShot, way: Way, wanted: Wanted, folder: Path, name: str) -> Found:
    """The footage of a shot, and what is to be made of it. name: of what is made, without an ending. Raises
    ``FileError`` where none is sure."""
    source = shot.source
    if source is None:
        raise FileError(shot.label, "its delivery is of an older Saucer, which does not say its footage")
    of = part_of(footage, source).with_handles(wanted.handles) if source.rate else still_of(footage, source)
    made_of = [*way.made_of, *_stamp(of), str(source.balance)]
    if isinstance(of, Path):
        suffix = wanted.suffix or Path(develop.written_name(of.name)).suffix
        target = folder / f"{name}{suffix}"
        made_of += [suffix, str(wanted.depth)]
    elif isinstance(of.of, Run):
        suffix = wanted.suffix or Path(develop.written_name(of.of.files[of.of.first].name)).suffix
        target = folder / name
        made_of += [suffix, str(wanted.depth)]
    else:
        target = folder / f"{name}{wanted.kind.suffix}"
        made_of.append(wanted.kind.key)
    key = hashlib.sha256(json.dumps(made_of).encode()).hexdigest()[:32]
    return Found(shot, way, of, key, target)


def _stamp(of: Part | Path) -> list[str]:
    """What tells the footage from footage that was replaced: names, sizes and times of its files."""
    if isinstance(of, Path):
        return [_said(of)]
    if isinstance(of.of, Clip):
        return [_said(of.of.path), str(of.first), str(of.last)]
    files = [of.of.files[n] for n in range(of.first, of.last + 1) if n in of.of.files]
    return [str(of.first), str(of.last), *(_said(path) for path in files)]


def _said(path: Path) -> str:
    found = path.stat()
    return f"{path.name} {found.st_size} {found.st_mtime_ns}"


def make(found: Found, wanted: Wanted, records: Records, tell: Callable[[str], None]) -> Record:
    """Renders a shot and keeps its record; what is made takes its name once all of it is whole. What was
    begun with the same key is gone on with. Raises ``FileError``."""
    working = records.parts(found.key)
    working.mkdir(parents=True, exist_ok=True)
    of = found.of
    first = last = 0
    if isinstance(of, Path):
        made, doubts = _still(found, of, wanted, working, tell)
    elif isinstance(of.of, Run):
        made, doubts = _run(found, of, of.of, wanted, working, tell)
        first, last = of.first, of.last
    else:
        made, doubts = _clip(found, of, of.of, wanted, working, tell)
        first, last = of.first, of.last
    record = Record(
        key=found.key,
        number=found.shot.number,
        label=found.shot.label,
        source=str(found.source),
        first=first,
        last=last,
        encoding=found.way.end.key,
        files=records.measured(made, found.target),
        doubts=tuple(doubts),
    )
    records.put(made, found.target, record)
    shutil.rmtree(working, ignore_errors=True)
    return record


def _clip(
    found: Found, part: Part, clip: Clip, wanted: Wanted, working: Path, tell: Callable[[str], None]
) -> tuple[Path, list[str]]:
    looked = indexed(clip.path)
    if part.last >= looked.facts.frames:
        raise FileError(clip.path.name, f"has {looked.facts.frames} frames, where its head says more")
    operations = found.way.of_clip(looked.facts)
    work = ClipWork(
        clip.path, looked, part.first, part.last, operations, found.way.end, wanted.kind, found.way.finish
    )
    made = working / f"clip{wanted.kind.suffix}"
    count = part.last - part.first + 1
    left = render(work, working / "lengths", made, lambda done, _: tell(f"frame {done} of {count}"))
    doubts = [*part.doubts, *(f"left out: {what}" for what in left)]
    said = looked.facts.encoding
    if said and said != found.way.source.key:
        doubts.append(
            f"declares {encoding(said).label}; it is read as {found.way.source.label}, as it was looked at"
        )
    return made, doubts


def _run(
    found: Found, part: Part, run: Run, wanted: Wanted, working: Path, tell: Callable[[str], None]
) -> tuple[Path, list[str]]:
    numbers = range(part.first, part.last + 1)
    missing = [str(n) for n in numbers if n not in run.files]
    if missing:
        more = f" and {len(missing) - 5} more" if len(missing) > 5 else ""
        raise FileError(run.name, f"has no picture for number {', '.join(missing[:5])}{more}")
    made = working / "pictures"
    made.mkdir(exist_ok=True)
    doubts: dict[str, None] = dict.fromkeys(part.doubts)
    for number in numbers:
        tell(f"picture {number} of {part.first} to {part.last}")
        source = run.files[number]
        suffix = wanted.suffix or Path(develop.written_name(source.name)).suffix
        target = made / f"{found.target.name}.{number:07d}{suffix}"
        if not target.exists():
            doubts |= dict.fromkeys(_picture(found, source, target, wanted, None, number - run.first))
    return made, list(doubts)


def _still(
    found: Found, path: Path, wanted: Wanted, working: Path, tell: Callable[[str], None]
) -> tuple[Path, list[str]]:
    tell(path.name)
    source = found.shot.source
    assert source is not None, "the still was found by it"
    made = working / f"still{found.target.suffix}"
    doubts = _picture(found, path, made, wanted, source, None)
    if source.sha256 and sha256_of(path) != source.sha256:
        doubts.append("is another file than the one that was looked at")
    return made, doubts


def _picture(
    found: Found, path: Path, target: Path, wanted: Wanted, source: ListedSource | None, number: int | None
) -> list[str]:
    """Writes a picture. number: of a frame, from 0; nothing for a still. Gives what is doubtful or was left
    out, in words."""
    way = found.way
    wish = Wish(balance=Balance(*source.balance) if source is not None and source.balance else None)
    with develop.opened(path, wish=wish) as picture:
        held, doubts = _held(picture.facts, way.source)
        depth = depth_for(target.name, wanted.depth, picture.facts.depth)
        ends = way.finish
        then = (lambda rgb: ends(rgb, number)) if ends is not None else None
        left = pictures.through(
            picture, target, way.of_picture(held), depth, then=then, before=held, at=way.end
        )
    return [*doubts, *(f"left out: {what}" for what in left)]


def _held(facts: PictureFacts, source: Encoding) -> tuple[Encoding, list[str]]:
    """The encoding that a picture is taken for: the one that its shot is read as; but for light, which is
    kept in a log where it is brought in."""
    said = encoding(facts.encoding)
    if said == source or (not facts.declared and said.response != "linear"):
        return source, []
    if said.response == "linear" and source.response != "linear":
        return said, []
    return source, [f"declares {said.label}; it is read as {source.label}, as it was looked at"]
