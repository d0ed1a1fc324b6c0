"""The pictures that the front keeps (``launch/front.py``): those of what was removed go out of its store."""

import re
from contextlib import suppress
from pathlib import Path

from django.conf import settings

#: nginx writes the key of a kept answer behind a head of its own; both lie within so many bytes.
_HEAD = 4096
_KEY = re.compile(rb"\nKEY: ([^\n]*)\n")


def forget_frame(frame_id: int) -> int:
    """Removes every kept picture of a frame, with and without looks; says how many. A web process asks for it anew, and finds it gone."""
    ours = re.compile(rf"/api/frames/{frame_id}/|[?&]frame={frame_id}(?![0-9])".encode())
    gone = 0
    for path in Path(settings.DATA, "front", "pictures").glob("*/*/*"):
        with suppress(OSError):
            with path.open("rb") as file:
                key = _KEY.search(file.read(_HEAD))
            if key and ours.search(key[1]):
                path.unlink()
                gone += 1
    return gone
