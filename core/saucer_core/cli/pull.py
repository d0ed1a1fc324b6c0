"""``pull``: what is new in a project's feed, fetched into a folder."""

import hashlib
import http.client
import json
import os
import urllib.error
import urllib.request
from dataclasses import dataclass
from pathlib import Path, PurePosixPath
from typing import Any
from urllib.parse import urljoin, urlsplit

import click

from ..errors import FileError
from ..formats.files import whole_text
from .shared import Answer, answering, told

#: What the folder knows of the last pull.
MARK = ".saucer-feed.json"
#: Seconds that an answer may take.
TIMEOUT = 60
#: Bytes that are read at once.
PIECE = 2**20
#: Times that a request is tried.
TRIES = 4
#: Files that one delivery may list.
FILES = 100_000
MANIFEST_LIMIT = 64 * 2**20


@dataclass(frozen=True)
class Entry:
    """A file of the feed: its place in the folder, its checksum and size, and where it is fetched."""

    path: str
    sha256: str
    bytes: int
    address: str


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
    if urlsplit(address).scheme not in ("http", "https"):
        raise FileError(address, "is not the address of a feed: it begins with http:// or https://")
    folder.mkdir(parents=True, exist_ok=True)
    known = _known(folder)
    tag = known["etag"] if known.get("address") == address and _untouched(folder, known) else ""
    told("asking the feed")
    found = _manifest(address, tag)
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
    manifest, etag = found
    entries = _entries(manifest, address)
    before: dict[str, str] = known.get("files", {})
    said = {"new": [], "newer": [], "removed": [], "kept": []}  # type: dict[str, list[str]]
    for k, entry in enumerate(entries, 1):
        told(f"{k} of {len(entries)}: {entry.path}")
        _bring(folder, entry, before.get(entry.path), said)
    gone = [] if keep else [path for path in before if path not in {e.path for e in entries}]
    for path in gone:
        _take_away(folder, path, before[path], said)
    told("")
    mark = {
        "address": address,
        "etag": etag,
        "delivery": manifest["delivery"],
        "files": {e.path: e.sha256 for e in entries},
    }
    whole_text(folder / MARK, json.dumps(mark, indent=1, ensure_ascii=False))
    changed = len(said["new"]) + len(said["newer"]) + len(said["removed"])
    notes = {"notes": manifest["changes"]} if manifest.get("changes") else {}
    return {"folder": str(folder), "delivery": manifest["delivery"], "changed": changed, **said, **notes}


def _known(folder: Path) -> Answer:
    try:
        found: Answer = json.loads((folder / MARK).read_text(encoding="utf-8"))
    except (FileNotFoundError, ValueError):
        return {}
    return found if isinstance(found.get("files"), dict) else {}


def _untouched(folder: Path, known: Answer) -> bool:
    return all((folder / path).is_file() for path in known["files"])


def _asked(address: str, headers: dict[str, str]) -> Any:
    request = urllib.request.Request(address, headers={"User-Agent": "saucer-pull", **headers})
    try:
        return urllib.request.urlopen(request, timeout=TIMEOUT)
    except urllib.error.HTTPError as error:
        if error.code == 304:
            return None
        why = {
            401: "the token is not known, has ended or was taken back",
            404: "there is nothing at this address, or nothing is delivered yet",
        }
        raise FileError(_public(address), why.get(error.code, f"the server answers {error.code}")) from None
    except (urllib.error.URLError, OSError) as error:
        raise FileError(_public(address), f"cannot be reached ({getattr(error, 'reason', error)})") from None


def _public(address: str) -> str:
    """The address without what lets people in."""
    parts = urlsplit(address)
    return f"{parts.scheme}://{parts.hostname}{':' + str(parts.port) if parts.port else ''}/…"


