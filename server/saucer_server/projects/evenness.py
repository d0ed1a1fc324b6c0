"""How evenly the shots of a project sit beside each other under their looks."""

import json
from collections.abc import Sequence
from dataclasses import asdict, dataclass

from saucer_core.readings.evenness import WIDTH, Apart, Reading, apart, middle, read

from .. import storage
from ..errors import RuleError
from ..frames import rules as frames
from ..luts.rules import table
from .models import Project, Scene, Shot
from .rules import shots_of, worn

__all__ = ["WIDTH", "OnWall", "SceneOnWall", "aim_for", "reading", "wall"]


def reading(shot: Shot) -> Reading:
    """What a shot shows under its look; kept by what it is made from. Raises ``LookError``."""
    on = worn(list(shot.layers.all()))
    trim = shot.trim
    made_of = [
        on.digest if on else "",
        on.strength if on else 1,
        shot.frame.digest,
        shot.frame.encoding,
        trim.model_dump(),
    ]

    def measure() -> bytes:
        look, strength = (on.look, on.strength) if on else (None, 1.0)
        rgb = frames.original(shot.frame, WIDTH)
        return json.dumps(asdict(read(look, rgb, shot.frame.encoding, trim, strength, tables=table))).encode()

    found = json.loads(storage.kept(storage.result("evenness", made_of, ".json"), measure))
    grey = found["grey"]
    return Reading(found["skin"], (grey[0], grey[1]) if grey else None, found["tone"])


@dataclass(frozen=True)
class OnWall:
    """A shot with what it shows and by what it stands out of its scene, but for what is meant."""

    shot: Shot
    reading: Reading
    apart: list[Apart]


@dataclass(frozen=True)
class SceneOnWall:
    """A scene (``None``: the shots that are in none) with its shots, and what is usual among them."""

    scene: Scene | None
    usual: Reading
    shots: list[OnWall]


def _scene(scene: Scene | None, shots: Sequence[Shot]) -> SceneOnWall:
    readings = [reading(s) for s in shots]
    outliers = apart(readings)
    rows = [
        OnWall(shot, own, [a for a in found if a.what not in shot.meant])
        for shot, own, found in zip(shots, readings, outliers, strict=True)
    ]
    return SceneOnWall(scene, middle(readings), rows)


def wall(project: Project) -> list[SceneOnWall]:
    """All shots by scene, in order; those in none last."""
    shots = list(shots_of(project))
    scenes: list[Scene | None] = [*project.scenes.all(), None]
    found = [(scene, [s for s in shots if s.scene_id == (scene.pk if scene else None)]) for scene in scenes]
    return [_scene(scene, own) for scene, own in found if own or scene]


def aim_for(project: Project, shot: Shot, hero: Shot | None) -> Reading:
    """What a shot is to be brought to: another shot, or what is usual among the others of its scene. Raises
    409 where there is none."""
    if hero is not None:
        if hero.pk == shot.pk:
            raise RuleError(409, "A shot cannot be brought to itself. Choose another one.")
        return reading(hero)
    others = [s for s in shots_of(project).filter(scene=shot.scene) if s.pk != shot.pk]
    if not others:
        raise RuleError(
            409, f"{shot.name} is alone in its scene. Choose the shot that it is to be brought to."
        )
    return middle([reading(s) for s in others])
