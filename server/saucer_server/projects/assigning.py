"""Putting looks on projects, scenes and shots. The nearest assignment wins; what was done is written down and
can be undone."""

from collections.abc import Iterable, Sequence

from django.db import transaction
from django.db.models import Q, QuerySet
from saucer_core.stack import STACK

from ..errors import RuleError
from ..looks import rules as looks
from ..lookup import by_id
from ..people.activity import Happening, note
from ..people.rules import Person
from .arranging import arrange, arranged_as
from .models import Assignment, Change, Given, Layer, Project, Scene, Shot
from .payloads import Wish
from .places import WHOLE, Place, PlacePuts, Put, Puts, on_scene, on_shot
from .rules import chosen, find_scene, may_wear, must_work, say_uses, worn
from .states import State

__all__ = [
    "assign",
    "changes_of",
    "keep_looks",
    "of_place",
    "record",
    "restore",
    "settle",
    "take_over",
    "touched_since",
    "undo",
]


def _rows(project: Project, place: Place) -> QuerySet[Assignment]:
    rows = project.assignments.order_by("place")
    if place.kind == "shot":
        return rows.filter(shot_id=place.id)
    rows = rows.filter(shot=None)
    return rows.filter(scene_id=place.id) if place.kind == "scene" else rows.filter(scene=None)


def of_place(project: Project, place: Place) -> Puts:
    """What is put on a place; ``None`` where nothing is."""
    rows = _rows(project, place)
    return tuple(Put(revision=row.revision_id, strength=row.strength) for row in rows) or None


def _is_gone(project: Project, place: Place) -> bool:
    if place.kind == "shot":
        return not project.shots.filter(pk=place.id).exists()
    return place.kind == "scene" and not project.scenes.filter(pk=place.id).exists()


def restore(project: Project, wanted: PlacePuts) -> None:
    """Puts exactly that on a place. Raises 409 for a place or a revision that is not there any more."""
    place, puts = wanted.place, wanted.puts or ()
    revisions = {put.revision for put in puts if put.revision is not None}
    there = looks.every_revision().filter(pk__in=revisions).count()
    if _is_gone(project, place) or there != len(revisions):
        raise RuleError(
            409, "A shot, a scene or a look of this is not there any more: it cannot be brought back."
        )
    for row in list(_rows(project, place)):
        row.delete()
    for number, put in enumerate(puts, 1):
        Assignment.objects.create(
            project=project,
            place=number,
            revision_id=put.revision,
            strength=put.strength,
            shot_id=place.id if place.kind == "shot" else None,
            scene_id=place.id if place.kind == "scene" else None,
        )


def _place_of(row: Assignment) -> Place:
    if row.shot_id:
        return on_shot(row.shot_id)
    return on_scene(row.scene_id) if row.scene_id else WHOLE


def settle(project: Project) -> None:
    """Works out anew what is on each shot; rows that stay right are left alone."""
    by_place: dict[Place, list[Put]] = {}
    for row in project.assignments.order_by("place"):
        by_place.setdefault(_place_of(row), []).append(Put(revision=row.revision_id, strength=row.strength))
    there: dict[int, list[tuple[int, float, str]]] = {}
    for layer in Layer.objects.filter(shot__project=project).order_by("place"):
        there.setdefault(layer.shot_id, []).append((layer.revision_id, layer.strength, layer.given_by))
    Layer.objects.filter(shot__project=project, shot__aside=True).delete()
    for shot in project.shots.all():
        places = (
            (Given.SHOT, on_shot(shot.pk)),
            (Given.SCENE, on_scene(shot.scene_id or 0)),
            (Given.PROJECT, WHOLE),
        )
        given, puts = next(((g, by_place[p]) for g, p in places if p in by_place), (Given.PROJECT, []))
        wanted = [(p.revision, p.strength, str(given)) for p in puts if p.revision is not None]
        if wanted != there.get(shot.pk, []):
            Layer.objects.filter(shot=shot).delete()
            Layer.objects.bulk_create(
                Layer(shot=shot, place=k, revision_id=r, strength=s, given_by=g)
                for k, (r, s, g) in enumerate(wanted, 1)
            )
    say_uses(project)


def take_over(project: Project, one: Shot, other: Shot) -> None:
    """Puts on another shot what is put on one."""
    puts = of_place(project, on_shot(one.pk))
    for number, put in enumerate(puts or (), 1):
        Assignment.objects.create(
            project=project, place=number, revision_id=put.revision, strength=put.strength, shot=other
        )


def keep_looks(project: Project, scene: Scene) -> None:
    """Puts on each shot of a scene what it has from there, so that it stays when the scene goes."""
    puts = of_place(project, on_scene(scene.pk))
    for shot in scene.shots.all() if puts else ():
        if of_place(project, on_shot(shot.pk)) is None:
            restore(project, PlacePuts(place=on_shot(shot.pk), puts=puts))


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
    before: State,
    after: State,
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
    return list(project.changes.select_related("made_by").defer("before", "after")[:60])


