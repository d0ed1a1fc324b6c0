"""Everything of an installation in one archive, while it runs; and an installation from such an archive.

The archive is a tar: ``database.dump`` (pg_dump's custom format), ``files/…`` as they are kept, and
``manifest.json`` with the SHA-256 and size of each, last. The database is read first, in one snapshot: files
are written before the rows that name them and keep their names, so that everything a row names is there when
the files are read. Left out: what can be made again, passwords of the database, the key.
"""

import hashlib
import io
import json
import os
import shutil
import tarfile
import tempfile
import urllib.parse
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import UTC, datetime
from pathlib import Path
from typing import IO, Any

from . import leftovers
from .debian import postgres_bin
from .places import ROOT, python
from .postgres import Postgres
from .say import Stop, run, say
from .serving import RESTORING, settings

KIND = 1
#: Folders of files that can be made again.
_LEFT_OUT = ("derived/", "delivered/lengths/", "standing/")


def _client(name: str) -> Path:
    found = postgres_bin()
    if found is None or not (found / name).is_file():
        raise Stop(f"{name} is missing; it comes with Debian's postgresql.")
    return found / name


class Database:
    """The address of an installation's database, whose server is started for as long as it is needed where it
    does not run."""

    def __init__(self, data: Path) -> None:
        self._data = data
        self._own: Postgres | None = None

    def __enter__(self) -> str:
        address = os.environ.get("DATABASE_URL")
        if address:
            return address
        postgres = Postgres(self._data)
        if leftovers.database(postgres.home):
            return postgres.running("saucer")
        self._own = postgres
        return postgres.database(postgres.start(), "saucer")

    def __exit__(self, *_: object) -> None:
        if self._own is not None:
            self._own.stop()


def _words(address: str) -> tuple[list[str], dict[str, str]]:
    """How PostgreSQL's programs are told of a database; the password goes through the environment, which
    nobody else sees."""
    parts = urllib.parse.urlsplit(address)
    name = parts.path.lstrip("/")
    words = [
        "-h",
        parts.hostname or "127.0.0.1",
        "-p",
        str(parts.port or 5432),
        "-U",
        parts.username or "saucer",
        "-d",
        name,
    ]
    return words, {"PGPASSWORD": urllib.parse.unquote(parts.password or "")}


class _Counted(io.RawIOBase):
    """A file that is read through, with the checksum of what went by."""

    def __init__(self, file: IO[bytes]) -> None:
        self._file, self.sum, self.size = file, hashlib.sha256(), 0

    def read(self, size: int = -1) -> bytes:
        """The next bytes."""
        data = self._file.read(size)
        self.sum.update(data)
        self.size += len(data)
        return data


def _kept(files: Path) -> Iterator[Path]:
    for path in sorted(files.rglob("*")):
        name = f"{path.relative_to(files)}"
        if path.is_file() and not name.startswith(_LEFT_OUT) and not path.name.startswith(".part-"):
            yield path


def _in_bucket() -> bool:
    return bool(os.environ.get("SAUCER_S3_BUCKET"))


def _manage(data: Path, address: str, *words: str | Path) -> str:
    """What a command of the server's prints."""
    return run([python(), ROOT / "server" / "manage.py", *words], env=settings(data, address, "127.0.0.1", 0))


@contextmanager
def _files(data: Path, address: str, beside: Path) -> Iterator[Path]:
    """The folder that the files lie in. Those of a bucket are fetched into one first, which is gone
    afterwards."""
    if not _in_bucket():
        yield data / "files"
        return
    with tempfile.TemporaryDirectory(dir=beside) as folder:
        _manage(data, address, "kept_files", "fetch", folder)
        yield Path(folder)


def backup(data: Path, target: Path) -> None:
    """Writes the archive; whole or not at all. Raises ``Stop``."""
    if not data.is_dir() or not (_in_bucket() or (data / "files").is_dir()):
        raise Stop(f"there is no Saucer in {data}; name its folder with --data")
    if target.exists():
        raise Stop(f"{target} is there already; name another file")
    part = target.with_name(f".{target.name}.part")
    listed: dict[str, dict[str, Any]] = {}
    try:
        with tempfile.TemporaryDirectory(dir=target.parent) as folder, tarfile.open(part, "w") as archive:
            dump = Path(folder) / "database.dump"
            with Database(data) as address:
                words, secret = _words(address)
                run(
                    [_client("pg_dump"), *words, "--format=custom", "--no-owner", f"--file={dump}"],
                    env=secret,
                    cwd=Path("/"),
                )
                _add(archive, dump, "database.dump", listed)
                with _files(data, address, target.parent) as files:
                    for path in _kept(files):
                        try:
                            _add(archive, path, f"files/{path.relative_to(files)}", listed)
                        except FileNotFoundError:
                            # Let go since the folder was read: nothing names it.
                            continue
            said = {
                "saucer_backup": KIND,
                "at": datetime.now(UTC).isoformat(timespec="seconds"),
                "holds": listed,
            }
            text = json.dumps(said, indent=1).encode()
            about = tarfile.TarInfo("manifest.json")
            about.size = len(text)
            archive.addfile(about, io.BytesIO(text))
        part.chmod(0o600)
        os.replace(part, target)
    except OSError as error:
        raise Stop(f"the archive could not be written: {error.strerror or error}") from None
    finally:
        part.unlink(missing_ok=True)
    say(
        f"{target} holds the database and {len(listed) - 1:,} files, {target.stat().st_size / 2**20:,.0f} MiB"
    )


