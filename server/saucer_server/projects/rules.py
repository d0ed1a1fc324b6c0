"""Projects, their scenes and shots: who may change them, and what is on a shot."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import datetime

from django.db import transaction
from django.db.models import Count, Max, Prefetch, Q, QuerySet
from saucer_core.stack import Layer as StackLayer
from saucer_core.stack import stacked

from ..catalogue import uses
from ..clips import rules as clips
from ..errors import RuleError
from ..fields import take
from ..frames import rules as frames
from ..front_store import forget
from ..looks import rules as looks
from ..lookup import LARGEST, by_id
from ..people import activity, circles
from ..people.activity import Happening
from ..people.rules import Person, among, must
from ..removals import rules as removals
from .arranging import new_shot
from .models import Assignment, Change, Layer, Project, Scene, Shot
from .payloads import SHOTS, ProjectPatch, ShotPatch

__all__ = [
    "Assignment",
    "Change",
    "Layer",
    "Project",
    "Scene",
    "Shot",
    "Worn",
    "add_scene",
    "add_shots",
    "change",
    "change_scene",
    "change_shot",
    "chosen",
    "create",
    "every",
    "find",
    "find_scene",
    "find_shot",
    "gather",
    "keep_look",
    "keep_material",
    "may_wear",
    "must_work",
    "put",
    "remove_scene",
    "remove_shot",
    "say_delivered",
    "say_uses",
    "shots_of",
    "uses_of",
    "with_looks",
    "worn",
]


def find(project_id: int) -> Project:
    """The project; raises 404."""
    return by_id(every(), project_id, "project")


def with_looks(rows: QuerySet[Shot]) -> QuerySet[Shot]:
    """Shots with their frames and the looks on them.

    What several shots share, a clip or a revision with its whole look, is read once: shots hold the same row
    of it, which nobody may change in place.
    """
    on = Prefetch("layers__revision", looks.revisions_on())
    return rows.select_related("scene").prefetch_related("frame__added_by", "clip", on)


def shots_of(project: Project) -> QuerySet[Shot]:
    """The shots of a project in their order, with all that is shown of them."""
    return with_looks(project.shots.all())


def find_shot(project: Project, shot_id: int) -> Shot:
    """A shot of the project, with what is on it; raises 404."""
    return by_id(shots_of(project), shot_id, "shot")


def version_of(shot: Shot) -> str:
    """A mark that changes with the shot's picture."""
    on = [f"{layer.revision.digest} {layer.strength}" for layer in shot.layers.all()]
    return frames.address(shot.frame, *on, shot.trim.model_dump_json())[:12]


def find_scene(project: Project, scene_id: int) -> Scene:
    """A scene of the project; raises 404."""
    return by_id(project.scenes.all(), scene_id, "scene")


def must_work(person: Person, project: Project) -> None:
    """Raises 403 for those who may not change the project: others than its members and leads, where it has
    members."""

    def theirs() -> bool:
        return not project.members.exists() or project.members.filter(pk=person.pk).exists()

    must(
        person,
        "shot.work",
        theirs,
        f"{project.name} is changed by its members. Ask {project.made_by} to add you.",
    )


@dataclass(frozen=True)
class Worn:
    """What is on a shot: the look, its digest, and the strength over its own."""

    look: looks.LookValue
    digest: str
    strength: float


def worn(layers: list[Layer]) -> Worn | None:
    """The layers of a shot as one look; nothing for none. Raises 409 where they are more than one look
    holds."""
    if not layers:
        return None
    if len(layers) == 1:
        one = layers[0]
        return Worn(looks.recipe_of(one.revision), one.revision.digest, one.strength)
    parts = [
        StackLayer(looks.recipe_of(x.revision), x.strength, x.revision.look.name, x.revision.number)
        for x in layers
    ]
    try:
        whole = stacked(parts)
    except ValueError:
        raise RuleError(409, "These looks together are more than one look holds. Take one off.") from None
    return Worn(whole, whole.digest(), 1.0)


