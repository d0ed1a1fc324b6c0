"""The shots of a project in their places: how they stand, and bringing them to stand otherwise."""

from django.db.models import QuerySet
from saucer_core.trim import Trim

from ..clips import rules as clips
from ..errors import RuleError
from ..frames import rules as frames
from .models import Change, Project, Scene, Shot
from .places import ShotTrim
from .states import Arrangement, Standing

__all__ = [
    "arrange",
    "arranged",
    "arranged_as",
    "came_later",
    "every_shot_of",
    "new_shot",
    "set_trim",
    "standing",
]

#: What of a shot an arrangement says.
_SAID = ("number", "aside", "scene_id", "frame_id", "clip_id", "first", "last")


def every_shot_of(project: Project) -> QuerySet[Shot]:
    """All shots of a project, those that are laid aside too."""
    return Shot.objects.ever().filter(project=project)


def new_shot(
    project: Project,
    number: int,
    frame: frames.Frame,
    *,
    name: str = "",
    clip: clips.Clip | None = None,
    first: int = 0,
    last: int = 0,
    scene: Scene | None = None,
    like: Shot | None = None,
    aside: bool = False,
) -> Shot:
    """A new shot, with its frame's own trim to start from, or with what ``like`` has. The project must be
    locked."""
    return Shot.objects.create(
        project=project,
        number=number,
        name=(name or frame.name)[:120],
        frame=frame,
        trim=like.trim if like else frame.trim,
        meant=like.meant if like else [],
        scene=scene,
        clip=clip,
        first=first,
        last=last,
        aside=aside,
    )


def set_trim(shot: Shot, trim: Trim) -> tuple[ShotTrim, ShotTrim]:
    """Gives a shot another trim; says what it was and what it is, for a change."""
    Shot.objects.filter(pk=shot.pk).update(trim=trim)
    return ShotTrim(shot=shot.pk, trim=shot.trim), ShotTrim(shot=shot.pk, trim=trim)


def came_later(change_id: int, shot: Shot) -> None:
    """Has the change of a cut know of a shot that came later: taking it back and doing it again finds it."""
    change = Change.objects.select_for_update().filter(pk=change_id).first()
    if change is not None and change.after.arrangement is not None:
        now = change.after.arrangement
        more = now.model_copy(update={"shots": (*now.shots, standing(shot))})
        change.after = change.after.model_copy(update={"arrangement": more})
        change.save(update_fields=["after"])


def standing(shot: Shot) -> Standing:
    """How a shot stands."""
    return Standing(
        shot=shot.pk,
        number=shot.number,
        aside=shot.aside,
        scene=shot.scene_id,
        frame=shot.frame_id,
        clip=shot.clip_id,
        first=shot.first,
        last=shot.last,
    )


def arranged(project: Project) -> Arrangement:
    """How the shots of a project stand now, those that are laid aside too."""
    shots = tuple(standing(shot) for shot in every_shot_of(project))
    return Arrangement(cut=project.cut_number, events=project.cut_events, shots=shots)


def arranged_as(project: Project, wanted: Arrangement) -> bool:
    """Whether the shots of an arrangement still stand as it says, but for their scenes and the pictures that
    stand for them."""

    def places(found: Arrangement) -> dict[int, tuple[object, ...]]:
        return {x.shot: (None if x.aside else x.number, x.clip, x.first, x.last) for x in found.shots}

    now, then = places(arranged(project)), places(wanted)
    same = (project.cut_number, project.cut_events) == (wanted.cut, wanted.events)
    return same and all(now.get(shot) == place for shot, place in then.items())


def arrange(project: Project, wanted: Arrangement) -> None:
    """Puts the shots of a project where an arrangement has them. The project must be locked.

    Shots that it does not name: those of a cut are laid aside, all others stand behind those that it names.
    Raises 409 where a shot of it is not there any more.
    """
    rows = {shot.pk: shot for shot in every_shot_of(project).select_for_update(of=("self",))}
    named = {one.shot for one in wanted.shots}
    if not named <= rows.keys():
        raise RuleError(409, "Shots of this cut were taken out since: it cannot be brought back.")
    scenes = set(project.scenes.values_list("pk", flat=True))
    pictures = set(
        frames.every_row().filter(pk__in=[x.frame for x in wanted.shots]).values_list("pk", flat=True)
    )
    for one in wanted.shots:
        row = rows[one.shot]
        row.number, row.aside, row.clip_id = one.number, one.aside, one.clip
        row.first, row.last = one.first, one.last
        row.frame_id = one.frame if one.frame in pictures else row.frame_id
        row.scene_id = one.scene if one.scene in scenes else None
    top = max([wanted.events, *(one.number for one in wanted.shots if not one.aside)])
    for row in sorted(rows.values(), key=lambda row: row.number):
        if row.pk in named or row.aside:
            continue
        if row.clip_id is not None and row.number <= project.cut_events:
            row.aside = True
        else:
            top += 1
            row.number = top
    # Numbers are told apart among shots in use alone: all step aside before they change places.
    every_shot_of(project).update(aside=True)
    Shot.objects.ever().bulk_update(rows.values(), _SAID, batch_size=500)
    project.cut_number, project.cut_events = wanted.cut, wanted.events
    project.save(update_fields=["cut_number", "cut_events"])
