"""What a check is, and what the checks share."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Any, Literal

import numpy as np

from ..arrays import F32
from ..encodings import encoding
from ..look import Look, every_step
from ..program import Program
from ..readings.traits import Traits, traits
from ..steps import Step, Tables
from ..treatment import Treatment

Kind = Literal[
    "clipped tones",
    "encoding",
    "ending",
    "tone turns back",
    "banding",
    "folded hues",
    "grey drift",
    "skin",
    "gamut",
    "clipping",
    "finish",
]
Mask = Literal["", "black", "white", "outside"]
#: Pixels taken of each picture.
PIXELS = 6000


@dataclass(frozen=True)
class Check:
    """What, how much, where, and the one action that mends it.

    amount: a share, degrees or codes, as the text says. step: the id of the step at fault. picture: index of
    the picture where it is worst, −1 for none. mask: which mask shows it (see ``readings.masks``), empty for
    none. action: in words, empty where there is none. target: another step that the action needs. note: good
    to know rather than a warning.
    """

    kind: Kind
    text: str
    amount: float
    step: str = ""
    picture: int = -1
    mask: Mask = ""
    action: str = ""
    target: str = ""
    note: bool = False


@dataclass(frozen=True)
class Sight:
    """What the checks look at: a look, and samples of pictures in its input encoding, float32 ``(n, 3)``,
    trimmed."""

    look: Look
    tables: Tables
    samples: tuple[F32, ...]

    @cached_property
    def program(self) -> Program:
        """The look compiled. Raises ``LookError``."""
        return Treatment(self.look).compile(self.tables)

    @cached_property
    def traits(self) -> Traits:
        """The look's traits. Raises ``LookError``."""
        return traits(self.look, tables=self.tables)


def sight(look: Look, pictures: Sequence[F32], tables: Tables) -> Sight:
    """A look and what is seen of the pictures: about ``PIXELS`` of each."""
    flat = [p.reshape(-1, 3) for p in pictures]
    return Sight(look, tables, tuple(np.ascontiguousarray(p[:: max(1, len(p) // PIXELS)]) for p in flat))


def name_of(step: Step) -> str:
    """The step's label, or what it is called."""
    return step.label or step.title


def numbered(look: Look, step_id: str) -> str:
    """A step as a person finds it in the order: its number and name."""
    rows = [s for s in every_step(look.steps) if s.kind != "group"]  # type: ignore[attr-defined]
    k = next((i for i, s in enumerate(rows, 1) if s.id == step_id), 0)
    step = next(s for s in every_step(look.steps) if s.id == step_id)
    return f"Step {k} ({name_of(step)})" if k else name_of(step)


def replaced(steps: list[Any], step_id: str, change: Callable[[Any], list[Any]]) -> list[Any]:
    """Steps with one of them, in a group too, replaced by those that ``change`` makes of it."""
    found: list[Any] = []
    for step in steps:
        if step.id == step_id:
            found += change(step)
        elif step.kind == "group":
            found.append(step.model_copy(update={"steps": replaced(step.steps, step_id, change)}))
        else:
            found.append(step)
    return found


def with_steps(look: Look, steps: list[Any]) -> Look:
    """The look with other steps."""
    return look.model_copy(update={"steps": steps})


def halved(look: Look, step_id: str) -> Look:
    """The look with one step at half its strength."""
    return with_steps(
        look,
        replaced(
            look.steps, step_id, lambda s: [s.model_copy(update={"strength": round(s.strength / 2, 3)})]
        ),
    )


def easing(look: Look, step_id: str) -> str:
    """The action that eases a step, in words; empty where there is no step."""
    return f"Ease {numbered(look, step_id)} to half" if step_id else ""


def ease(seen: Sight, check: Check) -> Look:
    """The action of many checks: the step at fault at half its strength."""
    return halved(seen.look, check.step)


def heaviest(seen: Sight, badness: Callable[[Traits], float]) -> str:
    """The step whose easing helps most; empty where there is none to ease."""
    look = seen.look
    eased = [s for s in look.steps if s.on and s.strength > 0 and not s.neutral() and s.purpose != "convert"]
    if not eased:
        return ""
    left = [badness(traits(halved(look, s.id), tables=seen.tables)) for s in eased]
    return str(eased[int(np.argmin(left))].id)


def greys(program: Program) -> F32:
    """A grey ramp of 256 steps through a program."""
    ramp = np.repeat(np.linspace(0, 1, 256, dtype=np.float32)[:, None], 3, axis=1)
    if program.source.response == "linear":
        ramp = encoding("film_log").decode(ramp * np.float32(0.8))
    return program(ramp)


def culprit(seen: Sight, wrong: Callable[[F32], bool]) -> str:
    """The first top-level step after which a grey ramp is wrong; empty where there is none."""
    program = seen.program
    return next((row.step for row in program.steps() if row.on and wrong(greys(program.upto(row.step)))), "")
