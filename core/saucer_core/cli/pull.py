"""``pull``: what is new in a project's feed, fetched into a folder."""

import json
import os
from pathlib import Path

import click

from ..errors import FileError
from ..formats.delivery import FeedFile
from ..formats.files import whole_text
from ..rendering.feed import fetch, fetch_list, is_address, sha256_of
from .shared import Answer, answering, told

#: What the folder knows of the last pull.
MARK = ".saucer-feed.json"


@click.command("pull")
@click.argument("address")
@click.argument("folder", type=click.Path(path_type=Path))
@click.option("--keep", is_flag=True, help="Keep files that are not in the feed any more.")
@answering
def command(address: str, folder: Path, keep: bool) -> Answer:
    """Fetch what is new of a project's feed into FOLDER, for a line in an editing room's crontab.

    Every file is fetched beside its place, compared with its checksum and then renamed: nobody finds half of
    one, and a fetch that broke off goes on where it stopped. A file that somebody changed by hand is kept
    beside the new one. Files that the feed does not have any more are removed where they are as they were
    fetched.
    """
    if not is_address(address):
        raise FileError(address, "is not the address of a feed: it begins with http:// or https://")
    folder.mkdir(parents=True, exist_ok=True)
    known = _known(folder)
    tag = known["etag"] if known.get("address") == address and _untouched(folder, known) else ""
    told("asking the feed")
    found = fetch_list(address, tag)
    if found is None:
        return {
            "folder": str(folder),
            "delivery": known["delivery"],
            "changed": 0,
            "new": [],
            "newer": [],
            "removed": [],
            "kept": [],
        }
    manifest = found.manifest
    before: dict[str, str] = known.get("files", {})
    said = {"new": [], "newer": [], "removed": [], "kept": []}  # type: dict[str, list[str]]
    for k, entry in enumerate(manifest.files, 1):
        told(f"{k} of {len(manifest.files)}: {entry.path}")
        _bring(folder, entry, before.get(entry.path), said)
    gone = [] if keep else [path for path in before if path not in {e.path for e in manifest.files}]
    for path in gone:
        _take_away(folder, path, before[path], said)
    told("")
    mark = {
        "address": address,
        "etag": found.tag,
        "delivery": manifest.delivery,
        "files": {e.path: e.sha256 for e in manifest.files},
    }
    whole_text(folder / MARK, json.dumps(mark, indent=1, ensure_ascii=False))
    changed = len(said["new"]) + len(said["newer"]) + len(said["removed"])
    notes = {"notes": manifest.changes} if manifest.changes else {}
    return {"folder": str(folder), "delivery": manifest.delivery, "changed": changed, **said, **notes}


def _known(folder: Path) -> Answer:
    try:
        found: Answer = json.loads((folder / MARK).read_text(encoding="utf-8"))
    except (FileNotFoundError, ValueError):
        return {}
    return found if isinstance(found.get("files"), dict) else {}


def _untouched(folder: Path, known: Answer) -> bool:
    return all((folder / path).is_file() for path in known["files"])


def _inside(folder: Path, path: str) -> Path:
    """A place in the folder. Raises ``FileError`` where a link leads out of it."""
    place = folder / path
    place.parent.mkdir(parents=True, exist_ok=True)
    if not place.parent.resolve().is_relative_to(folder.resolve()):
        raise FileError(str(place), "lies behind a link that leads out of the folder")
    return place


def _bring(folder: Path, entry: FeedFile, before: str | None, said: dict[str, list[str]]) -> None:
    place = _inside(folder, entry.path)
    here = sha256_of(place) if place.is_file() else ""
    if here == entry.sha256:
        return
    part = place.with_name(f".part-{entry.sha256[:16]}")
    fetch(entry, part)
    if here and here != before:
        # Somebody worked on it: both stay.
        kept = _free(place)
        os.replace(place, kept)
        said["kept"].append(str(kept.relative_to(folder)))
    os.replace(part, place)
    said["newer" if here else "new"].append(entry.path)


def _free(place: Path) -> Path:
    count = 1
    while (
        kept := place.with_name(f"{place.stem} kept{f' {count}' if count > 1 else ''}{place.suffix}")
    ).exists():
        count += 1
    return kept


def _take_away(folder: Path, path: str, sha: str, said: dict[str, list[str]]) -> None:
    place = folder / path
    if not place.is_file() or not place.parent.resolve().is_relative_to(folder.resolve()):
        return
    if sha256_of(place) != sha:
        said["kept"].append(path)
        return
    place.unlink()
    said["removed"].append(path)
    for above in place.relative_to(folder).parents:
        if str(above) != "." and not any((folder / above).iterdir()):
            (folder / above).rmdir()
