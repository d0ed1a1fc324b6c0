"""The process that reads one picture for Saucer; see ``child``."""

import json
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np
from numpy.typing import NDArray

from .. import alone
from ..pictures import PIXEL_LIMIT

#: Seconds after which the process is ended whatever it does; it ends itself earlier by its own limit of
#: computing time.
PATIENCE = 300
_CHILD = Path(__file__).with_name("child.py")


# JSON by nature: what a library says of a picture, which differs by kind.
Said = dict[str, Any]


@dataclass(frozen=True)
class Read:
    """What the process gave. pixels: ``(height, width, channels)``, on disk. said: JSON by nature, what the
    library told, by name. icc: the bytes of a colour profile, empty where there is none."""

    pixels: NDArray[Any]
    said: Said
    icc: bytes


def run(work: str, path: Path, name: str, folder: Path, **wish: object) -> Read:
    """Has a picture read. folder: an empty one, or that of an earlier run. Raises ``FileError``."""
    (folder / "wish.json").write_text(json.dumps({"path": str(path), "pixels": PIXEL_LIMIT, **wish}))
    alone.run(_CHILD, work, str(folder), path=path, name=name, what="a picture", patience=PATIENCE)
    icc = folder / "profile.icc"
    return Read(
        np.load(folder / "pixels.npy", mmap_mode="r"),
        json.loads((folder / "said.json").read_text(encoding="utf-8")),
        icc.read_bytes() if icc.exists() else b"",
    )
