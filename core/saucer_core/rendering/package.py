"""The newest delivery of a project as the render room takes it: its list, and its files."""

import os
from dataclasses import dataclass
from pathlib import Path

from pydantic import ValidationError

from ..encodings import define
from ..errors import FileError
from ..formats.delivery import CONTENTS, Contents, FeedFile
from .feed import fetch, fetch_list, is_address, is_inside, sha256_of


@dataclass(frozen=True)
class Files:
    """The files of a delivery, by their paths in the package. folder: where they lie, or are kept once they
    are fetched; files that lie there already have no address."""

    folder: Path
    listed: dict[str, FeedFile]

    def place_of(self, path: str) -> Path:
        """Where a file lies; fetched where need be, and compared with its checksum. Raises ``FileError``."""
        known = self.listed.get(path)
        if known is None:
            raise FileError(path, "is named by the delivery's list, and is not in the delivery")
        place = self.folder / path
        if place.is_file() and sha256_of(place) == known.sha256:
            return place
        if not known.address:
            raise FileError(path, "is missing or damaged. Take the delivery once more")
        place.parent.mkdir(parents=True, exist_ok=True)
        # Two render rooms may fetch the same file at once.
        part = place.with_name(f".part-{os.getpid()}-{known.sha256[:16]}")
        fetch(known, part)
        os.replace(part, place)
        return place


@dataclass(frozen=True)
class Package:
    """A delivery: its list and its files."""

    contents: Contents
    files: Files


def opened(where: str, folder: Path) -> Package:
    """The delivery that a feed has to give, or one that was taken into a folder. where: the feed's address,
    or that folder. folder: where what is fetched is kept. Raises ``FileError``."""
    if not is_address(where):
        return _taken(Path(where))
    found = fetch_list(where)
    assert found is not None, "nothing is known of the feed before"
    folder.mkdir(parents=True, exist_ok=True)
    files = Files(folder, {one.path: one for one in found.manifest.files})
    return Package(_read(files.place_of(CONTENTS)), files)


def _taken(folder: Path) -> Package:
    place = folder / CONTENTS
    if not place.is_file():
        raise FileError(
            str(folder),
            f"holds no {CONTENTS}. Name the address of a feed, or the folder of a delivery that was taken",
        )
    contents = _read(place)
    listed = {
        one.path: FeedFile(**one.model_dump(), address="") for one in contents.files if is_inside(one.path)
    }
    return Package(contents, Files(folder, listed))


def _read(path: Path) -> Contents:
    """The list of a delivery; the encodings of its team are made known."""
    try:
        contents = Contents.model_validate_json(path.read_bytes())
        for camera in contents.cameras:
            define(camera)
        return contents
    except ValidationError as error:
        first = error.errors()[0]
        where = " ".join(str(part) for part in first["loc"])
        raise FileError(path.name, f"is not the list of a delivery ({where}: {first['msg']})"[:200]) from None
