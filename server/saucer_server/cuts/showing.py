"""A cut as its screen shows it."""

from collections.abc import Iterable, Mapping
from fractions import Fraction

from saucer_core.formats.cutlists import cmx
from saucer_core.trim import Trim

from ..clips import rules as clips
from ..frames.values import ShownPart
from ..jobs.api import JobOut
from ..projects import rules as projects
from ..projects.arranging import every_shot_of
from ..projects.rules import Shot, version_of
from . import taking
from .comparing import Changed, Comparison, Stretch, compare, scenes_of, stretches_of
from .payloads import CutLine, CutStretch, CutWhole, LookThere, MayBe, Recutting, Tick
from .rules import Cut
from .words import how

#: Timecodes that stand over a cut, at most.
TICKS = 7
#: Seconds between them.
STEPS = (1, 2, 5, 10, 15, 30, 60, 120, 300, 600, 900, 1800, 3600)


def line(cut: Cut) -> CutLine:
    """A cut without its events."""
    return CutLine(
        id=cut.pk,
        number=cut.number,
        current=cut.number is not None and cut.number == cut.project.cut_number,
        title=cut.title,
        file_name=cut.file_name,
        events=len(cut.events),
        waiting=cut.waiting,
        made_by=str(cut.made_by),
        made_at=cut.made_at,
        taken_by=str(cut.taken_by or ""),
        taken_at=cut.taken_at,
    )


def _ticks(stretches: list[Stretch], cut: Cut) -> list[Tick]:
    if not stretches:
        return []
    said = cut.as_list
    begin = min(s.event.at for s in stretches)
    end = max(s.event.at + s.event.lasts for s in stretches)
    unit = round(said.rate)
    step = next((s for s in STEPS if (end - begin) <= s * unit * TICKS), STEPS[-1]) * unit
    first = -(-begin // step) * step
    return [Tick(at=at, label=said.timecode(at)) for at in range(first, end, step)]


class _Shown:
    """Says the stretches of a cut. versions: of the pictures of shots, by their ids."""

    def __init__(self, cut: Cut, stretches: list[Stretch], versions: Mapping[int, str]) -> None:
        self._cut, self._list, self._versions = cut, cut.as_list, versions
        asked = {key for stretch in stretches for key in stretch.met.asked}
        self._names = {c.pk: c.name for c in clips.every().filter(pk__in=asked)}

    def __call__(self, stretch: Stretch, shot: Shot | None, scene: str, place: int, own: bool) -> CutStretch:
        """own: whether it is of the cut itself, and not of the one before."""
        event, clip, met = stretch.event, stretch.clip, stretch.met
        said = self._cut.events[place] if own else None
        frames = clip.facts.frames if clip is not None and clip.facts is not None else 0
        return CutStretch(
            place=place,
            number=stretch.number,
            name=stretch.name,
            at=event.at,
            lasts=event.lasts,
            length=event.length,
            speed=event.speed,
            clip=clip.pk if clip else None,
            first=event.start if clip else 0,
            last=event.start + event.length - 1 if clip else 0,
            before=event.start if clip else 0,
            behind=frames - event.start - event.length if clip else 0,
            range=f"{self._list.timecode(said.start)} – {self._list.timecode(said.end - 1)}" if said else "",
            reel=said.reel if said else "",
            by=met.by,
            asked=[MayBe(id=key, name=self._names[key]) for key in met.asked if key in self._names],
            why=met.why,
            shot=shot.pk if shot and not shot.aside else None,
            version=self._versions[shot.pk] if shot else "",
            part=shot.frame.part if shot else ShownPart(),
            scene=scene,
            carries=said is not None and said.correction is not None,
            cdl=taking.trim_of(said) if said else None,
            taken=own and place in self._cut.corrections,
            trim=shot.trim if shot and said is not None and said.correction is not None else None,
        )


def _changed(one: Changed, found: Comparison, rate: Fraction, versions: Mapping[int, str]) -> Recutting:
    old = found.before[one.old] if one.old is not None else None
    new = found.after[one.new] if one.new is not None and not one.goes else None
    shot = one.shot or one.like
    stretch = new or old
    return Recutting(
        kinds=list(one.kinds),
        old=one.old,
        new=one.new,
        name=(one.shot.name if one.shot else stretch.name if stretch else ""),
        number=stretch.number if stretch else None,
        was=old.event.lasts if old is not None and one.kinds != ("split",) else None,
        now=new.event.lasts if new is not None else None,
        how=how(one, found, rate),
        waits=new is not None and new.clip is None,
        shot=shot.pk if shot and not shot.aside else None,
        version=versions[shot.pk] if shot else "",
        part=shot.frame.part if shot else ShownPart(),
        looks=_looks(shot) if shot else [],
        trim=shot.trim if shot and shot.trim != Trim() else None,
    )


def _looks(shot: Shot) -> list[LookThere]:
    return [
        LookThere(
            id=layer.revision_id,
            digest=layer.revision.digest,
            words=f"{layer.revision}{f' {layer.strength:.0%}' if layer.strength < 1 else ''}",
        )
        for layer in shot.layers.all()
    ]


def _versions(shots: Iterable[Shot | None]) -> dict[int, str]:
    return {shot.pk: version_of(shot) for shot in {s.pk: s for s in shots if s is not None}.values()}


def _scenes(shots: list[Shot | None]) -> list[str]:
    return [scene.name if scene is not None else "" for scene in scenes_of(shots)]


def whole(cut: Cut) -> CutWhole:
    """A cut with its events; one that was not taken is compared with what its project has."""
    project = cut.project
    aside = every_shot_of(project).filter(aside=True).count()
    newest = project.changes.order_by("-pk").values_list("pk", flat=True).first()
    before: list[CutStretch] = []
    if cut.number is None:
        found = compare(cut)
        stretches = found.after
        of = {c.new: c.shot or c.like for c in found.changed if c.new is not None and not c.goes}
        shots = [of.get(k) for k in range(len(stretches))]
        olds = [stretch.shot for stretch in found.before]
        versions = _versions([*shots, *olds, *(c.shot for c in found.changed)])
        shown = _Shown(cut, found.before, versions)
        before = [
            shown(stretch, shot, scene, k, False)
            for k, (stretch, shot, scene) in enumerate(zip(found.before, olds, _scenes(olds), strict=True))
        ]
    else:
        held = {shot.pk: shot for shot in projects.shots_of(project)}
        stretches = stretches_of(cut, held)
        shots = [stretch.shot for stretch in stretches]
        versions = _versions(shots)
        stand = [Changed(("same",), None, k, shot=shot) for k, shot in enumerate(shots)]
        found = Comparison([], stretches, stand)
    shown = _Shown(cut, stretches, versions)
    after = [
        shown(stretch, shot, scene, k, True)
        for k, (stretch, shot, scene) in enumerate(zip(stretches, shots, _scenes(shots), strict=True))
    ]
    return CutWhole(
        **line(cut).model_dump(),
        kind="CMX 3600" if cut.file_name.lower().endswith(cmx.SUFFIX) else "OpenTimelineIO",
        rate=cut.rate,
        unit=round(Fraction(cut.rate)),
        doubts=cut.doubts,
        ticks=_ticks(stretches, cut),
        before=before,
        after=after,
        changed=[_changed(one, found, Fraction(cut.rate), versions) for one in found.changed],
        aside=aside,
        job=JobOut.from_orm(cut.job) if cut.job else None,
        seen=newest,
    )
