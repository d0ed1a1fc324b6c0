"""The pictures that the front keeps (``launch/front.py``): those of what was removed, or is kept to a few
people now, leave its store."""

import re
from collections.abc import Iterable
from contextlib import suppress
from pathlib import Path

from django.conf import settings

#: nginx writes the key of a kept answer behind a head of its own; both lie within so many bytes.
_HEAD = 4096
_KEY = re.compile(rb"\nKEY: ([^\n]*)\n")


def forget(*, frames: Iterable[int] = (), revisions: Iterable[int] = (), projects: Iterable[int] = ()) -> int:
    """Removes every kept picture of frames (with and without looks), revisions and shots of projects; says
    how many.

    A web process is asked for each anew, and says whether it is there for whoever asks.
    """
    ours = [rf"/api/frames/{pk}/|[?&]frame={pk}(?![0-9])" for pk in frames]
    ours += [rf"/api/revisions/{pk}/" for pk in revisions] + [rf"/api/projects/{pk}/" for pk in projects]
    if not ours:
        return 0
    wanted, gone = re.compile("|".join(ours).encode()), 0
    for path in Path(settings.DATA, "front", "pictures").glob("*/*/*"):
        with suppress(OSError):
            with path.open("rb") as file:
                key = _KEY.search(file.read(_HEAD))
            if key and wanted.search(key[1]):
                path.unlink()
                gone += 1
    return gone