def every_shot() -> QuerySet[Shot]:
    """All shots of all projects."""
    return Shot.objects.all()


def lock(project: Project) -> Project:
    """The row of the project, held until the transaction ends."""
    return Project.objects.select_for_update().get(pk=project.pk)


def say_uses(project: Project) -> None:
    """Writes down for the catalogue on how many shots of the project each look is."""
    layers = Layer.objects.filter(shot__project=project).order_by().values_list("revision__look")
    shots = dict(layers.annotate(n=Count("shot", distinct=True)))
    uses.keep(project.pk, project.name, project.circle, shots)


def say_delivered(project: Project, number: int, at: datetime) -> None:
    """Writes down that a delivery is done; one that is done after a later one changes nothing."""
    earlier = Q(delivered=None) | Q(delivered__lt=number)
    Project.objects.filter(earlier, pk=project.pk).update(delivered=number, delivered_at=at)


def every() -> QuerySet[Project]:
    """All projects that whoever asks may see."""
    return Project.objects.select_related("made_by", "circle")


def create(person: Person, name: str, note: str) -> Project:
    """A new project."""
    must(person, "project.make")
    with transaction.atomic():
        project = Project.objects.create(name=name.strip(), note=note, made_by=person)
        activity.note(Happening.PROJECT, person, "started", project.name, to=f"/projects/{project.pk}")
    return project


def change(project: Project, person: Person, patch: ProjectPatch) -> Project:
    """Says what a project is called, delivers, how its files are named, how pictures are read, and who works
    on it.

    Raises 403, and 422 for a person who is not there.
    """
    must_work(person, project)
    members, private = patch.members, patch.private
    if members is not None or private is not None:
        must(person, "project.make")
    if members is not None:
        people = list(among(members))
        if len(people) != len(set(members)):
            raise RuleError(422, "Some of these people are not here any more. Choose again.")
    with transaction.atomic():
        row = lock(project)
        said = take(row, patch, "name", "note", "encodings", "pattern", "reading")
        if said:
            row.save(update_fields=said)
        if members is not None and set(row.members.values_list("pk", flat=True)) != {p.pk for p in people}:
            row.members.set(people)
            if row.circle is not None:
                circles.set_people(row.circle, people)
            names = ", ".join(map(str, people)) or "everybody"
            activity.note(
                Happening.PROJECT, person, "said who changes", row.name, more=names, to=f"/projects/{row.pk}"
            )
        if private is not None and private is (row.circle is None):
            _make_private(row) if private else _make_public(row)
            words = "made a private project of" if private else "opened to the team"
            activity.note(Happening.PROJECT, person, words, row.name, to=f"/projects/{row.pk}")
        if "name" in said or private is not None:
            say_uses(row)
    return row


def _make_private(project: Project) -> None:
    project.circle = circles.made_for(project.members.all())
    project.save(update_fields=["circle"])
    keep_material(project)
    frame_ids = list(frames.every_row().filter(circle=project.circle).values_list("pk", flat=True))
    transaction.on_commit(lambda: forget(projects=[project.pk], frames=frame_ids))


def _make_public(project: Project) -> None:
    if project.circle is not None:
        # What was kept to it, looks too, is there for everybody from now on.
        circles.let_go(project.circle)
    project.circle = None


def keep_material(project: Project) -> None:
    """Keeps what a private project alone has of pictures and clips to its people."""
    if project.circle is None:
        return
    made_for_it = Q(of_shot=True) | Q(passing=True)
    frames.every_row().filter(made_for_it, shots__project=project).update(circle=project.circle)
    elsewhere = Shot.objects.ever().exclude(project=project).exclude(clip=None).values("clip")
    clips.every().filter(shots__project=project).exclude(pk__in=elsewhere).update(circle=project.circle)


