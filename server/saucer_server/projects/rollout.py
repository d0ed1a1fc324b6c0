"""A newer revision of a look for shots that use an older one, or the other way round: what would change, and
the decision."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from django.db import transaction
from django.db.models import Q
from saucer_core.changes import changes
from saucer_core.difference import difference
from saucer_core.encodings import encoding
from saucer_core.screen import SCREEN

from ..bench.pictures import rendered
from ..errors import RuleError
from ..looks import rules as looks
from ..people.rules import Person
from .assigning import of_place, record, restore, settle, touched_since
from .models import Change, Given, Layer, Project, Shot
from .places import WHOLE, Place, PlacePuts, Put, on_scene, on_shot
from .rules import chosen, must_work, shots_of, worn
from .states import Declined, State

__all__ = [
    "Offer",
    "ShotChange",
    "changed_by",
    "newer_on",
    "offers",
    "replaced",
    "roll_out",
    "stay",
    "with_newer",
]

#: Width at which the change of a shot is measured.
WIDTH = 240


@dataclass(frozen=True)
class Offer:
    """A revision that stands ready for shots on another one of the same look; in words what it changes."""

    look: looks.Look
    now: looks.Revision
    then: looks.Revision
    shots: list[Shot]
    words: list[str]


def offers(project: Project) -> list[Offer]:
    """Newer approved revisions (for looks without any approved, the newest ones) of what is on the project,
    where nobody said *stay*."""
    on: dict[int, list[Shot]] = {}
    revisions: dict[int, looks.Revision] = {}
    for shot in shots_of(project):
        for layer in shot.layers.all():
            on.setdefault(layer.revision_id, []).append(shot)
            revisions[layer.revision_id] = layer.revision
    declined = _declined(project)
    found = []
    for pk, shots in on.items():
        now = revisions[pk]
        then = _newer(now)
        if then is not None and Declined(now=now.pk, then=then.pk) not in declined:
            words = [c.text for c in changes(looks.recipe_of(now), looks.recipe_of(then))]
            found.append(Offer(now.look, now, then, shots, words))
    return found


def _declined(project: Project) -> set[Declined]:
    stays = project.changes.filter(kind="stay", undone=False)
    return {change.after.declined for change in stays if change.after.declined is not None}


def newer_on(project: Project) -> int:
    """On how many shots of a project a newer revision stands ready that nobody has said *stay* to."""
    declined = _declined(project)
    found: set[int] = set()
    for now in looks.every_revision().filter(layers__shot__project=project).distinct().select_related("look"):
        then = _newer(now)
        if then is not None and Declined(now=now.pk, then=then.pk) not in declined:
            found |= set(project.shots.filter(layers__revision=now).values_list("pk", flat=True))
    return len(found)


def _newer(now: looks.Revision) -> looks.Revision | None:
    """The newest approved revision after that one, of its look or, where it is retired, of the look that
    succeeds it."""
    after = Q(look=now.look, number__gt=now.number)
    if now.status == looks.Status.RETIRED and now.look.successor_id is not None:
        after |= Q(look_id=now.look.successor_id)
    rows = (
        looks.every_revision()
        .filter(after)
        .exclude(status=looks.Status.RETIRED)
        .order_by("look_id", "-number")
    )
    approved = rows.filter(status=looks.Status.APPROVED).select_related("look", "made_by", "moved_by").first()
    if approved is not None or now.status == looks.Status.APPROVED:
        return approved
    return rows.select_related("look", "made_by", "moved_by").first()


def replaced(shot: Shot, now: looks.Revision, then: looks.Revision) -> list[Layer]:
    """The layers of a shot with one revision in place of another; not kept."""
    found = []
    for layer in shot.layers.all():
        put = then if layer.revision_id == now.pk else layer.revision
        found.append(
            Layer(
                shot=shot, place=layer.place, revision=put, strength=layer.strength, given_by=layer.given_by
            )
        )
    return found


def with_newer(shot: Shot) -> list[Layer]:
    """The layers of a shot with the newest revision in place of each, where one stands ready; not kept."""
    found = list(shot.layers.all())
    for layer in found:
        layer.revision = _newer(layer.revision) or layer.revision
    return found


@dataclass(frozen=True)
class ShotChange:
    """How far a shot would change: mean ΔE, and the largest that more than a hundredth of the picture has."""

    shot: Shot
    mean: float
    most: float


def changed_by(project: Project, now: looks.Revision, then: looks.Revision) -> list[ShotChange]:
    """What the other revision would change on each shot that is on this one, the biggest change first. Raises
    ``LookError``."""
    found = []
    for shot in shots_of(project).filter(layers__revision=now):
        own, other = worn(list(shot.layers.all())), worn(replaced(shot, now, then))
        assert own is not None
        assert other is not None
        pair = [
            rendered(w.look, shot.frame, WIDTH, strength=w.strength, trim=shot.trim, screen=True)
            for w in (own, other)
        ]
        off = difference(np.clip(pair[0], 0, 1), np.clip(pair[1], 0, 1), encoding(SCREEN))
        found.append(ShotChange(shot, float(off.mean()), float(np.percentile(off, 99))))
    return sorted(found, key=lambda c: -c.most)


def roll_out(
    project: Project,
    person: Person,
    now: looks.Revision,
    then: looks.Revision,
    shot_ids: Sequence[int],
    seen: int | None = None,
) -> Change:
    """Puts the other revision on chosen shots, where they are on this one; strengths and other layers stay.

    Where all shots that have it from a scene or from the project go over, the scene or the project does; else
    the chosen ones get it as their own. Raises 409 where a shot is on it no more, the revision is retired, or
    somebody was quicker.
    """
    must_work(person, project)
    if then.look_id not in (now.look_id, now.look.successor_id):
        raise RuleError(422, "These are revisions of two looks. Assign the other look instead.")
    if then.status == looks.Status.RETIRED:
        raise RuleError(409, f"{then} is retired. Choose another revision.")
    with transaction.atomic():
        project = Project.objects.select_for_update().get(pk=project.pk)
        shots = chosen(project, list(shot_ids))
        touched_since(project, person, seen, [s.pk for s in shots])
        late = [s.name for s in shots if now.pk not in {layer.revision_id for layer in s.layers.all()}]
        if late or not shots:
            raise RuleError(
                409,
                f"{', '.join(late[:3]) or 'Nothing'} is on {now} no more. Look again."
                if late
                else "Choose shots first.",
            )
        places = _places(project, shots, now)
        before = tuple(PlacePuts(place=place, puts=of_place(project, place)) for place in places)
        after = tuple(PlacePuts(place=place, puts=_put(project, place, now, then)) for place in places)
        for one in after:
            restore(project, one)
        settle(project)
        words = f"{then} instead of r{now.number} on {len(shots)} {'shot' if len(shots) == 1 else 'shots'}"
        return record(
            project, person, "roll out", words, State(puts=before), State(puts=after), [s.pk for s in shots]
        )


def _places(project: Project, shots: Sequence[Shot], now: looks.Revision) -> list[Place]:
    """Where the other revision is put: on the scene or the project where all shots that have it from there
    go over, else on the shots themselves."""
    wanted = {s.pk for s in shots}
    places: list[Place] = []
    for shot in shots:
        given = next(layer.given_by for layer in shot.layers.all() if layer.revision_id == now.pk)
        around = project.shots.filter(layers__revision=now, layers__given_by=given)
        from_scene = shot.scene_id if given == Given.SCENE else None
        around = around.filter(scene=from_scene) if from_scene else around
        if given != Given.SHOT and set(around.values_list("pk", flat=True)) <= wanted:
            places.append(on_scene(from_scene) if from_scene else WHOLE)
        else:
            places.append(on_shot(shot.pk))
    return list(dict.fromkeys(places))


def _put(project: Project, place: Place, now: looks.Revision, then: looks.Revision) -> tuple[Put, ...]:
    puts = of_place(project, place)
    if puts is None:
        layers = Layer.objects.filter(shot_id=place.id).order_by("place")
        puts = tuple(Put(revision=layer.revision_id, strength=layer.strength) for layer in layers)
    return tuple(
        put.model_copy(update={"revision": then.pk}) if put.revision == now.pk else put for put in puts
    )


def stay(project: Project, person: Person, now: looks.Revision, then: looks.Revision) -> Change:
    """Says that the project stays on its revision: that one is not offered any more, a later one is."""
    must_work(person, project)
    shots = project.shots.filter(Q(layers__revision=now)).values_list("pk", flat=True)
    return record(
        project,
        person,
        "stay",
        f"stays on {now}, without r{then.number}",
        State(),
        State(declined=Declined(now=now.pk, then=then.pk)),
        set(shots),
    )
