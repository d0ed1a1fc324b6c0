"""What a step is made of: passes over a tile of colours, declared first and run later.

A look becomes a flat list of operations. Where one takes back the one before it without loss, both fall away
(a step that ends by coding light and the next that begins by decoding it), and neighbouring matrices become
one. Then each tile goes through the whole list while it is in the core's cache.
"""

import hashlib
from collections.abc import Iterable
from dataclasses import dataclass, fields, is_dataclass
from functools import cached_property
from typing import Any

import numpy as np

from .arrays import F32, F64, by_tiles, colours
from .elementary import hold
from .kernels import Kernel, kernel
from .transfer import Transfer


def _feed(h: "hashlib.blake2b", value: Any) -> None:
    """Adds a value to a digest: arrays by their numbers, operations and their parts by what they are made
    of."""
    if isinstance(value, np.ndarray):
        h.update(f"{value.dtype.str}{value.shape}".encode())
        h.update(np.ascontiguousarray(value).data)
    elif isinstance(value, Marked):
        h.update(value.mark.encode())
    elif isinstance(value, Kernel):
        h.update(value.name.encode())
    elif isinstance(value, list | tuple):
        h.update(f"[{len(value)}".encode())
        for one in value:
            _feed(h, one)
    elif is_dataclass(value) and not isinstance(value, type):
        h.update(type(value).__qualname__.encode())
        for field in fields(value):
            _feed(h, getattr(value, field.name))
    else:
        h.update(f"{type(value).__name__}{value!r};".encode())


class Marked:
    """Something whose dataclass fields say all that it does."""

    @cached_property
    def mark(self) -> str:
        """A digest of what it does: equal for equal kinds and numbers."""
        h = hashlib.blake2b(type(self).__qualname__.encode(), digest_size=16)
        for field in fields(self):  # type: ignore[arg-type]
            _feed(h, getattr(self, field.name))
        return h.hexdigest()


class Operation(Marked):
    """One pass over a tile, in place."""

    def run(self, tile: F32) -> None:
        """Changes a tile, float32 ``(3, n)``."""
        raise NotImplementedError

    def undone_by(self, following: "Operation") -> bool:
        """Whether ``following`` takes back exactly what this does, for every colour."""
        return False

    def joined(self, following: "Operation") -> "Operation | None":
        """One operation that does both; ``None`` where there is none."""
        return None


@dataclass(frozen=True)
class Decode(Operation):
    """Code values to linear light."""

    transfer: Transfer

    def run(self, tile: F32) -> None:
        self.transfer.decode_in_place(tile)


@dataclass(frozen=True)
class Encode(Operation):
    """Linear light to code values."""

    transfer: Transfer

    def run(self, tile: F32) -> None:
        self.transfer.encode_in_place(tile)

    def undone_by(self, following: Operation) -> bool:
        # Only encode then decode falls away. Decode then encode does not: decoding clamps codes far above 1
        # to the brightest light.
        return (
            self.transfer.lossless and isinstance(following, Decode) and following.transfer == self.transfer
        )


@kernel("void(float32[:, ::1], float32[:, ::1], float32[::1])")
def _linear(t: F32, m: F32, c: F32) -> None:
    for i in range(t.shape[1]):
        r, g, b = t[0, i], t[1, i], t[2, i]
        t[0, i] = hold(m[0, 0] * r + m[0, 1] * g + m[0, 2] * b + c[0])
        t[1, i] = hold(m[1, 0] * r + m[1, 1] * g + m[1, 2] * b + c[1])
        t[2, i] = hold(m[2, 0] * r + m[2, 1] * g + m[2, 2] * b + c[2])


@dataclass(frozen=True, eq=False)
class Linear(Operation):
    """A 3×3 and constants."""

    matrix: F64
    constant: F64

    def run(self, tile: F32) -> None:
        _linear(tile, self.matrix.astype(np.float32), self.constant.astype(np.float32))

    def joined(self, following: Operation) -> Operation | None:
        if not isinstance(following, Linear):
            return None
        return Linear(following.matrix @ self.matrix, following.matrix @ self.constant + following.constant)


def matrix(m: F64) -> Linear:
    """A 3×3 alone."""
    return Linear(np.ascontiguousarray(m, dtype=np.float64), np.zeros(3))


def gain(factor: float) -> Linear:
    """All three channels times a factor."""
    return matrix(np.eye(3) * factor)


@dataclass(frozen=True, eq=False)
class Pass(Operation):
    """A kernel with its parameters: ``kernel(tile, *parameters)``."""

    kernel: Kernel
    parameters: tuple[Any, ...] = ()

    def run(self, tile: F32) -> None:
        self.kernel(tile, *self.parameters)


def coded(at: Transfer, inside: list[Operation]) -> list[Operation]:
    """Operations on light, from code values and back to them."""
    return [Decode(at), *inside, Encode(at)]


def fuse(operations: Iterable[Operation]) -> list[Operation]:
    """The same with less: what is taken back at once without loss is left out, neighbours of a kind are
    joined."""
    kept: list[Operation] = []
    for one in operations:
        if isinstance(one, Decode | Encode) and one.transfer.to_light is None:
            continue
        last = kept[-1] if kept else None
        if last is not None and last.undone_by(one):
            kept.pop()
        elif last is not None and (both := last.joined(one)) is not None:
            kept[-1] = both
        else:
            kept.append(one)
    return kept


def run_all(operations: Iterable[Operation], tile: F32) -> None:
    """Each on the tile, in order."""
    for one in operations:
        one.run(tile)


def apply(operations: Iterable[Operation], rgb: F32) -> F32:
    """Colours ``(..., 3)`` through the operations, a new array (the same one where there are none)."""
    fused = fuse(operations)
    rgb = colours(rgb)
    return by_tiles(lambda tile: run_all(fused, tile), rgb) if fused else rgb