def keep_look(project: Project, look: looks.Look, person: Person, kept: bool) -> looks.Look:
    """Keeps a look to the people of a private project, or shows it to everybody again.

    Raises 403, and 409 where the project is not private or the look is on shots of another one.
    """
    must_work(person, project)
    looks.must_change(person, look)
    if project.circle is None:
        raise RuleError(
            409,
            f"{project.name} is there for everybody. Only a private project can keep looks to its members.",
        )
    with transaction.atomic():
        row = looks.lock_one(look.pk)
        if kept and Layer.objects.filter(revision__look=row).exclude(shot__project=project).exists():
            raise RuleError(
                409,
                f"{row.name} is on shots of other projects. Take it off there first, or keep a variation "
                "of it here.",
            )
        if kept and row.circle_id not in (None, project.circle_id):
            raise RuleError(409, f"{row.name} is kept to another project already.")
        row.circle = project.circle if kept else None
        row.save(update_fields=["circle"])
        if kept:
            revisions = list(row.revisions.values_list("pk", flat=True))
            transaction.on_commit(lambda: forget(revisions=revisions))
    return row


def may_wear(project: Project, revisions: Iterable[int]) -> None:
    """Raises 409 where a look is kept to another project: its shots would show it to others."""
    kept = (
        looks.every_revision()
        .filter(pk__in=list(revisions), look__circle__isnull=False)
        .exclude(look__circle=project.circle)
    )
    first = kept.select_related("look").first()
    if first is not None:
        raise RuleError(
            409,
            f"{first.look.name} is kept to another project. Show it to everybody first, or take "
            "another look.",
        )


def add_scene(project: Project, person: Person, name: str, shot_ids: Sequence[int]) -> Scene:
    """A new scene at the end, with shots of the project."""
    must_work(person, project)
    with transaction.atomic():
        Project.objects.select_for_update().get(pk=project.pk)
        top = project.scenes.aggregate(top=Max("place"))["top"] or 0
        scene = Scene.objects.create(project=project, place=top + 1, name=name.strip())
        put(project, chosen(project, shot_ids), scene)
    return scene


def put(project: Project, shots: list[Shot], scene: Scene | None) -> None:
    """Puts shots into a scene, or into none; what is put on the scene counts for them from now on."""
    from .assigning import settle

    project.shots.filter(pk__in=[s.pk for s in shots]).update(scene=scene)
    settle(project)


def gather(project: Project, person: Person, shot_ids: Sequence[int], scene_id: int | None) -> None:
    """Puts shots into a scene, or out of theirs. Raises 403, 404."""
    must_work(person, project)
    with transaction.atomic():
        Project.objects.select_for_update().get(pk=project.pk)
        put(project, chosen(project, shot_ids), find_scene(project, scene_id) if scene_id else None)


def change_scene(
    project: Project, person: Person, scene_id: int, *, name: str = "", place: int | None = None
) -> Scene:
    """Renames a scene or moves it to a place among the others, from 1 on."""
    must_work(person, project)
    with transaction.atomic():
        Project.objects.select_for_update().get(pk=project.pk)
        scene = find_scene(project, scene_id)
        scene.name = name.strip() or scene.name
        scene.save(update_fields=["name"])
        if place is not None:
            others = [s for s in project.scenes.all() if s.pk != scene.pk]
            others.insert(max(place - 1, 0), scene)
            for k, one in enumerate(others, 1):
                Scene.objects.filter(pk=one.pk).update(place=k)
    return find_scene(project, scene_id)


def remove_scene(project: Project, person: Person, scene_id: int) -> None:
    """Takes a scene apart; its shots stay, and keep the looks they have."""
    from .assigning import keep_looks, settle

    must_work(person, project)
    with transaction.atomic():
        Project.objects.select_for_update().get(pk=project.pk)
        scene = find_scene(project, scene_id)
        keep_looks(project, scene)
        scene.delete()
        settle(project)


