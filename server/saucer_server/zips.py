"""ZIP files that are given away while they are made."""

import io
import zipfile
from collections.abc import Iterable, Iterator
from typing import IO, Any

PIECE = 2**18


class _Sink(io.RawIOBase):
    """Takes what a ZIP writes and gives it away in pieces; it cannot go back."""

    def __init__(self) -> None:
        self._held = bytearray()

    def writable(self) -> bool:
        return True

    def write(self, data: Any) -> int:
        self._held += data
        return len(data)

    def given(self) -> bytes:
        """What was written since it was last asked."""
        out = bytes(self._held)
        self._held.clear()
        return out


def streamed(
    entries: Iterable[tuple[str, IO[bytes]]], compression: int = zipfile.ZIP_STORED
) -> Iterator[bytes]:
    """A ZIP in pieces. entries: names with what is read to its end and closed, each asked for when its turn
    comes."""
    sink = _Sink()
    with zipfile.ZipFile(sink, "w", compression) as z:
        for name, source in entries:
            with source, z.open(name, "w", force_zip64=True) as out:
                while piece := source.read(PIECE):
                    out.write(piece)
                    yield sink.given()
            yield sink.given()
    yield sink.given()
