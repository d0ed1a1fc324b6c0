"""A project's feed, as a program elsewhere fetches it: its list, and its files, each with its checksum."""

import hashlib
import http.client
import urllib.error
import urllib.request
from dataclasses import dataclass
from pathlib import Path, PurePosixPath
from typing import Any
from urllib.parse import urljoin, urlsplit

from pydantic import ValidationError

from ..errors import FileError
from ..formats.delivery import FeedFile, Manifest

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
class Fetched:
    """What a feed lists: the list, with absolute addresses, and the tag by which it is known again."""

    manifest: Manifest
    tag: str


def is_address(text: str) -> bool:
    """Whether a text is an address of the web."""
    return urlsplit(text).scheme in ("http", "https")


def fetch_list(address: str, tag: str = "") -> Fetched | None:
    """What a feed lists; ``None`` where it is still the one of ``tag``. Raises ``FileError``, also where a
    file would land outside a folder, twice at one place, or is to be fetched from elsewhere."""
    answer = _asked(address, {"If-None-Match": tag} if tag else {})
    if answer is None:
        return None
    with answer:
        data = answer.read(MANIFEST_LIMIT + 1)
        etag = answer.headers.get("ETag", "")
    try:
        found = Manifest.model_validate_json(data)
    except ValidationError as error:
        raise FileError(public(address), f"is not a feed of Saucer ({_where(error)})") from None
    return Fetched(found.model_copy(update={"files": _checked(found.files, address)}), etag)


def _where(error: ValidationError) -> str:
    """What of a list is wrong, in a few words."""
    first = error.errors()[0]
    return f"{' '.join(str(part) for part in first['loc']) or 'its data'}: {first['msg']}"[:120]


def _checked(files: list[FeedFile], address: str) -> list[FeedFile]:
    taken: set[str] = set()
    found: list[FeedFile] = []
    for one in files[:FILES]:
        if not is_inside(one.path):
            raise FileError(one.path[:120], "would land outside the folder: nothing was fetched")
        if one.path.lower() in taken:
            raise FileError(one.path[:120], "is in the feed twice: nothing was fetched")
        where = urljoin(address, one.address)
        if urlsplit(where)[:2] != urlsplit(address)[:2]:
            raise FileError(
                one.path[:120], "is to be fetched from somewhere else than the feed: nothing was fetched"
            )
        taken.add(one.path.lower())
        found.append(one.model_copy(update={"address": where}))
    return found


def is_inside(path: str) -> bool:
    """Whether a path of a package stays in its folder, and is no hidden file."""
    parts = PurePosixPath(path).parts
    return (
        bool(parts)
        and not path.startswith("/")
        and not any(mark in path for mark in "\\:\0")
        and not any(part.startswith(".") for part in parts)
    )


def public(address: str) -> str:
    """The address without the token, which lets people in."""
    parts = urlsplit(address)
    return f"{parts.scheme}://{parts.hostname}{':' + str(parts.port) if parts.port else ''}/…"


def _asked(address: str, headers: dict[str, str]) -> Any:
    request = urllib.request.Request(address, headers={"User-Agent": "saucer-core", **headers})
    try:
        return urllib.request.urlopen(request, timeout=TIMEOUT)
    except urllib.error.HTTPError as error:
        if error.code == 304:
            return None
        why = {
            401: "the token is not known, has ended or was taken back",
            404: "there is nothing at this address, or nothing is delivered yet",
        }
        raise FileError(public(address), why.get(error.code, f"the server answers {error.code}")) from None
    except (urllib.error.URLError, OSError) as error:
        raise FileError(public(address), f"cannot be reached ({getattr(error, 'reason', error)})") from None


def sha256_of(path: Path) -> str:
    """The checksum of a file."""
    with path.open("rb") as file:
        return hashlib.file_digest(file, "sha256").hexdigest()


def fetch(file: FeedFile, part: Path) -> None:
    """Fetches a file to ``part`` and compares its checksum; goes on where an earlier fetch broke off. Raises
    ``FileError``."""
    for attempt in range(TRIES):
        have = part.stat().st_size if part.exists() else 0
        if have > file.bytes:
            part.unlink()
            have = 0
        if have < file.bytes or not file.bytes:
            try:
                _more(file, part, have)
            except (http.client.HTTPException, TimeoutError, ConnectionError):
                if attempt == TRIES - 1:
                    raise FileError(
                        file.path, "breaks off again and again; what came stays, the next time goes on"
                    ) from None
                continue
        if part.stat().st_size == file.bytes and sha256_of(part) == file.sha256:
            return
        if part.stat().st_size >= file.bytes:
            part.unlink()
    raise FileError(file.path, "does not have the checksum that the feed says: not taken")


def _more(file: FeedFile, part: Path, have: int) -> None:
    answer = _asked(file.address, {"Range": f"bytes={have}-"} if have else {})
    with answer, part.open("ab" if have and answer.status == 206 else "wb") as out:
        while piece := answer.read(PIECE):
            out.write(piece)
            if out.tell() > file.bytes:
                break