def chosen(project: Project, shot_ids: Sequence[int]) -> list[Shot]:
    """Shots of the project by their ids; raises 404 where one is not there any more."""
    wanted = {i for i in shot_ids if 0 < i <= LARGEST}
    found = list(shots_of(project).filter(pk__in=wanted))
    if len(found) != len(set(shot_ids)):
        raise RuleError(404, "Some of these shots are not in the project any more. Reload and choose again.")
    return found


@dataclass(frozen=True)
class NewShot:
    """A shot to add: the frame that stands for it, what it is called, and the clip and frames it is cut
    from."""

    frame: frames.Frame
    name: str = ""
    clip: clips.Clip | None = None
    first: int = 0
    last: int = 0


def add_shots(
    project: Project, person: Person, wanted: list[NewShot], scene: Scene | None = None
) -> list[Shot]:
    """Adds shots at the end, each with its frame's own trim to start from."""
    from .assigning import settle

    must_work(person, project)
    with transaction.atomic():
        row = lock(project)
        top = max(project.shots.aggregate(top=Max("number"))["top"] or 0, row.cut_events)
        if project.shots.count() + len(wanted) > SHOTS:
            raise RuleError(422, f"A project holds {SHOTS:,} shots. Start another one.")
        removals.hold(frames.BIN, {new.frame.pk for new in wanted})
        removals.hold(clips.BIN, {new.clip.pk for new in wanted if new.clip is not None})
        made = [
            new_shot(
                project,
                top + k,
                new.frame,
                name=new.name,
                clip=new.clip,
                first=new.first,
                last=new.last,
                scene=scene,
            )
            for k, new in enumerate(wanted, 1)
        ]
        keep_material(project)
        settle(project)
    return made


def change_shot(project: Project, person: Person, shot_id: int, patch: ShotPatch) -> Shot:
    """Renames a shot, says that something is meant, puts it into a scene, or takes its picture to be encoded
    in another way."""
    must_work(person, project)
    with transaction.atomic():
        Project.objects.select_for_update().get(pk=project.pk)
        shot = by_id(project.shots.select_for_update(of=("self",)).select_related("frame"), shot_id, "shot")
        was = shot.frame
        if patch.encoding is not None:
            shot.frame = frames.read_as(shot.frame, patch.encoding)
        shot.save(update_fields=["frame", *take(shot, patch, "name", "meant")])
        if was.pk != shot.frame_id:
            frames.let_go(was)
            keep_material(project)
        if patch.scene is not None:
            put(project, [shot], find_scene(project, patch.scene) if patch.scene else None)
    return find_shot(project, shot_id)


def remove_shot(project: Project, person: Person, shot_id: int) -> None:
    """Takes a shot out of the project; a frame that was not made for it alone stays."""
    must_work(person, project)
    with transaction.atomic():
        Project.objects.select_for_update().get(pk=project.pk)
        shot = by_id(project.shots.select_for_update(of=("self",)).select_related("frame"), shot_id, "shot")
        frame = shot.frame
        shot.delete()
        frames.let_go(frame)


def uses_of(look: looks.Look) -> list[tuple[Project, int, list[Shot]]]:
    """Projects that use a look: each with the number of a revision and the shots that it is on."""
    whole = Q(revision__look=look) | Q(revision__look__merged_into=look)
    rows = Layer.objects.filter(whole, circles.shown("shot__project__circle"))
    rows = rows.order_by("shot__project__name", "shot__project_id", "-revision__number", "shot__number")
    found: dict[tuple[int, int], tuple[Project, int, list[Shot]]] = {}
    for layer in rows.select_related("shot__project", "revision").defer("revision__recipe"):
        key = (layer.shot.project_id, layer.revision.number)
        found.setdefault(key, (layer.shot.project, layer.revision.number, []))[2].append(layer.shot)
    return list(found.values())
