"""Reading numbered sequences of pictures into clips. Done by a worker, before it looks the clip through."""

import hashlib
import tempfile
from dataclasses import dataclass
from pathlib import Path

from saucer_core.formats import sequences
from saucer_core.formats.sequences import Taken

from .. import storage
from ..jobs.rules import Progress
from .models import Clip

__all__ = ["Made", "is_sequence", "make"]


@dataclass(frozen=True)
class Made:
    """The clip that a sequence became. file: where it is kept; digest: SHA-256 of its bytes."""

    file: str
    digest: str
    bytes: int
    taken: Taken


def is_sequence(clip: Clip) -> bool:
    """Whether what was brought is a ZIP of pictures that no clip was made of yet."""
    return clip.file.endswith(sequences.SUFFIX)


def make(clip: Clip, progress: Progress) -> Made:
    """Makes the clip of a sequence and keeps its file; the row is not changed. Raises ``FileError``."""

    def tell(done: int, of: int) -> None:
        if done == 1:
            progress.total(of)
        if done == of or done % 6 == 0:
            progress.at(done, f"picture {done}")

    with tempfile.TemporaryDirectory() as folder, storage.on_disk(clip.file) as source:
        path = Path(folder) / "clip.mkv"
        taken = sequences.to_clip(
            source,
            path,
            name=clip.file_name,
            rate=clip.rate or sequences.USUAL_RATE,
            read_as=clip.encoding,
            tell=tell,
        )
        with path.open("rb") as f:
            digest = hashlib.file_digest(f, "sha256").hexdigest()
            f.seek(0)
            kept = storage.put_file(f"clips/{digest[:2]}/{digest}{path.suffix}", f)
        return Made(kept, digest, path.stat().st_size, taken)
