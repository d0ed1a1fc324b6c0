"""The look: ordered steps between an input and an output encoding, and its evaluation."""

import hashlib
import json
from collections import OrderedDict
from threading import Lock
from typing import Any

from pydantic import Field, model_validator

from .arrays import F32, colours
from .effects import Finish
from .encodings import Encoding, EncodingKey, conversion, encoding, meeting
from .errors import LookError
from .operations import Operation, apply, fuse
from .steps import AnyStep, Group, LookStep, LutStep, Step, Surroundings, Tables, after, in_order, no_tables
from .steps.blend import Eased, put_over
from .steps.parameter import share
from .steps.step import Strict

STEP_LIMIT = 200
#: Looks inside looks inside looks.
DEPTH_LIMIT = 6


def every_step(steps: list[Any]) -> list[Step]:
    """All steps, those inside groups included, in order; steps of borrowed looks are not the look's own."""
    found: list[Step] = []
    for step in steps:
        found.append(step)
        if isinstance(step, Group):
            found += every_step(step.steps)
    return found


class Look(Strict):
    """A repeatable colour treatment: what it expects, what it gives, and the steps between, top to bottom.

    Its strength eases all steps at once, toward the picture as it would be without them.
    The finish is carried along for previews and stills; no table holds it.
    """

    input: EncodingKey = Field("bt709_display", title="Comes in as")
    output: EncodingKey = Field("bt709_display", title="Goes out as")
    steps: list[AnyStep] = Field(default_factory=list)
    strength: float = share(1.0, 0.0, 1.0, label="Strength of the look")
    finish: Finish = Field(default_factory=Finish, title="Finish")

    @model_validator(mode="after")
    def _sound(self) -> "Look":
        steps = every_step(self.steps)
        if len(steps) > STEP_LIMIT:
            raise ValueError(f"a look holds at most {STEP_LIMIT} steps")
        if len({s.id for s in steps}) != len(steps):
            raise ValueError("two steps have the same id")
        if self.depth() > DEPTH_LIMIT:
            raise ValueError(f"looks are nested more than {DEPTH_LIMIT} deep")
        return self

    def borrowed_looks(self) -> list["Look"]:
        """The looks that steps of this one borrow."""
        return [s.look for s in every_step(self.steps) if isinstance(s, LookStep) and s.look is not None]

    def depth(self) -> int:
        """1 for a look that borrows no other."""
        return 1 + max((inner.depth() for inner in self.borrowed_looks()), default=0)

    def lut_steps(self) -> list[LutStep]:
        """The steps that name a borrowed table, those of borrowed looks included."""
        own = [s for s in every_step(self.steps) if isinstance(s, LutStep) and s.table]
        return own + [s for inner in self.borrowed_looks() for s in inner.lut_steps()]

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


LookStep.model_rebuild(_types_namespace={"Look": Look})
Group.model_rebuild(force=True)
Look.model_rebuild(force=True)


def canonical(value: Any) -> bytes:
    """JSON with sorted keys: equal values give equal bytes."""
    return json.dumps(value, sort_keys=True, separators=(",", ":")).encode()


def check(look: Look) -> None:
    """Raises ``LookError`` where the steps, or those of a borrowed look, do not end in the look's output encoding."""
    end, wanted = look.end(), encoding(look.output)
    if end != wanted:
        raise LookError(
            f"The steps end in {end.label}, but the look goes out as {wanted.label}. "
            f"Add an Encode step to {wanted.label}, or let the look go out as {end.label}."
        )
    for step in every_step(look.steps):
        if isinstance(step, LookStep) and step.look is not None:
            try:
                check(step.look)
            except LookError as error:
                raise LookError(f"The borrowed look “{step.name or 'unnamed'}” cannot be used: {error}") from None


def surroundings(look: Look, tables: Tables = no_tables) -> dict[str, Surroundings]:
    """What each step, by id, is given; those inside groups included."""
    found: dict[str, Surroundings] = {}

    def walk(steps: list[Any], at: Surroundings) -> Surroundings:
        for step in steps:
            found[step.id] = at
            inner = walk(step.steps, at) if isinstance(step, Group) else None
            at = inner if inner is not None and step.on else after(step, at)
        return at

    walk(look.steps, Surroundings(encoding(look.input), tables))
    return found


def _plain(step: Any) -> Any:
    """The step as the plain conversion that it stands for."""
    return step.model_copy(update={"strength": 0.0, "blend": "normal"})


def _part(steps: list[Any], at: Encoding, upto: str | None, only: str | None) -> tuple[list[Any], bool]:
    """The steps of a partial evaluation, and whether ``upto`` was met."""
    kept: list[Any] = []
    for step in steps:
        inside = {s.id for s in every_step([step])}
        beyond = step.output(at) if step.on else at
        if only is None or step.id == only:
            kept.append(step)
        elif only in inside:
            inner, _ = _part(step.steps, at, None, only)
            kept.append(step.model_copy(update={"steps": inner}))
        elif beyond != at:
            kept.append(_plain(step))
        if step.id == upto:
            return kept, True
        if upto in inside:
            inner, _ = _part(step.steps, at, upto, None)
            kept[-1] = step.model_copy(update={"steps": inner})
            return kept, True
        at = beyond
    return kept, False


def part_of(look: Look, *, upto: str | None = None, only: str | None = None) -> Look:
    """The look up to and with a step, or with one step alone (what changes the encoding stays as the plain conversion).

    Steps inside groups can be named. Raises ``LookError`` where the step is not there.
    """
    ids = {s.id for s in every_step(look.steps)}
    for name in (upto, only):
        if name is not None and name not in ids:
            raise LookError(f"The look has no step “{name}”.")
    steps, _ = _part(look.steps, encoding(look.input), upto, only)
    return look.model_copy(update={"steps": steps})


