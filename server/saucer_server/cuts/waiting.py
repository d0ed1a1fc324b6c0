"""Events of a cut that wait for their clip: it comes, and they become shots."""

from fractions import Fraction

from django.db import transaction
from django.db.models import F

from ..clips import rules as clips
from ..clips.rules import Clip
from ..errors import RuleError
from ..frames import rules as frames
from ..jobs import rules as jobs
from ..jobs.rules import Job, State, running
from ..people.rules import Person
from ..people.rules import find as find_person
from ..projects.arranging import came_later, new_shot
from ..projects.assigning import settle
from ..projects.rules import Project, Scene, Shot, keep_material, lock, must_work
from .comparing import called
from .models import Cut
from .rules import by_hand, locked, shelf_of
from .taking import poster
from .values import Met

__all__ = ["choose_clip", "clip_came", "fill"]


def waiting_cuts() -> list[Cut]:
    """The cuts that projects follow and that have events without a clip."""
    rows = Cut.objects.filter(waiting__gt=0, number=F("project__cut_number"))
    return list(rows.select_related("project__circle", "taken_by"))


def clip_came(clip_id: int) -> None:
    """Makes shots of the events that wait for a clip, where it is theirs for sure. Run by a worker, once the
    clip was looked through."""
    for cut in waiting_cuts():
        person = cut.taken_by
        if person is None:
            continue
        shelf = shelf_of(cut.project, Fraction(cut.rate))
        for place, met in enumerate(cut.met):
            if met.shot is None:
                found = shelf.match(cut.events[place])
                if found.key == clip_id:
                    fill(cut, place, Met(clip=clip_id, by=found.by), person)


def choose_clip(cut: Cut, person: Person, place: int, clip: Clip) -> Job:
    """Asks for a shot of an event that waits, of a clip that somebody chose. Raises 403, 409, 422."""
    from .tasks import fill_event

    must_work(person, cut.project)
    clips.facts_of(clip)
    with transaction.atomic():
        row = locked(cut)
        _must_wait(row, place)
        by_hand(row, shelf_of(row.project, Fraction(row.rate)), place, clip.pk)
        job = jobs.order("cut", f"{row.events[place].name} of {row.project.name}", person, 1)
        jobs.enqueue(
            job, fill_event, job_id=job.pk, cut_id=row.pk, place=place, clip_id=clip.pk, person_id=person.pk
        )
    return job


def fill_by_hand(job_id: int, cut_id: int, place: int, clip_id: int, person_id: int) -> None:
    """Makes the shot that ``choose_clip`` asked for. Run by a worker."""
    if jobs.find(job_id).state == State.DONE:
        return
    with running(job_id, lambda: None):
        cut = Cut.objects.select_related("project__circle").get(pk=cut_id)
        fill(cut, place, Met(clip=clip_id, by="hand"), find_person(person_id))


def _must_wait(cut: Cut, place: int) -> None:
    """Raises 409 where the project follows another cut, or the event has its shot."""
    if cut.number is None or cut.number != cut.project.cut_number:
        raise RuleError(409, "The project does not follow this cut now. Look at the one that it follows.")
    if not 0 <= place < len(cut.events):
        raise RuleError(422, f"This cut has {len(cut.events):,} events, and none at place {place}.")
    if cut.met[place].shot is not None:
        raise RuleError(409, f"{cut.events[place].name} has its clip already.")


def fill(cut: Cut, place: int, met: Met, person: Person) -> Shot | None:
    """Makes the shot of an event whose clip is there now, at its place among the others.

    Nothing happens where it was made meanwhile, or where the project follows another cut.
    """
    clip = clips.whole(met.clip or 0)
    found = shelf_of(cut.project, Fraction(cut.rate)).of_key(clip.pk)
    if found is None:
        return None
    event = cut.events[place]
    first = found.first(event)
    last = first + event.length - 1
    name = called(event, clip)
    frame = poster(clip, first, last, name, person, "")
    with transaction.atomic():
        project = lock(cut.project)
        row = Cut.objects.select_for_update(of=("self",)).select_related("project").get(pk=cut.pk)
        if row.number != project.cut_number or row.met[place].shot is not None:
            frames.let_go(frame)
            return None
        scene = _scene(project, place + 1)
        shot = new_shot(project, place + 1, frame, name=name, clip=clip, first=first, last=last, scene=scene)
        row.met = [
            met.model_copy(update={"shot": shot.pk}) if k == place else m for k, m in enumerate(row.met)
        ]
        row.waiting = sum(m.shot is None for m in row.met)
        row.save(update_fields=["met", "waiting"])
        came_later(row.change_id or 0, shot)
        keep_material(project)
        settle(project)
    return shot


def _scene(project: Project, number: int) -> Scene | None:
    """The scene that a new shot belongs to: that of the one before it, else of the one after."""
    before = project.shots.filter(number__lt=number).order_by("-number").first()
    near = before or project.shots.filter(number__gt=number).order_by("number").first()
    return near.scene if near else None
