"""Looking a picture file through: all that a frame says of its file, and where the file is kept."""

import hashlib
import tempfile
from dataclasses import dataclass
from pathlib import Path

from saucer_core.arrays import F32
from saucer_core.encodings import Encoding, encoding
from saucer_core.encodings.code_range import suspicion
from saucer_core.errors import FileError
from saucer_core.formats import pictures
from saucer_core.formats.developing import develop
from saucer_core.formats.developing.result import Developed, Wish
from saucer_core.readings import subject
from saucer_core.readings.picture_guess import PictureGuess, guess_picture

from .. import storage
from .values import Known, RawSaid, ShownPart

#: Pixels a side at which a picture is searched for raised blacks: scaling keeps its black and white.
COUNTED = 960
#: By whom an encoding is said that no file declares.
SAID = "said by who brought it"
#: Depths of files that hold numbers beyond 0–1.
_FLOATING = ("half float", "32-bit float")


@dataclass(frozen=True)
class Seen:
    """A file that was looked through. small: its codes, at most ``COUNTED`` a side. guess: what it is in, for
    sure where the file declares it, else guessed from its pixels. tag: see ``tag_of``."""

    known: Known
    small: F32
    guess: PictureGuess
    tag: str


def look_through(path: Path, file_name: str, encoding_key: str = "", wish: Wish | None = None) -> Seen:
    """Looks a picture file through and keeps it; develops it first where it is of a kind that must be.

    encoding_key: what somebody says it is in, else what it declares, else what is usual for its kind. Raises
    ``FileError``; nothing is kept then.
    """
    if path.stat().st_size > pictures.SIZE_LIMIT:
        raise FileError(
            file_name, f"larger than {pictures.SIZE_LIMIT // 2**20} MiB, the most a picture may be"
        )
    with tempfile.TemporaryDirectory(dir=storage.arriving()) as folder:
        made = None
        if (wish and wish.part) or develop.why(path, file_name):
            made = develop.develop(path, file_name, Path(folder), wish)
        return _kept(path, file_name, encoding_key, made)


def _kept(path: Path, file_name: str, encoding_key: str, made: Developed | None) -> Seen:
    read = made.path if made else path
    with pictures.opened(read, made.path.name if made else file_name) as source:
        small, facts, tag = source.within(COUNTED), made.facts if made else source.facts, tag_of(source)
    at = encoding(encoding_key or facts.encoding)
    came, original = _store(path, Path(file_name).suffix) if made else ("", "")
    digest, file = _store(read, read.suffix if made else Path(file_name).suffix)
    middle = subject.subject(pictures.fit(small, subject.WIDTH, subject.WIDTH), at.key)
    raw = made.raw if made else None
    known = Known(
        encoding=at.key,
        encoding_by=SAID if encoding_key else facts.taken_from[:200],
        digest=digest,
        file=file,
        came=came or digest,
        original=original,
        file_name=Path(file_name).name[:200],
        bytes=path.stat().st_size + (read.stat().st_size if made else 0),
        kind=facts.kind,
        depth=facts.depth,
        width=facts.width,
        height=facts.height,
        doubt=_doubt(small, at),
        unread=list(facts.unread),
        notes=list(made.notes) if made else [],
        parts=list(facts.parts),
        part=ShownPart(x=middle.x, y=middle.y),
        part_by=middle.by,
        raw=RawSaid.of(raw) if raw else None,
    )
    return Seen(known, small, _guess(facts, small), tag)


def tag_of(source: pictures.Source) -> str:
    """What a file says of itself, in one line: its colour profile and the words of its tags."""
    said = " ".join(str(value) for _, value in source.tags if isinstance(value, str))
    return f"{source.facts.profile} {said}".strip()


def _guess(facts: pictures.PictureFacts, small: F32) -> PictureGuess:
    if facts.declared:
        return PictureGuess(facts.declared, 1.0, facts.declared_by)
    return guess_picture(small, facts.encoding, facts.depth in _FLOATING)


def _store(path: Path, suffix: str) -> tuple[str, str]:
    """Keeps a file under its digest; gives that and its name."""
    with path.open("rb") as f:
        digest = hashlib.file_digest(f, "sha256").hexdigest()
        f.seek(0)
        return digest, storage.put_file(f"frames/{digest[:2]}/{digest}{suffix.lower()}", f)


def _doubt(small: F32, at: Encoding) -> str:
    """Why a picture that is read as full range was probably recorded in narrow range. Log and light have no
    black to tell by."""
    why = suspicion(small, "full") if at.response == "display" else ""
    return f"{why[:1].upper()}{why[1:]}. Export it again in full range." if why else ""
