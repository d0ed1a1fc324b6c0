"""The render room: every shot of a delivery, with its trim and looks, from the footage where it lies."""

import os
import shutil
import time
from collections.abc import Callable
from dataclasses import dataclass, field
from pathlib import Path

from ..errors import CoreError, FileError
from ..formats.delivery import ListedShot
from ..formats.files import whole_text
from .footage import Footage, look_into
from .package import Package, opened
from .records import Record, Records
from .shot import Found, Wanted, find, make
from .way import out_of, way_of

#: Seconds between two looks at what other render rooms have under way.
PAUSE = 0.5
#: Its list of what is made, and the checksums of all of it.
LIST, CHECKSUMS = "rendered.txt", "checksums.sha256"


@dataclass
class Outcome:
    """What came of it, by the numbers and names of shots. made: here and now; there: by earlier runs, or by
    other render rooms. not_found, failed: why. doubts: in words. left: files of shots that are not in the
    delivery any more, which stay."""

    made: list[str] = field(default_factory=list)
    there: list[str] = field(default_factory=list)
    not_found: dict[str, str] = field(default_factory=dict)
    failed: dict[str, str] = field(default_factory=dict)
    doubts: dict[str, list[str]] = field(default_factory=dict)
    left: list[str] = field(default_factory=list)