def _manifest(address: str, tag: str) -> tuple[Answer, str] | None:
    answer = _asked(address, {"If-None-Match": tag} if tag else {})
    if answer is None:
        return None
    with answer:
        data = answer.read(MANIFEST_LIMIT + 1)
        etag = answer.headers.get("ETag", "")
    try:
        found: Answer = json.loads(data)
        assert isinstance(found["files"], list)
        assert isinstance(found["delivery"], int)
    except (ValueError, KeyError, AssertionError, TypeError):
        raise FileError(_public(address), "is not a feed of Saucer") from None
    return found, etag


def _entries(manifest: Answer, address: str) -> list[Entry]:
    """The files of a feed. Raises ``FileError`` where one would land outside the folder, or twice at one
    place."""
    found: list[Entry] = []
    taken: set[str] = set()
    for one in manifest["files"][:FILES]:
        try:
            path, sha, size, where = (
                str(one["path"]),
                str(one["sha256"]),
                int(one["bytes"]),
                urljoin(address, str(one["address"])),
            )
        except (KeyError, TypeError, ValueError):
            raise FileError(_public(address), "names a file without saying all of it") from None
        parts = PurePosixPath(path).parts
        bad = (
            not parts
            or path.startswith("/")
            or "\\" in path
            or ":" in path
            or any(p in ("..", ".") or p.startswith(".") for p in parts)
        )
        if bad or "\0" in path:
            raise FileError(path[:120], "would land outside the folder: nothing was fetched")
        if path.lower() in taken:
            raise FileError(path[:120], "is in the feed twice: nothing was fetched")
        if urlsplit(where)[:2] != urlsplit(address)[:2]:
            raise FileError(
                path[:120], "is to be fetched from somewhere else than the feed: nothing was fetched"
            )
        taken.add(path.lower())
        found.append(Entry(path, sha, size, where))
    return found


def _sha(path: Path) -> str:
    with path.open("rb") as f:
        return hashlib.file_digest(f, "sha256").hexdigest()


def _inside(folder: Path, path: str) -> Path:
    """A place in the folder. Raises ``FileError`` where a link leads out of it."""
    place = folder / path
    place.parent.mkdir(parents=True, exist_ok=True)
    if not place.parent.resolve().is_relative_to(folder.resolve()):
        raise FileError(str(place), "lies behind a link that leads out of the folder")
    return place


def _bring(folder: Path, entry: Entry, before: str | None, said: dict[str, list[str]]) -> None:
    place = _inside(folder, entry.path)
    here = _sha(place) if place.is_file() else ""
    if here == entry.sha256:
        return
    part = place.with_name(f".part-{entry.sha256[:16]}")
    _fetch(entry, part)
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


def _fetch(entry: Entry, part: Path) -> None:
    for attempt in range(TRIES):
        have = part.stat().st_size if part.exists() else 0
        if have > entry.bytes:
            part.unlink()
            have = 0
        if have < entry.bytes or not entry.bytes:
            try:
                _more(entry, part, have)
            except (http.client.HTTPException, TimeoutError, ConnectionError):
                if attempt == TRIES - 1:
                    raise FileError(
                        entry.path, "breaks off again and again; what came stays, the next pull goes on"
                    ) from None
                continue
        if part.stat().st_size == entry.bytes and _sha(part) == entry.sha256:
            return
        if part.stat().st_size >= entry.bytes:
            part.unlink()
    raise FileError(entry.path, "does not have the checksum that the feed says: not taken")


def _more(entry: Entry, part: Path, have: int) -> None:
    answer = _asked(entry.address, {"Range": f"bytes={have}-"} if have else {})
    with answer, part.open("ab" if have and answer.status == 206 else "wb") as out:
        while piece := answer.read(PIECE):
            out.write(piece)
            if out.tell() > entry.bytes:
                break


def _take_away(folder: Path, path: str, sha: str, said: dict[str, list[str]]) -> None:
    place = folder / path
    if not place.is_file() or not place.parent.resolve().is_relative_to(folder.resolve()):
        return
    if _sha(place) != sha:
        said["kept"].append(path)
        return
    place.unlink()
    said["removed"].append(path)
    for above in place.relative_to(folder).parents:
        if str(above) != "." and not any((folder / above).iterdir()):
            (folder / above).rmdir()
