"""Looks to begin with."""

from collections.abc import Sequence

from .encodings import encoding
from .look import AnyStep, Look, every_step
from .steps.encode import Encode
from .steps.scene_to_display import SceneToDisplay

#: What a look gives unless somebody says another encoding.
USUAL = "bt709_display"
#: What material from a camera comes in as unless somebody says another encoding.
USUAL_LOG = "film_log"


def begun(input: str, output: str = USUAL, steps: Sequence[AnyStep] = ()) -> Look | None:
    """A look of those steps that expects ``input`` and gives ``output``, both keys of encodings.

    Where none of the steps converts, one that does is put before them: scene light is rendered for a display,
    anything else is encoded. None where the steps render scene light and there is none to render. Raises
    ``LookError`` for encodings that are not known, and ``ValueError`` for steps that are no look.
    """
    comes, goes = encoding(input), encoding(output)
    inner = every_step(list(steps))
    scene = comes.referred == "scene"
    if not scene and any(isinstance(step, SceneToDisplay) for step in inner):
        return None
    converts = any(isinstance(step, SceneToDisplay | Encode) for step in inner)
    way: list[AnyStep] = []
    if comes.key != goes.key and not converts:
        renders = scene and goes.referred == "display"
        way = [SceneToDisplay(id="way", to=output) if renders else Encode(id="way", to=output)]
    return Look(input=input, output=output, steps=[*way, *steps])
