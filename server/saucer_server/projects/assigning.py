"""Putting looks on projects, scenes and shots. The nearest assignment wins; what was done is written down and
can be undone."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Any, Literal

from django.db import transaction
from django.db.models import Q
from saucer_core.stack import STACK
from saucer_core.trim import Trim

from ..errors import RuleError
from ..looks import rules as looks
from ..lookup import by_id
from ..people.activity import Happening, note
from ..people.rules import Person
from .models import Assignment, Change, Given, Layer, Project, Scene, Shot
from .rules import chosen, find_scene, may_wear, must_work, worn

__all__ = [
    "Wish",
    "assign",
    "changes_of",
    "keep_looks",
    "of_place",
    "record",
    "restore",
    "settle",
    "touched_since",
    "undo",
]

#: A revision (none: no look) and its strength.
Put = tuple[int | None, float]
PROJECT = "project"
SCENE = "scene"
SHOT = "shot"
TRIM = "trim"


@dataclass(frozen=True)
class Wish:
    """What is to be put where.

    how: instead of what is there, over it, or nothing of its own, so that what is put around counts. layers:
    revisions with their strengths, the first one first; none with *replace* means no look. seen: the newest
    change that the person had before them, if said.
    """

    shots: Sequence[int] = ()
    scenes: Sequence[int] = ()
    whole: bool = False
    how: Literal["replace", "stack", "inherit"] = "replace"
    layers: Sequence[tuple[int, float]] = ()
    seen: int | None = None


def of_place(project: Project, key: str) -> list[Put] | None:
    """What is put on a place (``project``, ``scene 3``, ``shot 7``); ``None`` where nothing is."""
    rows = list(_rows(project, key))
    return [(row.revision_id, row.strength) for row in rows] if rows else None


def _rows(project: Project, key: str) -> Iterable[Assignment]:
    kind, _, number = key.partition(" ")
    rows = project.assignments.order_by("place")
    if kind == SHOT:
        return rows.filter(shot_id=int(number))
    return (
        rows.filter(scene_id=int(number), shot=None) if kind == SCENE else rows.filter(scene=None, shot=None)
    )


def restore(project: Project, key: str, puts: Sequence[Put] | None) -> None:
    """Puts exactly that on a place. Raises 409 for a place or a revision that is not there any more."""
    kind, _, number = key.partition(" ")
    where: dict[str, Any] = (
        {"shot_id": int(number)} if kind == SHOT else {"scene_id": int(number)} if kind == SCENE else {}
    )
    gone = (kind == SHOT and not project.shots.filter(pk=int(number)).exists()) or (
        kind == SCENE and not project.scenes.filter(pk=int(number)).exists()
    )
    wanted = {r for r, _ in puts or () if r is not None}
    if gone or looks.every_revision().filter(pk__in=wanted).count() != len(wanted):
        raise RuleError(
            409, "A shot, a scene or a look of this is not there any more: it cannot be brought back."
        )
    for row in list(_rows(project, key)):
        row.delete()
    for place, (revision, strength) in enumerate(puts or (), 1):
        Assignment.objects.create(
            project=project, place=place, revision_id=revision, strength=strength, **where
        )


def settle(project: Project) -> None:
    """Works out anew what is on each shot; rows that stay right are left alone."""
    by_place: dict[str, list[Put]] = {}
    for row in project.assignments.order_by("place"):
        key = (
            f"{SHOT} {row.shot_id}" if row.shot_id else f"{SCENE} {row.scene_id}" if row.scene_id else PROJECT
        )
        by_place.setdefault(key, []).append((row.revision_id, row.strength))
    there: dict[int, list[tuple[int, float, str]]] = {}
    for layer in Layer.objects.filter(shot__project=project).order_by("place"):
        there.setdefault(layer.shot_id, []).append((layer.revision_id, layer.strength, layer.given_by))
    for shot in project.shots.all():
        places = (
            (Given.SHOT, f"{SHOT} {shot.pk}"),
            (Given.SCENE, f"{SCENE} {shot.scene_id}"),
            (Given.PROJECT, PROJECT),
        )
        given, puts = next(((g, by_place[k]) for g, k in places if k in by_place), (Given.PROJECT, []))
        wanted = [(r, s, str(given)) for r, s in puts if r is not None]
        if wanted != there.get(shot.pk, []):
            Layer.objects.filter(shot=shot).delete()
            Layer.objects.bulk_create(
                Layer(shot=shot, place=k, revision_id=r, strength=s, given_by=g)
                for k, (r, s, g) in enumerate(wanted, 1)
            )


def keep_looks(project: Project, scene: Scene) -> None:
    """Puts on each shot of a scene what it has from there, so that it stays when the scene goes."""
    puts = of_place(project, f"{SCENE} {scene.pk}")
    for shot in scene.shots.all() if puts else ():
        if of_place(project, f"{SHOT} {shot.pk}") is None:
            restore(project, f"{SHOT} {shot.pk}", puts)


def touched_since(project: Project, person: Person, seen: int | None, shots: Iterable[int]) -> None:
    """Raises 409 where somebody else changed one of the shots after what the person saw. The project must be
    locked."""
    if seen is None:
        return
    mine = set(shots)
    for change in project.changes.filter(pk__gt=seen).exclude(made_by=person).select_related("made_by"):
        if mine & set(change.shots):
            raise RuleError(
                409,
                f"{change.made_by} was quicker: {change.words}. Look at it, then do yours again.",
                change=change.pk,
            )


def record(
    project: Project,
    person: Person,
    kind: str,
    words: str,
    before: dict[str, Any],
    after: dict[str, Any],
    shots: Iterable[int],
) -> Change:
    """Writes down what was done: among what can be taken back, and, but for trims, in the activity of all."""
    if kind != "trim":
        said = "took back something in" if kind == "undo" else "changed"
        note(Happening.PROJECT, person, said, project.name, more=words, to=f"/projects/{project.pk}")
    return Change.objects.create(
        project=project,
        kind=kind,
        words=words[:300],
        before=before,
        after=after,
        shots=sorted(shots),
        made_by=person,
    )


def changes_of(project: Project) -> list[Change]:
    """What was done last, the newest first."""
    return list(project.changes.select_related("made_by")[:60])


def _keys(project: Project, wish: Wish) -> list[str]:
    shots = chosen(project, list(wish.shots))
    scenes = [find_scene(project, i) for i in wish.scenes]
    return [
        *([PROJECT] if wish.whole else []),
        *(f"{SCENE} {s.pk}" for s in scenes),
        *(f"{SHOT} {s.pk}" for s in shots),
    ]


def _around(project: Project, key: str) -> list[Put]:
    """What counts at a place, its own or what is put around it."""
    own = of_place(project, key)
    if own is not None:
        return own
    kind, _, number = key.partition(" ")
    if kind == SHOT:
        scene = project.shots.get(pk=int(number)).scene_id
        return _around(project, f"{SCENE} {scene}") if scene else _around(project, PROJECT)
    return _around(project, PROJECT) if kind == SCENE else []


def _wanted(project: Project, wish: Wish, key: str) -> list[Put] | None:
    if wish.how == "inherit":
        return None
    if wish.how == "replace":
        return list(wish.layers) or [(None, 1.0)]
    return [*(p for p in _around(project, key) if p[0] is not None), *wish.layers]


def _checked(wish: Wish) -> list[looks.Revision]:
    found = [looks.find_revision(r) for r, _ in wish.layers]
    for revision in found:
        if revision.status == looks.Status.RETIRED:
            raise RuleError(409, f"{revision} is retired. Choose another revision.")
    return found


def assign(project: Project, person: Person, wish: Wish) -> Change:
    """Puts looks on places of a project; all of it or nothing.

    Raises 403, 404, 409 (a retired revision, somebody was quicker), and 422 where nothing is chosen or too
    much would be stacked.
    """
    must_work(person, project)
    revisions = _checked(wish)
    with transaction.atomic():
        project = Project.objects.select_for_update().get(pk=project.pk)
        may_wear(project, [pk for pk, _ in wish.layers])
        keys = _keys(project, wish)
        if not keys:
            raise RuleError(422, "Choose shots or a scene first.")
        if wish.how == "stack" and not revisions:
            raise RuleError(422, "Choose a look to stack.")
        touched = _shots_of(project, keys)
        touched_since(project, person, wish.seen, touched)
        before: dict[str, Any] = {key: of_place(project, key) for key in keys}
        after: dict[str, Any] = {key: _wanted(project, wish, key) for key in keys}
        if any(len(puts or ()) > STACK for puts in after.values()):
            raise RuleError(
                422,
                f"At most {STACK} looks are stacked on one place. Replace them, or make one look of them.",
            )
        _apply(project, after)
        return record(
            project, person, "assign", _words(wish, revisions, keys, project), before, after, touched
        )


def _apply(project: Project, wanted: dict[str, Any]) -> None:
    for key, puts in wanted.items():
        restore(project, key, [(r, s) for r, s in puts] if puts is not None else None)
    settle(project)
    for shot in project.shots.filter(layers__place__gt=1).distinct():
        worn(list(shot.layers.select_related("revision__look")))


def _shots_of(project: Project, keys: Sequence[str]) -> set[int]:
    if PROJECT in keys:
        return set(project.shots.values_list("pk", flat=True))
    own = {int(k.partition(" ")[2]) for k in keys if k.startswith((SHOT, TRIM))}
    scenes = [int(k.partition(" ")[2]) for k in keys if k.startswith(SCENE)]
    return own | set(project.shots.filter(scene_id__in=scenes).values_list("pk", flat=True))


def _words(wish: Wish, revisions: Sequence[looks.Revision], keys: Sequence[str], project: Project) -> str:
    names = " + ".join(
        f"{r} {s:.0%}" if s < 1 else str(r) for r, (_, s) in zip(revisions, wish.layers, strict=True)
    )
    where = _where(keys, project)
    if wish.how == "inherit":
        return f"{where}: as around"
    if not names:
        return f"no look on {where}"
    return f"{names} {'stacked onto' if wish.how == 'stack' else 'on'} {where}"


def _where(keys: Sequence[str], project: Project) -> str:
    said = []
    if PROJECT in keys:
        said.append("the project")
    said += [Scene.objects.get(pk=int(k.partition(" ")[2])).name for k in keys if k.startswith(SCENE)]
    shots = [int(k.partition(" ")[2]) for k in keys if k.startswith(SHOT)]
    if len(shots) == 1:
        said.append(Shot.objects.get(pk=shots[0]).name)
    elif shots:
        said.append(f"{len(shots)} shots")
    return ", ".join(said)


def undo(project: Project, person: Person, change_id: int) -> Change:
    """Takes back what somebody did, where nothing was done to the same places since; taking that back does it
    again. Raises 409."""
    must_work(person, project)
    with transaction.atomic():
        project = Project.objects.select_for_update().get(pk=project.pk)
        done = by_id(project.changes.filter(~Q(kind="stay")), change_id, "change")
        if done.undone:
            raise RuleError(409, "That was taken back already.")
        for key, value in done.after.items():
            if _now(project, key) != _plain(key, value):
                raise RuleError(
                    409, f"{done.words}: something was done to the same since. Take that back first."
                )
        trims = {k: v for k, v in done.before.items() if k.startswith(TRIM)}
        for key, trim in trims.items():
            Shot.objects.filter(pk=int(key.partition(" ")[2])).update(trim=trim)
        _apply(project, {k: v for k, v in done.before.items() if not k.startswith(TRIM)})
        done.undone = True
        done.save(update_fields=["undone"])
        words = (
            done.words.removeprefix("taken back: ") if done.kind == "undo" else f"taken back: {done.words}"
        )
        kind = "assign" if done.kind == "undo" else "undo"
        return record(project, person, kind, words, done.after, done.before, done.shots)


def _now(project: Project, key: str) -> Any:
    if key.startswith(TRIM):
        shot = project.shots.filter(pk=int(key.partition(" ")[2])).first()
        return Trim.model_validate(shot.trim).model_dump() if shot else None
    puts = of_place(project, key)
    return [list(p) for p in puts] if puts is not None else None


def _plain(key: str, value: Any) -> Any:
    if key.startswith(TRIM):
        return Trim.model_validate(value).model_dump()
    return [list(p) for p in value] if value is not None else None