def _before(steps: list[Any], step_id: str) -> tuple[list[Any], bool]:
    kept: list[Any] = []
    for step in steps:
        if step.id == step_id:
            return kept, True
        if isinstance(step, Group):
            inner, met = _before(step.steps, step_id)
            if met:
                return [*kept, *(inner if step.on else [])], True
        kept.append(step)
    return kept, False


def given_to(look: Look, step_id: str, rgb: F32, *, tables: Tables = no_tables) -> tuple[F32, Encoding]:
    """What colours ``(..., 3)`` in ``look.input`` are when they come to a step, and the encoding they then have.

    Inside a group that is what its own earlier steps gave. Raises ``LookError`` where the step is not there.
    """
    steps, met = _before(look.steps, step_id)
    if not met:
        raise LookError(f"The look has no step “{step_id}”.")
    part = look.model_copy(update={"steps": steps, "strength": 1.0})
    end = part.end()
    return evaluate(part.model_copy(update={"output": end.key}), rgb, tables=tables), end


def fetched(look: Look, tables: Tables) -> Tables:
    """The borrowed tables that the steps name, asked for once and here: the threads of the pool ask nobody."""
    held = {s.table: tables(s.table) for s in look.lut_steps()}
    return held.get


class PrefixCache:
    """Remembers what leading steps gave, so that a change further down costs only what follows it.

    For each picture it knows the steps of the last evaluation; where the next one differs, what comes before the
    difference is kept. Safe to share between threads. Holds about ``limit`` bytes.
    """

    def __init__(self, limit: int = 96 * 2**20) -> None:
        self._kept: OrderedDict[str, F32] = OrderedDict()
        self._last: OrderedDict[str, list[str]] = OrderedDict()
        self._lock, self._limit, self._size = Lock(), limit, 0

    def longest(self, keys: list[str]) -> tuple[int, F32 | None]:
        """How many leading steps are remembered, and what they gave."""
        with self._lock:
            for k in range(len(keys) - 1, -1, -1):
                if keys[k] in self._kept:
                    self._kept.move_to_end(keys[k])
                    return k + 1, self._kept[keys[k]]
            return 0, None

    def worth(self, picture: str, keys: list[str]) -> int:
        """Up to which step it is worth remembering: as far as this evaluation and the last one agree."""
        with self._lock:
            last = self._last.pop(picture, [])
            self._last[picture] = keys
            while len(self._last) > 64:
                self._last.popitem(last=False)
        same = 0
        while same < min(len(last), len(keys)) and last[same] == keys[same]:
            same += 1
        return same if last and same < len(keys) else 0

    def put(self, key: str, rgb: F32) -> None:
        """Keeps an array; the caller must not change it afterwards."""
        with self._lock:
            if key not in self._kept:
                self._kept[key] = rgb
                self._size += rgb.nbytes
            while self._size > self._limit and self._kept:
                _, gone = self._kept.popitem(last=False)
                self._size -= gone.nbytes


def operations(look: Look, *, tables: Tables = no_tables, strength: float = 1.0) -> list[Operation]:
    """The whole look as operations from its input to its output encoding; raises ``LookError``."""
    check(look)
    source, target = encoding(look.input), encoding(look.output)
    inside, strength = fuse(in_order(look.steps, Surroundings(source, fetched(look, tables)))), strength * look.strength
    return inside if strength == 1.0 else [Eased(inside, fuse(meeting(source, target)), "normal", strength)]


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

    rgb: float32 ``(..., 3)`` in ``look.input``; the result has that shape in ``look.output``. strength eases the whole look,
    over its own strength, toward the picture as it would be without it. upto and only (ids of steps, those in groups too)
    evaluate a part; a part that ends in another encoding is converted to the output. With a cache, ``cache_key`` must name ``rgb``.
    Raises ``LookError`` (``MissingTable`` where a borrowed table is not there).
    """
    rgb = colours(rgb)
    if upto is not None or only is not None:
        look = part_of(look, upto=upto, only=only)
    else:
        check(look)
    source, target, strength = encoding(look.input), encoding(look.output), strength * look.strength
    at = Surroundings(source, fetched(look, tables))
    done, out = 0, rgb
    if cache is not None:
        keys = _keys(look, cache_key)
        known, kept = cache.longest(keys)
        worth = cache.worth(cache_key, keys)
        for step in look.steps[:known]:
            at = after(step, at)
        done, out = known, rgb if kept is None else kept
        if worth > known:
            out = apply(in_order(look.steps[known:worth], at), out)
            cache.put(keys[worth - 1], out)
            for step in look.steps[known:worth]:
                at = after(step, at)
            done = worth
    rest = fuse([*in_order(look.steps[done:], at), *conversion(_ending(look.steps[done:], at), target)])
    if strength == 1.0:
        return apply(rest, out)
    if out is rgb:
        return apply([Eased(rest, fuse(meeting(source, target)), "normal", strength)], rgb)
    full, without = apply(rest, out), apply(meeting(source, target), rgb)
    return _mixed(without, full, strength)


def _keys(look: Look, picture: str) -> list[str]:
    """A name for the result after each step."""
    done = hashlib.sha256(f"{picture}:{look.input}".encode())
    keys = []
    for step in look.steps:
        done.update(step.model_dump_json().encode())
        keys.append(done.hexdigest())
    return keys


def _ending(steps: list[Any], at: Surroundings) -> Encoding:
    for step in steps:
        at = after(step, at)
    return at.encoding


def _mixed(without: F32, full: F32, strength: float) -> F32:
    shape = full.shape
    pairs = [x.reshape(-1, 3).T.copy() for x in (full, without)]
    put_over(pairs[0], pairs[1], "normal", strength)
    return pairs[0].T.reshape(shape).copy()
