"""The look: ordered steps between an input and an output encoding, and its evaluation."""

import hashlib
import json
from collections import OrderedDict
from threading import Lock
from typing import Any

import numpy as np
from pydantic import Field, model_validator

from .arrays import F32, by_tiles, colours
from .encodings import Encoding, EncodingKey, convert, encoding, meet
from .errors import LookError
from .steps import AnyStep, Group, Step, Surroundings, Tables, no_tables, run_step
from .steps.blend import mix
from .steps.lut_step import LutStep
from .steps.step import Strict

STEP_LIMIT = 200


def every_step(steps: list[Any]) -> list[Step]:
    """All steps, those inside groups included, in order."""
    found: list[Step] = []
    for step in steps:
        found.append(step)
        if isinstance(step, Group):
            found += every_step(step.steps)
    return found


class Look(Strict):
    """A repeatable colour treatment: what it expects, what it gives, and the steps between, top to bottom."""

    input: EncodingKey = Field("bt709_display", title="Comes in as")
    output: EncodingKey = Field("bt709_display", title="Goes out as")
    steps: list[AnyStep] = Field(default_factory=list)

    @model_validator(mode="after")
    def _ids_differ(self) -> "Look":
        steps = every_step(self.steps)
        if len(steps) > STEP_LIMIT:
            raise ValueError(f"a look holds at most {STEP_LIMIT} steps")
        if len({s.id for s in steps}) != len(steps):
            raise ValueError("two steps have the same id")
        return self

    def end(self) -> Encoding:
        """The encoding after the last step."""
        at = encoding(self.input)
        for step in self.steps:
            if step.on:
                at = step.output(at)
        return at

    def digest(self) -> str:
        """SHA-256 of the look as kept."""
        return hashlib.sha256(canonical(self.model_dump(mode="json"))).hexdigest()


def canonical(value: Any) -> bytes:
    """JSON with sorted keys: equal values give equal bytes."""
    return json.dumps(value, sort_keys=True, separators=(",", ":")).encode()


def check(look: Look) -> None:
    """Raises ``LookError`` where the steps do not end in the look's output encoding."""
    end, wanted = look.end(), encoding(look.output)
    if end != wanted:
        raise LookError(
            f"The steps end in {end.label}, but the look goes out as {wanted.label}. "
            f"Add an Encode step to {wanted.label}, or let the look go out as {end.label}."
        )


def surroundings(look: Look, tables: Tables = no_tables) -> dict[str, Surroundings]:
    """What each step, by id, is given; those inside groups included."""
    found: dict[str, Surroundings] = {}

    def walk(steps: list[Any], at: Encoding) -> Encoding:
        for step in steps:
            found[step.id] = Surroundings(at, tables)
            inner = walk(step.steps, at) if isinstance(step, Group) else step.output(at)
            if step.on:
                at = inner
        return at

    walk(look.steps, encoding(look.input))
    return found


def chosen(look: Look, upto: str | None, only: str | None) -> list[Any]:
    """The top-level steps of a partial evaluation; raises ``LookError`` where the named step is not one of them."""
    ids = [s.id for s in look.steps]
    for name in (upto, only):
        if name is not None and name not in ids:
            raise LookError(f"The look has no step “{name}” at its top level.")
    steps = list(look.steps if upto is None else look.steps[: ids.index(upto) + 1])
    if only is None:
        return steps
    # What changes the encoding stays as the plain conversion: a single step must be given what it would be given.
    kept: list[Any] = []
    at = encoding(look.input)
    for step in steps:
        after = step.output(at) if step.on else at
        if step.id == only:
            kept.append(step)
        elif after != at:
            kept.append(step.model_copy(update={"strength": 0.0}))
        at = after
    return kept


def fetched(steps: list[Any], tables: Tables) -> Tables:
    """The borrowed tables that the steps name, asked for once and here: the threads of the pool ask nobody."""
    held = {s.table: tables(s.table) for s in every_step(steps) if isinstance(s, LutStep) and s.table}
    return held.get


class PrefixCache:
    """Remembers what leading steps gave, so that a change further down costs only what follows it.

    Keyed by what the result is made from; safe to share between threads. Holds about ``limit`` bytes.
    """

    def __init__(self, limit: int = 96 * 2**20) -> None:
        self._kept: OrderedDict[str, F32] = OrderedDict()
        self._lock, self._limit, self._size = Lock(), limit, 0

    def get(self, key: str) -> F32 | None:
        """What was kept under the key, if it still is."""
        with self._lock:
            if key in self._kept:
                self._kept.move_to_end(key)
                return self._kept[key]
            return None

    def put(self, key: str, rgb: F32) -> None:
        """Keeps an array; the caller must not change it afterwards."""
        with self._lock:
            if key not in self._kept:
                self._kept[key] = rgb
                self._size += rgb.nbytes
            while self._size > self._limit and self._kept:
                _, gone = self._kept.popitem(last=False)
                self._size -= gone.nbytes


def evaluate(
    look: Look,
    rgb: F32,
    *,
    tables: Tables = no_tables,
    strength: float = 1.0,
    upto: str | None = None,
    only: str | None = None,
    cache: PrefixCache | None = None,
    cache_key: str = "",
) -> F32:
    """Colours through the look.

    rgb: float32 ``(..., 3)`` in ``look.input``; the result has that shape in ``look.output``. strength eases the whole
    look toward the picture as it would be without it. upto and only (ids of top-level steps) evaluate a part; a part
    that ends in another encoding is converted to the output. With a cache, ``cache_key`` must name ``rgb``.
    Raises ``LookError`` (``MissingTable`` where a borrowed table is not there).
    """
    rgb = colours(rgb)
    steps = chosen(look, upto, only)
    tables = fetched(steps, tables)
    if upto is None and only is None:
        check(look)
    source, target = encoding(look.input), encoding(look.output)
    at, out = source, rgb
    done = hashlib.sha256(f"{cache_key}:{look.input}".encode())
    for step in steps:
        done.update(canonical(step.model_dump(mode="json")))
        key = done.hexdigest()
        kept = cache.get(key) if cache is not None else None
        if kept is None:
            here = Surroundings(at, tables)
            out = by_tiles(lambda x, s=step, h=here: run_step(s, x, h), out)  # type: ignore[misc]
            if cache is not None:
                cache.put(key, out)
        else:
            out = kept
        if step.on:
            at = step.output(at)
    out = convert(out, at, target)
    if strength == 1.0:
        return out
    return np.asarray(mix(meet(rgb, source, target), out, strength), dtype=np.float32)