class Room:
    """A render room. where: a feed's address, or a folder with a delivery; footage: the folder where the
    footage lies; folder: where what is made goes. tell: told what is being done."""

    def __init__(
        self,
        where: str,
        footage: Path,
        folder: Path,
        wanted: Wanted,
        verify: bool = False,
        tell: Callable[[str], None] = lambda doing: None,
    ) -> None:
        self._wanted, self._verify, self._tell = wanted, verify, tell
        try:
            folder.mkdir(parents=True, exist_ok=True)
            self._records = Records(folder)
        except OSError as error:
            raise FileError(str(folder), f"cannot be written to: {os.strerror(error.errno or 0)}") from None
        tell("asking for the delivery")
        self.package: Package = opened(where, self._records.fetched)
        self.footage: Footage = look_into(footage, folder, tell)
        self.outcome = Outcome()

    def run(self) -> Outcome:
        """Renders what is not there yet. Raises ``FileError`` where nothing of it can be done."""
        found = self._found()
        with self._records.lock("names", wait=True):
            self._rename(found)
        todo = list(found)
        while todo:
            todo = [one for one in todo if not self._done(one)]
            if todo:
                self._tell(f"waiting for another render room: {todo[0].shot.label}")
                time.sleep(PAUSE)
        with self._records.lock("names", wait=True):
            self._list(found)
        return self.outcome

    def _found(self) -> list[Found]:
        """The shots whose footage is there."""
        found: list[Found] = []
        taken: set[str] = set()
        for shot in self.package.contents.shots:
            self._tell(f"looking for {shot.label}")
            try:
                out = out_of(shot, self._wanted.out)
                way = way_of(self.package, shot, out, self._wanted.finish and self.package.contents.finish)
            except (CoreError, ValueError, OSError) as error:
                self.outcome.failed[shot.label] = _why(error)
                continue
            name = _name(shot, out.name, taken)
            try:
                found.append(find(self.footage, shot, way, self._wanted, self._records.folder, name))
            except (CoreError, OSError) as error:
                self.outcome.not_found[shot.label] = _why(error)
        return found

    def _rename(self, found: list[Found]) -> None:
        """Gives what was made already the names that its shots have now: a shot that got another number is
        not made again."""
        records = self._records.all()
        moving = self._moving(found, records)
        for name, one in moving.items():
            place = self._records.parts(f"moved-{one.key}")
            shutil.rmtree(place, ignore_errors=True)
            os.replace(self._records.folder / name, place)
            self._records.forget(name)
        for name, one in moving.items():
            place = self._records.parts(f"moved-{one.key}")
            self._records.put(place, one.target, _renamed(self._records, place, one, records[name]))

    def _moving(self, found: list[Found], records: dict[str, Record]) -> dict[str, Found]:
        """Which names go to which shots: those whose new name is free, is given up by another one, or is that
        of something made earlier which no shot wants any more."""
        keys = {one.key for one in found}
        old = {n for n, r in records.items() if r.key not in keys and self._records.is_there(r, verify=False)}
        by_key = {record.key: name for name, record in records.items()}
        moving: dict[str, Found] = {}
        for one in found:
            name = by_key.get(one.key)
            several = sum(other.key == one.key for other in found) > 1
            if name is None or name == one.target.name or several:
                continue
            if self._records.is_there(records[name], self._verify):
                moving[name] = one
        while taken := [
            name
            for name, one in moving.items()
            if one.target.exists() and one.target.name not in moving and one.target.name not in old
        ]:
            for name in taken:
                del moving[name]
        return moving

    def _done(self, one: Found) -> bool:
        """Whether a shot is done with; ``False`` where another render room has it."""
        with self._records.lock(one.target.name) as got:
            if not got:
                return False
            record = self._records.of(one.target.name)
            label = one.shot.label
            if record is not None and record.key == one.key and self._records.is_there(record, self._verify):
                self.outcome.there.append(label)
            else:
                try:
                    record = self._make(one, record)
                    self.outcome.made.append(label)
                except (CoreError, OSError) as error:
                    self.outcome.failed[label] = _why(error)
                    return True
            if record.doubts:
                self.outcome.doubts[label] = list(record.doubts)
            return True

    def _make(self, one: Found, before: Record | None) -> Record:
        if one.target.exists() and (before is None or not self._records.is_there(before, verify=False)):
            raise FileError(
                one.target.name,
                "is there, and not as a render room made it. Move it away to have it rendered",
            )
        label = one.shot.label
        return make(one, self._wanted, self._records, lambda doing: self._tell(f"{label}: {doing}"))

    def _list(self, found: list[Found]) -> None:
        """Writes the lists down, and notes what is not in the delivery any more."""
        records = self._records.all()
        names = {one.target.name for one in found}
        self.outcome.left = sorted(name for name in records if name not in names)
        sums = [f"{f.sha256}  {f.path}\n" for _, r in sorted(records.items()) for f in r.files]
        whole_text(self._records.folder / CHECKSUMS, "".join(sums))
        contents = self.package.contents
        lines = [f"{contents.project}, delivery {contents.delivery}", ""]
        for one in found:
            record = records.get(one.target.name)
            if record is not None:
                where = f"frames {record.first + 1} to {record.last + 1} of " if record.last else ""
                lines.append(f"{one.target.name}: {record.label}, {where}{Path(record.source).name}")
                lines += [f"  {doubt}" for doubt in record.doubts]
        missing = {**self.outcome.not_found, **self.outcome.failed}
        if missing:
            lines += ["", "Not in it", *(f"  {label}: {why}" for label, why in missing.items())]
        whole_text(self._records.folder / LIST, "\n".join(lines) + "\n")


def _why(error: Exception) -> str:
    if isinstance(error, OSError):
        return f"{error.filename or 'a file'}: {os.strerror(error.errno or 0)}"
    return f"{error.name}: {error.reason}" if isinstance(error, FileError) else str(error)


def _renamed(records: Records, place: Path, one: Found, record: Record) -> Record:
    said = {"number": one.shot.number, "label": one.shot.label}
    return record.model_copy(update={"files": records.measured(place, one.target), **said})


def _name(shot: ListedShot, said: str, taken: set[str]) -> str:
    """What is made of a shot is called: as its delivery says, with its number where that is taken, or cannot
    be the name of a file."""
    bad = said in ("", LIST, CHECKSUMS) or said.startswith(".") or any(mark in said for mark in "/\\:\0")
    name = f"{shot.number:03d}" if bad else said
    if name.casefold() in taken:
        name = f"{shot.number:03d} {name}"
    taken.add(name.casefold())
    return name
