"""Where looks are put: on a whole project, on a scene, or on a shot; and what is put there."""

from typing import Literal

from pydantic import BaseModel, ConfigDict
from saucer_core.trim import Trim

from ..fields import Share


class Place(BaseModel):
    """A place of a project. id: of the scene or the shot; 0 for the project itself."""

    model_config = ConfigDict(frozen=True)

    kind: Literal["project", "scene", "shot"]
    id: int = 0


WHOLE = Place(kind="project")


def on_scene(scene_id: int) -> Place:
    """The place of a scene."""
    return Place(kind="scene", id=scene_id)


def on_shot(shot_id: int) -> Place:
    """The place of a shot."""
    return Place(kind="shot", id=shot_id)


class Put(BaseModel):
    """A revision that is put on a place, by its row, and its strength; no revision: no look, whatever is put
    around the place."""

    model_config = ConfigDict(frozen=True)

    revision: int | None
    strength: Share = 1.0


#: What is put on one place, the lowest first; ``None`` where nothing is, so that what lies around counts.
Puts = tuple[Put, ...] | None


class PlacePuts(BaseModel):
    """A place with what is put on it."""

    model_config = ConfigDict(frozen=True)

    place: Place
    puts: Puts


class ShotTrim(BaseModel):
    """A shot with its trim."""

    model_config = ConfigDict(frozen=True)

    shot: int
    trim: Trim
