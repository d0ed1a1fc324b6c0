"""Shots that are cut from a clip, and stills that come straight into a project."""

from typing import Any

from django.core.files.uploadedfile import UploadedFile
from django.db import transaction
from saucer_core.formats import pictures

from .. import storage
from ..clips import rules as clips
from ..errors import RuleError
from ..frames import rules as frames
from ..frames.looking import tag_of
from ..frames.reading_rules import encoding_by
from ..jobs import rules as jobs
from ..jobs.rules import Job, State, running
from ..people import rules as people
from ..people.rules import Person
from .models import Project, Shot
from .rules import NewShot, add_shots, find_scene, must_work

#: Shots that are cut from one clip at once.
MOST = 400


def order(project: Project, person: Person, clip: clips.Clip, chosen: list[int], scene_id: int | None) -> Job:
    """Asks for shots of a clip, one for each chosen first frame. chosen: which of its cuts; all where there
    are none. Raises 422."""
    from .tasks import cut

    must_work(person, project)
    clips.whole(clip.pk)
    wanted = chosen or list(clip.cuts)
    if not set(wanted) <= set(clip.cuts):
        raise RuleError(422, f"{clip.name} is cut elsewhere by now. Look at its cuts again.")
    if len(wanted) > MOST:
        raise RuleError(422, f"At most {MOST} shots are cut at once. Choose some of the {len(wanted)}.")
    if scene_id is not None:
        find_scene(project, scene_id)
    with transaction.atomic():
        job = jobs.order("shots", f"Shots of {clip.name}", person, len(wanted))
        jobs.enqueue(
            job,
            cut,
            job_id=job.pk,
            project_id=project.pk,
            clip_id=clip.pk,
            person_id=person.pk,
            firsts=sorted(wanted),
            scene_id=scene_id,
        )
    return job


def make(
    job_id: int, project_id: int, clip_id: int, person_id: int, firsts: list[int], scene_id: int | None
) -> None:
    """Makes the shots: all of them or none. Run by a worker; may run again after a worker died."""
    if jobs.find(job_id).state == State.DONE:
        return
    made: list[frames.Frame] = []

    def undo() -> None:
        for frame in made:
            frames.let_go(frame)

    with running(job_id, undo) as progress:
        project, person, clip = (
            Project.objects.get(pk=project_id),
            people.find(person_id),
            clips.whole(clip_id),
        )
        cuts = [*clip.cuts, clips.facts_of(clip).frames]
        ends = {first: cuts[cuts.index(first) + 1] - 1 for first in firsts if first in cuts}
        named = f"{clip.name} {{:0{len(str(len(clip.cuts)))}d}}"
        wanted = []
        for k, (first, last) in enumerate(ends.items()):
            name = named.format(cuts.index(first) + 1) if len(clip.cuts) > 1 else clip.name
            progress.at(k, name)
            # The middle stands for the shot: its ends are often under way.
            made += clips.posters(clip, [(first + last) // 2], [name], person)
            wanted.append(NewShot(made[-1], name, clip, first, last))
        scene = find_scene(project, scene_id) if scene_id is not None else None
        with transaction.atomic():
            add_shots(project, person, wanted, scene)


def take_still(
    project: Project, person: Person, upload: "UploadedFile[Any]", folder: str, encoding_key: str
) -> Shot:
    """A still that is dropped into a project as a shot. How it is encoded is said, or told by the project's
    rules, else by the file.

    Raises ``FileError``, 403.
    """
    must_work(person, project)
    key = encoding_key
    if not key:
        with (
            storage.uploaded(upload, pictures.SIZE_LIMIT, "a picture") as (path, name),
            pictures.opened(path, name) as found,
        ):
            key = encoding_by(project.reading, name, folder, tag_of(found))
        upload.seek(0)
    frame = frames.take_upload(upload, name="", light="", encoding_key=key, person=person, of_shot=True)
    return add_shots(project, person, [NewShot(frame)])[0]


def take_clip(
    project: Project,
    person: Person,
    upload: "UploadedFile[Any]",
    folder: str,
    encoding_key: str,
    *,
    rate: str = "",
) -> clips.Clip:
    """A clip that is dropped into a project; its shots are cut once its cuts were seen. rate: as in
    ``clips.take_upload``. Raises ``FileError``, 403."""
    must_work(person, project)
    key = encoding_key or encoding_by(project.reading, upload.name or "", folder, "")
    return clips.take_upload(upload, person, key, project.circle, rate=rate)
