"""Taking a cut: the shots of a project follow it, all at once, and can be brought back at once."""

from dataclasses import dataclass, replace

from django.db import transaction
from django.utils import timezone
from pydantic import ValidationError
from saucer_core.formats.cutlists.model import Event
from saucer_core.trim import Trim

from ..clips import rules as clips
from ..clips.rules import Clip
from ..errors import RuleError
from ..frames import rules as frames
from ..frames.rules import Frame
from ..jobs import rules as jobs
from ..jobs.rules import Job, Progress, State, running
from ..people.rules import Person
from ..people.rules import find as find_person
from ..projects.arranging import arrange, arranged, every_shot_of, new_shot, set_trim
from ..projects.assigning import record, settle, take_over, touched_since
from ..projects.places import ShotTrim
from ..projects.rules import Project, Shot, keep_material, lock, must_work
from ..projects.states import Arrangement, Standing
from ..projects.states import State as Kept
from .comparing import Changed, Comparison, compare, scenes_of
from .models import Cut
from .rules import every, locked, must_be_open

__all__ = ["order", "poster", "take", "trim_of"]


def order(cut: Cut, person: Person, seen: int | None) -> Job:
    """Asks for a cut to be taken. seen: the newest change of the project that the person had before them.
    Raises 403, and 409 where it was taken or somebody was quicker."""
    from .tasks import take_cut

    must_work(person, cut.project)
    with transaction.atomic():
        project = lock(cut.project)
        row = locked(cut)
        must_be_open(row)
        touched_since(project, person, seen, every_shot_of(project).values_list("pk", flat=True))
        row.job = jobs.order("cut", f"Taking {row.file_name}", person, len(row.events))
        row.save(update_fields=["job"])
        jobs.enqueue(row.job, take_cut, cut_id=row.pk, person_id=person.pk)
    return row.job


@dataclass(frozen=True)
class _Planned:
    """A shot of the cut. place: of its event, from 0; frame: a new picture that stands for it, where it needs
    one."""

    place: int
    changed: Changed
    clip: Clip
    first: int
    last: int
    name: str
    frame: Frame | None = None


