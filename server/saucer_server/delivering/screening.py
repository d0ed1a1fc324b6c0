"""Shots of a delivery as pictures: for the screen, and to see what an encoding would lose of them."""

import json
from dataclasses import dataclass

from saucer_core.arrays import F32
from saucer_core.readings.evenness import lost

from .. import storage
from ..bench.pictures import rendered
from ..bench.pictures import still as screen_still
from ..projects.rules import Project
from .plan import Plan
from .snapshots import DeliveredShot, taken

#: Pixels: width of the pictures that losses are measured on.
MEASURED = 240


def shown(shot: DeliveredShot, width: int) -> F32:
    """A shot under its look, without its finish, in what the look gives."""
    return rendered(shot.look(), shot.picture(), width, trim=shot.trim)


def screened(shot: DeliveredShot, width: int) -> bytes:
    """A shot as it is delivered, JPEG for the screen."""
    frame, look = shot.picture(), shot.look()
    frame.encoding = shot.encoding
    return screen_still(look, look.digest(), frame, width, trim=shot.trim)


@dataclass(frozen=True)
class Loss:
    """What an encoding loses of shots, as shares of their pictures, 0 to 1: outside the gamut and brighter
    than white, on average, and on the worst of them (its number, None where nothing is lost)."""

    encoding: str
    gamut: float
    lights: float
    worst_gamut: int | None
    worst_gamut_share: float
    worst_lights: int | None
    worst_lights_share: float


def _measured(shots: list[DeliveredShot], target: str) -> list[tuple[int, float, float]]:
    """Of each shot: its number, the share outside the gamut, and the share brighter than white."""
    found = []
    for shot in shots:
        gone = lost(shown(shot, MEASURED), shot.look().output, target)
        found.append((shot.number, gone.gamut, gone.lights))
    return found


def losses(project: Project, target: str) -> Loss:
    """What an encoding loses of the shots that go out; kept by what is on them."""
    shots = taken(project, Plan(held="anyway")).shots
    made_of = [target, [[s.revisions, s.digest, s.encoding, s.trim.model_dump()] for s in shots]]
    kept = storage.kept(
        storage.result("losses", made_of, ".json"), lambda: json.dumps(_measured(shots, target)).encode()
    )
    rows: list[tuple[int, float, float]] = json.loads(kept)
    nothing = (None, 0.0, 0.0)
    gamut = max(rows, key=lambda row: row[1], default=nothing)
    lights = max(rows, key=lambda row: row[2], default=nothing)
    count = max(len(rows), 1)
    return Loss(
        encoding=target,
        gamut=sum(row[1] for row in rows) / count,
        lights=sum(row[2] for row in rows) / count,
        worst_gamut=gamut[0] if gamut[1] else None,
        worst_gamut_share=gamut[1],
        worst_lights=lights[0] if lights[2] else None,
        worst_lights_share=lights[2],
    )
