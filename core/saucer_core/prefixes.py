"""What leading operations gave, remembered, so that a change further down costs only what follows it."""

import hashlib
from collections import OrderedDict
from collections.abc import Sequence
from threading import Lock

from .arrays import F32
from .operations import Operation, apply
from .steps.blend import Eased, mixed

#: Pictures whose last operations are known.
PICTURES = 64


class PrefixCache:
    """Remembers pictures in the middle of their operations.

    For each picture it knows the operations of the last evaluation; where the next one differs, what comes
    before the difference is kept. What is kept and what follows are the same operations that run without the
    cache, so that no pixel depends on it. Safe to share between threads. Holds at most ``limit`` bytes.
    """

    def __init__(self, limit: int = 96 * 2**20) -> None:
        self._kept: OrderedDict[str, F32] = OrderedDict()
        self._last: OrderedDict[str, list[str]] = OrderedDict()
        self._lock, self._limit, self._size = Lock(), limit, 0

    def through(self, operations: Sequence[Operation], rgb: F32, picture: str) -> F32:
        """Colours ``(..., 3)``, named by ``picture``, through the operations, which must be fused already."""
        keys = _keys(operations, picture)
        done, out = self._longest(keys, rgb)
        worth = self._worth(picture, keys)
        if worth > done:
            out = apply(operations[done:worth], out)
            self._put(keys[worth - 1], out)
            done = worth
        rest = operations[done:]
        if rest and isinstance(rest[0], Eased) and len(rest[0].inside) > 1:
            # A change inside a group: its own leading operations are worth remembering too.
            eased, here = rest[0], keys[done - 1] if done else picture
            out = mixed(
                apply(eased.plain, out),
                self.through(eased.inside, out, f"{here} inside"),
                eased.blend,
                eased.strength,
            )
            rest = rest[1:]
        return apply(rest, out)

    def _longest(self, keys: list[str], rgb: F32) -> tuple[int, F32]:
        """How many leading operations are remembered, and what they gave."""
        with self._lock:
            for k in range(len(keys) - 1, -1, -1):
                if keys[k] in self._kept:
                    self._kept.move_to_end(keys[k])
                    return k + 1, self._kept[keys[k]]
            return 0, rgb

    def _worth(self, picture: str, keys: list[str]) -> int:
        """Up to which operation it is worth remembering: as far as this evaluation and the last one agree."""
        with self._lock:
            last = self._last.pop(picture, [])
            self._last[picture] = keys
            while len(self._last) > PICTURES:
                self._last.popitem(last=False)
        same = 0
        while same < min(len(last), len(keys)) and last[same] == keys[same]:
            same += 1
        return same if last and same < len(keys) else 0

    def _put(self, key: str, rgb: F32) -> None:
        """Keeps an array; nobody changes it afterwards."""
        with self._lock:
            if key not in self._kept:
                self._kept[key] = rgb
                self._size += rgb.nbytes
            while self._size > self._limit and self._kept:
                _, gone = self._kept.popitem(last=False)
                self._size -= gone.nbytes


def _keys(operations: Sequence[Operation], picture: str) -> list[str]:
    """A name for the result after each operation."""
    done = hashlib.blake2b(picture.encode(), digest_size=16)
    keys = []
    for one in operations:
        done.update(one.mark.encode())
        keys.append(done.hexdigest())
    return keys
