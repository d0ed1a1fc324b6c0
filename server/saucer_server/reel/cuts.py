"""The cuts of a project: how its shots begin and end under their looks, where one jumps, and what mends
it."""

import json
from collections.abc import Iterable
from dataclasses import asdict, dataclass

from saucer_core.arrays import F32
from saucer_core.formats import pictures
from saucer_core.readings.cuts import jumps
from saucer_core.readings.evenness import Apart, Reading, middle, read, suggest

from .. import storage
from ..clips import rules as clips
from ..errors import RuleError
from ..frames import rules as frames
from ..luts.rules import table
from ..projects import rules as projects
from ..projects.evenness import WIDTH
from ..projects.rules import Project, Shot
from ..projects.trimming import Suggestion

__all__ = ["OnReel", "SceneOnReel", "mended", "scene_of"]


@dataclass(frozen=True)
class OnReel:
    """A shot, what its first and its last frame show, and what jumps where it begins, but for what is
    meant."""

    shot: Shot
    begins: Reading
    ends: Reading
    jumps: list[Apart]


@dataclass(frozen=True)
class SceneOnReel:
    """The shots of a scene in order, and what is usual among them."""

    usual: Reading
    shots: list[OnReel]


def scene_of(project: Project, scene_id: int) -> SceneOnReel:
    """The cuts inside a scene; 0 for the shots that are in none. Raises 404."""
    scene = projects.find_scene(project, scene_id) if scene_id else None
    shots = list(projects.shots_of(project).filter(scene=scene))
    ends = [(_reading(shot, shot.first), _reading(shot, shot.last)) for shot in shots]
    rows = [
        OnReel(shot, begins, last, [one for one in found if one.what not in shot.meant])
        for shot, (begins, last), found in zip(shots, ends, jumps(ends), strict=True)
    ]
    return SceneOnReel(middle([reading for both in ends for reading in both]), rows)


def _picture(shot: Shot, number: int) -> F32:
    """A frame of the shot, small, as it is before its trim."""
    if shot.clip is None or number == shot.frame.number:
        return frames.original(shot.frame, WIDTH)
    return pictures.fit(clips.at(shot.clip, number, WIDTH), WIDTH, 100 * WIDTH)


def _reading(shot: Shot, number: int) -> Reading:
    """What a frame of the shot shows under its look; kept by what it is made from."""
    on = projects.worn(list(shot.layers.all()))
    source = shot.clip.pixels if shot.clip is not None else shot.frame.digest
    made_of = [
        *(on.digest if on else "", on.strength if on else 1),
        *(source, number, shot.frame.encoding, shot.trim.model_dump()),
    ]

    def measure() -> bytes:
        look, strength = (on.look, on.strength) if on else (None, 1.0)
        rgb = _picture(shot, number)
        found = read(look, rgb, shot.frame.encoding, shot.trim, strength, tables=table)
        return json.dumps(asdict(found)).encode()

    said = json.loads(storage.kept(storage.result("cuts", made_of, ".json"), measure))
    grey = said["grey"]
    return Reading(said["skin"], (grey[0], grey[1]) if grey else None, said["tone"])


#: Stops, and units of temperature and tint, up to which a trim mends a jump: beyond it the shots differ in
#: what they show (Saucer's own figures).
SMALL = {"exposure": 1.0, "temperature": 40.0, "tint": 40.0}


@dataclass(frozen=True)
class Mended:
    """The trim that mends a jump. small: whether it is one that a jump is mended by."""

    found: Suggestion
    small: bool


def mended(project: Project, shot_id: int) -> Mended:
    """The trim with which a shot begins as the one before it in its scene ends. Nothing is kept. Raises 404,
    and 409 for the first of a scene."""
    shot = projects.find_shot(project, shot_id)
    before = _before(projects.shots_of(project).filter(scene=shot.scene), shot)
    wanted = _reading(before, before.last)
    on = projects.worn(list(shot.layers.all()))
    look, strength = (on.look, on.strength) if on else (None, 1.0)
    rgb = _picture(shot, shot.first)
    found = suggest(look, rgb, shot.frame.encoding, shot.trim, wanted, strength, tables=table)
    moved = [
        abs(getattr(found.trim, name) - getattr(shot.trim, name)) <= most for name, most in SMALL.items()
    ]
    return Mended(Suggestion(found.trim, found.before, found.after, wanted), all(moved))


def _before(shots: Iterable[Shot], shot: Shot) -> Shot:
    last: Shot | None = None
    for one in shots:
        if one.pk == shot.pk:
            break
        last = one
    if last is None:
        raise RuleError(409, f"{shot.name} is the first of its scene: there is no cut before it.")
    return last