def poster(clip: Clip, first: int, last: int, name: str, person: Person, encoding: str) -> Frame:
    """A picture that stands for frames of a clip: their middle. encoding: what it is taken to be in; empty
    for the clip's own."""
    made = clips.posters(clip, [(first + last) // 2], [name[:120]], person)[0]
    if not encoding or encoding == made.encoding:
        return made
    other = frames.read_as(made, encoding)
    frames.let_go(made)
    return other


def _planned(found: Comparison) -> list[_Planned]:
    """The events that have a clip."""
    plans = []
    for changed in found.changed:
        if changed.new is None or changed.goes:
            continue
        stretch = found.after[changed.new]
        if stretch.clip is not None:
            first = stretch.event.start
            last = first + stretch.event.length - 1
            name = changed.like.name if changed.like else stretch.name
            plans.append(_Planned(changed.new, changed, stretch.clip, first, last, name))
    return plans


def _pictured(plans: list[_Planned], person: Person, progress: Progress, made: list[Frame]) -> list[_Planned]:
    """The same, each with a picture of frames that it shows."""
    done = []
    for k, plan in enumerate(plans):
        shot = plan.changed.shot
        if shot is None or not plan.first <= shot.frame.number <= plan.last:
            progress.at(k, plan.name)
            like = shot or plan.changed.like
            encoding = like.frame.encoding if like is not None else ""
            made.append(poster(plan.clip, plan.first, plan.last, plan.name, person, encoding))
            plan = replace(plan, frame=made[-1])
        done.append(plan)
    return done


def take(cut_id: int, person_id: int) -> None:
    """Takes a cut. Run by a worker; may run again after a worker died."""
    cut = Cut.objects.select_related("project__circle", "job").filter(pk=cut_id, number=None).first()
    if cut is None or cut.job is None or cut.job.state not in (State.WAITING, State.RUNNING):
        return
    made: list[Frame] = []

    def undo() -> None:
        for frame in made:
            frames.let_go(frame)

    with running(cut.job.pk, undo) as progress:
        person = find_person(person_id)
        found = compare(cut)
        plans = _pictured(_planned(found), person, progress, made)
        with transaction.atomic():
            project = lock(cut.project)
            row = Cut.objects.select_for_update(of=("self",)).select_related("project").get(pk=cut.pk)
            if _told(compare(row)) != _told(found):
                raise RuleError(
                    409, "The project was changed while this cut was being taken. Look at it again."
                )
            _follow(project, row, found, plans, person)


def _told(found: Comparison) -> list[tuple[object, ...]]:
    """What a comparison comes to."""
    return [
        (
            c.kinds,
            c.new,
            c.shot and c.shot.pk,
            c.like and c.like.pk,
            found.after[c.new].met if c.new is not None else 0,
        )
        for c in found.changed
    ]


def _follow(project: Project, cut: Cut, found: Comparison, plans: list[_Planned], person: Person) -> None:
    before = arranged(project)
    shots = _shots(project, plans)
    places = {plan.place: shot for plan, shot in zip(plans, shots, strict=True)}
    number = (
        every(project).order_by("-number").values_list("number", flat=True).exclude(number=None).first() or 0
    ) + 1
    gone = {c.shot.pk for c in found.changed if c.goes and c.shot is not None}
    after = Arrangement(
        cut=number, events=len(cut.events), shots=_standing(project, plans, shots, gone, len(cut.events))
    )
    arrange(project, after)
    trims = _corrected(cut, places)
    keep_material(project)
    settle(project)
    cut.met = [
        met.model_copy(update={"shot": places[k].pk if k in places else None})
        for k, met in enumerate(cut.met)
    ]
    cut.number, cut.taken_by, cut.taken_at = number, person, timezone.now()
    cut.waiting = len(cut.events) - len(places)
    stay = sum(c.stays for c in found.changed)
    words = f"cut {number}, {cut.file_name}: {stay} stay, {len(found.changed) - stay} change"
    cut.change = record(
        project,
        person,
        "cut",
        words,
        Kept(arrangement=before, trims=tuple(was for was, _ in trims)),
        Kept(arrangement=after, trims=tuple(now for _, now in trims)),
        [s.pk for s in every_shot_of(project)],
    )
    cut.save()


def _shots(project: Project, plans: list[_Planned]) -> list[Shot]:
    """The shot of each event: the one that it has or had, or a new one, which stands aside at first."""
    found = []
    for plan in plans:
        shot, like = plan.changed.shot, plan.changed.like
        if shot is None:
            frame = plan.frame
            if frame is None:
                raise ValueError("a new shot has a picture")
            shot = new_shot(
                project,
                plan.place + 1,
                frame,
                name=plan.name,
                clip=plan.clip,
                first=plan.first,
                last=plan.last,
                like=like,
                aside=True,
            )
            if like is not None:
                take_over(project, like, shot)
        found.append(shot)
    return found


def _standing(
    project: Project, plans: list[_Planned], shots: list[Shot], gone: set[int], events: int
) -> tuple[Standing, ...]:
    """Where all shots stand: those of the cut by its events, those that are gone aside, all others behind."""
    scenes = _scenes(plans, shots)
    rows = {
        shot.pk: Standing(
            shot=shot.pk,
            number=plan.place + 1,
            aside=False,
            scene=scenes[shot.pk],
            frame=plan.frame.pk if plan.frame else shot.frame_id,
            clip=plan.clip.pk,
            first=plan.first,
            last=plan.last,
        )
        for plan, shot in zip(plans, shots, strict=True)
    }
    top = events
    for shot in every_shot_of(project).order_by("number", "pk"):
        if shot.pk in rows:
            continue
        aside = shot.aside or shot.pk in gone
        top += not aside
        rows[shot.pk] = Standing(
            shot=shot.pk,
            number=shot.number if aside else top,
            aside=aside,
            scene=shot.scene_id,
            frame=shot.frame_id,
            clip=shot.clip_id,
            first=shot.first,
            last=shot.last,
        )
    return tuple(rows.values())


def _scenes(plans: list[_Planned], shots: list[Shot]) -> dict[int, int | None]:
    """The scene of each shot of the cut, by its id; that of one that was split off is the other's."""
    found = scenes_of([plan.changed.shot or plan.changed.like for plan in plans])
    return {
        shot.pk: scene.pk if scene is not None else None for shot, scene in zip(shots, found, strict=True)
    }


def trim_of(event: Event) -> Trim | None:
    """The trim that an event's ASC CDL is; nothing where it has none, or one beyond what a trim has."""
    try:
        return Trim.of(event.correction) if event.correction is not None else None
    except ValidationError:
        return None


def _corrected(cut: Cut, places: dict[int, Shot]) -> list[tuple[ShotTrim, ShotTrim]]:
    """Makes CDLs the trims of their shots, where that is wanted: what was, and what is."""
    done = []
    for place in cut.corrections:
        shot, now = places.get(place), trim_of(cut.events[place])
        if shot is not None and now is not None:
            done.append(set_trim(shot, now))
    return done
