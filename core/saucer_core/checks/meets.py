"""A step that is given another encoding than it can use, and a look that ends in another than it says."""

from typing import Any

from ..encodings import encoding
from ..look import Look, LookStep, every_step
from ..steps import LutStep, Step
from ..steps.encode import Encode
from ..steps.scene_to_display import SceneToDisplay
from ..steps.step import new_id
from .check import Check, Sight, numbered, replaced, with_steps

KINDS = ("encoding", "ending")


def _ending(look: Look) -> list[Check]:
    end, wanted = look.end(), encoding(look.output)
    if end == wanted:
        return []
    text = f"The steps end in {end.label}, but the look goes out as {wanted.label}."
    return [Check("ending", text, 1.0, action=f"Add the conversion to {wanted.label}")]


def find(seen: Sight) -> list[Check]:
    """Tables that want another kind of light than they are given, scene light shown unrendered, and a wrong
    end."""
    found = _ending(seen.look)
    given = seen.look.encodings()
    for step in every_step(seen.look.steps):
        at = given[step.id]
        if not step.on:
            continue
        if isinstance(step, LutStep) and step.table:
            wanted = encoding(step.expects)
            if wanted.referred != at.referred:
                text = (
                    f"{numbered(seen.look, step.id)} wants {wanted.label} and is given {at.label}: its "
                    "colours come out wrong."
                )
                found.append(
                    Check("encoding", text, 1.0, step.id, action=f"Bring the picture to {wanted.label} first")
                )
        if isinstance(step, Encode) and at.referred == "scene" and encoding(step.to).referred == "display":
            text = (
                f"{numbered(seen.look, step.id)} shows scene light on a display without rendering it: "
                "lights beyond white are cut."
            )
            found.append(Check("encoding", text, 1.0, step.id, action="Render it with Scene to display"))
    return found


def mend(seen: Sight, check: Check) -> Look:
    """Inserts the missing conversion."""
    look = seen.look
    if check.kind == "ending":
        end, wanted = look.end(), encoding(look.output)
        rendered = end.referred == "scene" and wanted.referred == "display"
        last: Step = SceneToDisplay(to=wanted.key) if rendered else Encode(to=wanted.key)
        return with_steps(look, [*look.steps, last])
    at = look.encodings()[check.step]

    def change(step: Any) -> list[Any]:
        if isinstance(step, Encode):
            return [SceneToDisplay(id=step.id, to=step.to)]
        wanted = encoding(step.expects)
        if wanted.referred == "display":
            return [SceneToDisplay(id=new_id(), to=wanted.key), step]
        # A display picture for a table of scene light: it is taken back to the scene by a look that does
        # nothing else.
        inner = Look(input=wanted.key, output=step.gives, steps=[step])
        return [
            LookStep(
                id=new_id(),
                label=f"{step.name or 'LUT'} on {at.label}"[:80],
                name=step.name[:160],
                look=inner,
            )
        ]

    return with_steps(look, replaced(look.steps, check.step, change))