def _places(project: Project, wish: Wish) -> list[Place]:
    shots = chosen(project, wish.shots)
    scenes = [find_scene(project, i) for i in wish.scenes]
    whole = [WHOLE] if wish.whole else []
    return [*whole, *(on_scene(s.pk) for s in scenes), *(on_shot(s.pk) for s in shots)]


def _around(project: Project, place: Place) -> tuple[Put, ...]:
    """What counts at a place, its own or what is put around it."""
    own = of_place(project, place)
    if own is not None:
        return own
    if place.kind == "shot":
        scene = project.shots.get(pk=place.id).scene_id
        return _around(project, on_scene(scene) if scene else WHOLE)
    return _around(project, WHOLE) if place.kind == "scene" else ()


def _wanted(project: Project, wish: Wish, place: Place) -> Puts:
    if wish.how == "inherit":
        return None
    layers = tuple(Put(revision=one.revision, strength=one.strength) for one in wish.layers)
    if wish.how == "replace":
        return layers or (Put(revision=None),)
    return (*(put for put in _around(project, place) if put.revision is not None), *layers)


def _checked(wish: Wish) -> list[looks.Revision]:
    found = [looks.find_revision(one.revision) for one in wish.layers]
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
        may_wear(project, [one.revision for one in wish.layers])
        places = _places(project, wish)
        if not places:
            raise RuleError(422, "Choose shots or a scene first.")
        if wish.how == "stack" and not revisions:
            raise RuleError(422, "Choose a look to stack.")
        touched = _shots_of(project, places)
        touched_since(project, person, wish.seen, touched)
        before = tuple(PlacePuts(place=place, puts=of_place(project, place)) for place in places)
        after = tuple(PlacePuts(place=place, puts=_wanted(project, wish, place)) for place in places)
        if any(len(one.puts or ()) > STACK for one in after):
            raise RuleError(
                422,
                f"At most {STACK} looks are stacked on one place. Replace them, or make one look of them.",
            )
        _apply(project, after)
        words = _words(wish, revisions, places, project)
        return record(project, person, "assign", words, State(puts=before), State(puts=after), touched)


def _apply(project: Project, wanted: Iterable[PlacePuts]) -> None:
    for one in wanted:
        restore(project, one)
    settle(project)
    for shot in project.shots.filter(layers__place__gt=1).distinct():
        worn(list(shot.layers.select_related("revision__look")))


def _shots_of(project: Project, places: Sequence[Place]) -> set[int]:
    if WHOLE in places:
        return set(project.shots.values_list("pk", flat=True))
    scenes = [place.id for place in places if place.kind == "scene"]
    inside = set(project.shots.filter(scene_id__in=scenes).values_list("pk", flat=True))
    return inside | {place.id for place in places if place.kind == "shot"}


def _words(wish: Wish, revisions: Sequence[looks.Revision], places: Sequence[Place], project: Project) -> str:
    names = " + ".join(
        f"{revision} {one.strength:.0%}" if one.strength < 1 else str(revision)
        for revision, one in zip(revisions, wish.layers, strict=True)
    )
    where = _where(places, project)
    if wish.how == "inherit":
        return f"{where}: as around"
    if not names:
        return f"no look on {where}"
    return f"{names} {'stacked onto' if wish.how == 'stack' else 'on'} {where}"


def _where(places: Sequence[Place], project: Project) -> str:
    said = ["the project"] if WHOLE in places else []
    said += [find_scene(project, place.id).name for place in places if place.kind == "scene"]
    shots = [place.id for place in places if place.kind == "shot"]
    if len(shots) == 1:
        said.append(project.shots.get(pk=shots[0]).name)
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
        if not _stands(project, done.after):
            raise RuleError(409, f"{done.words}: something was done to the same since. Take that back first.")
        if done.before.arrangement is not None:
            arrange(project, done.before.arrangement)
        for one in done.before.trims:
            project.shots.filter(pk=one.shot).update(trim=one.trim)
        _apply(project, done.before.puts)
        done.undone = True
        done.save(update_fields=["undone"])
        words = (
            done.words.removeprefix("taken back: ") if done.kind == "undo" else f"taken back: {done.words}"
        )
        kind = "assign" if done.kind == "undo" else "undo"
        return record(project, person, kind, words, done.after, done.before, done.shots)


def _stands(project: Project, state: State) -> bool:
    """Whether a state is still what the project has."""
    trims = dict(project.shots.filter(pk__in=[one.shot for one in state.trims]).values_list("pk", "trim"))
    return (
        (state.arrangement is None or arranged_as(project, state.arrangement))
        and all(trims.get(one.shot) == one.trim for one in state.trims)
        and all(of_place(project, one.place) == one.puts for one in state.puts)
    )