def _add(archive: tarfile.TarFile, path: Path, name: str, listed: dict[str, dict[str, Any]]) -> None:
    about = tarfile.TarInfo(name)
    with path.open("rb") as file:
        facts = os.fstat(file.fileno())
        about.size, about.mtime = facts.st_size, facts.st_mtime
        counted = _Counted(file)
        archive.addfile(about, counted)
    listed[name] = {"sha256": counted.sum.hexdigest(), "bytes": counted.size}


def _unpack(source: Path, folder: Path) -> dict[str, dict[str, Any]]:
    """Everything out of the archive into a folder, each checksum compared. Raises ``Stop``."""
    found: dict[str, dict[str, Any]] = {}
    said: dict[str, Any] = {}
    with tarfile.open(source, "r") as archive:
        for member in archive:
            place = Path(member.name)
            if not member.isfile() or place.is_absolute() or ".." in place.parts:
                raise Stop(f"{source} holds {member.name!r}, which no backup holds")
            file = archive.extractfile(member)
            assert file is not None
            if member.name == "manifest.json":
                said = json.load(file)
                continue
            target = folder / place
            target.parent.mkdir(parents=True, exist_ok=True)
            counted = _Counted(file)
            with target.open("wb") as out:
                while block := counted.read(2**20):
                    out.write(block)
            os.utime(target, (member.mtime, member.mtime))
            found[member.name] = {"sha256": counted.sum.hexdigest(), "bytes": counted.size}
    if said.get("saucer_backup") != KIND:
        raise Stop(
            f"{source} is no whole backup of Saucer: its list of contents is missing or of another kind"
        )
    wrong = [name for name in sorted({*said["holds"], *found}) if said["holds"].get(name) != found.get(name)]
    if wrong:
        raise Stop(
            f"{source} is damaged: {', '.join(wrong[:5])}{' and more' if len(wrong) > 5 else ''} are not "
            "what was put in"
        )
    return found


def restore(source: Path, data: Path) -> None:
    """Makes an installation from an archive, in a folder that holds none yet; all of it or nothing. Raises
    ``Stop``."""
    if (data / "files").exists() or (data / "database-password").exists():
        raise Stop(f"there is a Saucer in {data} already; name an empty folder with --data")
    existed = data.exists()
    data.mkdir(parents=True, exist_ok=True)
    if (data / RESTORING).exists():
        raise Stop(
            f"{data} holds half of what was restored before. Empty it, or name another folder with --data"
        )
    (data / RESTORING).touch()
    try:
        found = _unpack(source, data)
        with Database(data) as address:
            words, secret = _words(address)
            dump = data / "database.dump"
            run(
                [_client("pg_restore"), *words, "--no-owner", "--exit-on-error", str(dump)],
                env=secret,
                cwd=Path("/"),
            )
            dump.unlink()
            _manage(data, address, "migrate", "--no-input")
            if _in_bucket():
                _manage(data, address, "kept_files", "send", data / "files")
                shutil.rmtree(data / "files", ignore_errors=True)
            missing = [name for name in _manage(data, address, "kept_files", "missing").split("\n") if name]
            if missing:
                raise Stop(
                    f"{len(missing)} files that rows name are not in the archive: {', '.join(missing[:5])}"
                )
    except (Stop, OSError, tarfile.TarError, KeyboardInterrupt) as error:
        shutil.rmtree(Postgres(data).home, ignore_errors=True)
        for path in [data] if not existed else list(data.iterdir()):
            shutil.rmtree(path, ignore_errors=True) if path.is_dir() else path.unlink(missing_ok=True)
        raise (
            error
            if isinstance(error, (Stop, KeyboardInterrupt))
            else Stop(f"{source} cannot be read: {error}")
        ) from None
    (data / RESTORING).unlink()
    say(
        f"{data} holds what was backed up: the database and {len(found) - 1:,} files. Start it with "
        f"./saucer start --data {data}"
    )
