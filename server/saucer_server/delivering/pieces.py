"""The pieces of a delivery: what each is made from, and what its files are called."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from fractions import Fraction

from django.utils import timezone
from pydantic import BaseModel, ConfigDict
from saucer_core.encodings import encoding
from saucer_core.formats.delivery import Part
from saucer_core.formats.recipe import SUFFIX
from saucer_core.formats.review_writing import usual_rate

from ..bakes.names import named
from ..clips import rules as clips
from ..cuts import rules as cuts
from ..fields import safe_name
from ..looks import rules as looks
from ..projects.rules import Project
from .plan import Plan
from .snapshots import DeliveredShot, Stack, stacks


class _Made(BaseModel):
    # Keys that are not declared are refused: so each kept piece is read as the one model that has its keys.
    model_config = ConfigDict(frozen=True, extra="forbid")


class OfLook(Stack):
    """Made from looks alone. out: the encoding that it goes out in."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    out: str


class OfShot(_Made):
    """Made from one shot."""

    shot: DeliveredShot
    out: str


class OfShots(_Made):
    """Made from all shots."""

    shots: tuple[DeliveredShot, ...]


class OfCut(_Made):
    """Made from all shots, in the cut that their project follows, by its row. places: the shot of each
    event; names, outs: of each shot that has a LUT beside, the LUT's name without its ending, and the
    encoding that it goes out in."""

    cut: int
    shots: tuple[DeliveredShot, ...]
    places: tuple[int | None, ...]
    names: dict[int, str]
    outs: dict[int, str]


class OfConfig(_Made):
    """Made from all shots and all looks; ``out`` is empty where each look goes out as it gives."""

    shots: tuple[DeliveredShot, ...]
    stacks: tuple[Stack, ...]
    out: str


class OfRevision(_Made):
    """Made from one revision, by its row."""

    revision: int


class OfReviewShot(_Made):
    """The frames of a shot in a review clip. rate: frames a second, as a fraction; date: when it is made,
    where the slate says it."""

    reviewed: DeliveredShot
    rate: str
    date: str


class OfReview(_Made):
    """A review clip, made from the frames of its shots. title: what it is called."""

    reviewed: tuple[OfReviewShot, ...]
    title: str


Source = OfLook | OfShot | OfShots | OfConfig | OfRevision | OfReviewShot | OfReview | OfCut


@dataclass(frozen=True)
class Draft:
    """A piece before it is kept: its part, its path in the package, and what it is made from."""

    part: Part
    path: str
    source: Source


def outs_of(plan: Plan, stack: Stack) -> tuple[str, ...]:
    """The encodings that the looks of a shot go out in."""
    return plan.outs(_gives(stack))


def _gives(stack: Stack) -> str:
    """The encoding that the lowest of a stack's looks gives."""
    return looks.recipe_of(looks.find_revision(stack.layers[0].revision)).output


def shot_name(project: Project, plan: Plan, shot: DeliveredShot, out: str) -> str:
    """What a file of a shot is called, without its suffix."""
    first = shot.layers[0] if shot.layers else None
    values = {
        "project": project.name,
        "scene": shot.scene,
        "number": f"{shot.number:03d}",
        "shot": shot.name,
        "look": first.look if first else "",
        "revision": f"r{first.number}" if first else "",
        "out": encoding(out).label,
    }
    return named(plan.names, values, "", "")


def _stack_name(stack: Stack) -> str:
    several = len(stack.layers) > 1
    return " + ".join(
        f"{x.look}_r{x.number}{f'_{x.strength:.0%}' if several and x.strength < 1 else ''}"
        for x in stack.layers
    )


def _of_looks(plan: Plan, shots: Sequence[DeliveredShot]) -> Iterator[Draft]:
    for stack in stacks(shots):
        for out in outs_of(plan, stack):
            base = safe_name(f"{_stack_name(stack)}{f'_{encoding(out).label}' if plan.encodings else ''}")
            yield Draft("looks", f"luts/{base}", OfLook(layers=stack.layers, out=out))


def _of_shots(
    part: Part, folder: str, project: Project, plan: Plan, shots: Sequence[DeliveredShot]
) -> Iterator[Draft]:
    for shot in shots:
        for out in outs_of(plan, shot):
            yield Draft(part, f"{folder}/{shot_name(project, plan, shot, out)}", OfShot(shot=shot, out=out))


def _of_configs(plan: Plan, shots: Sequence[DeliveredShot]) -> Iterator[Draft]:
    several = len(plan.encodings) > 1
    for out in plan.encodings or ("",):
        folder = f"opencolorio/{safe_name(encoding(out).label)}" if several else "opencolorio"
        source = OfConfig(shots=tuple(shots), stacks=tuple(stacks(shots)), out=out)
        yield Draft("ocio", folder, source)


def _of_revisions(shots: Sequence[DeliveredShot]) -> Iterator[Draft]:
    for pk, one in {x.revision: x for shot in shots for x in shot.layers}.items():
        path = f"looks/{safe_name(one.look)}_r{one.number}{SUFFIX}"
        yield Draft("recipes", path, OfRevision(revision=pk))


def _rate_of(reel: Sequence[DeliveredShot]) -> Fraction:
    """Frames a second of a review clip: what most of its shots have."""
    seconds: dict[str, float] = {}
    for shot in reel:
        facts = clips.find(shot.clip).facts if shot.clip is not None else None
        if facts is not None and facts.rate:
            length = (shot.last - shot.first + 1) / float(Fraction(facts.rate))
            seconds[facts.rate] = seconds.get(facts.rate, 0) + length
    return usual_rate(seconds)


def _of_review(project: Project, plan: Plan, reel: Sequence[DeliveredShot]) -> Iterator[Draft]:
    if not reel:
        return
    rate = _rate_of(reel)
    dated = "date" in plan.review.slate
    date = f"{timezone.localdate():%-d %b %Y}" if dated else ""
    scene = reel[0].scene if plan.review.scene is not None else ""
    title = f"{project.name}, {scene}" if scene else project.name
    path = f"review/{safe_name(title)}"
    sources = tuple(OfReviewShot(reviewed=shot, rate=str(rate), date=date) for shot in reel)
    for source in sources:
        yield Draft("review", f"{path}/{source.reviewed.slate}", source)
    yield Draft("review", path, OfReview(reviewed=sources, title=title))


def pieces(
    project: Project, plan: Plan, shots: Sequence[DeliveredShot], reel: Sequence[DeliveredShot]
) -> Iterator[Draft]:
    """Everything that is to be made, in order. What is the same for several encodings is made once. reel: the
    shots of a review clip, in the order in which they are played."""
    parts = plan.parts
    if "looks" in parts:
        yield from _of_looks(plan, shots)
    if "shots" in parts:
        yield from _of_shots("shots", "luts/shots", project, plan, shots)
    if "stills" in parts:
        yield from _of_shots("stills", "stills", project, plan, shots)
    if "clips" in parts:
        yield from _of_shots("clips", "clips", project, plan, [s for s in shots if s.clip is not None])
    if "review" in parts:
        yield from _of_review(project, plan, reel)
    if not shots:
        return
    if "cdl" in parts:
        yield Draft("cdl", "cdl/trims.ccc", OfShots(shots=tuple(shots)))
    if "ocio" in parts:
        yield from _of_configs(plan, shots)
    if "recipes" in parts:
        yield from _of_revisions(shots)
    if "cut" in parts:
        yield from _of_cut(project, plan, shots)
    if "sheet" in parts:
        yield Draft("sheet", "contact sheet.html", OfShots(shots=tuple(shots)))


def _of_cut(project: Project, plan: Plan, shots: Sequence[DeliveredShot]) -> Iterator[Draft]:
    cut = cuts.current(project)
    if cut is None:
        return
    outs = {shot.id: outs_of(plan, shot)[0] for shot in shots} if "shots" in plan.parts else {}
    names = {shot.id: shot_name(project, plan, shot, outs[shot.id]) for shot in shots if shot.id in outs}
    places = tuple(met.shot for met in cut.met)
    source = OfCut(cut=cut.pk, shots=tuple(shots), places=places, names=names, outs=outs)
    yield Draft("cut", f"cut/{safe_name(cut.title or str(cut))}", source)


@dataclass(frozen=True)
class Named:
    """A shot and the name its files would have; ``same``: numbers of other shots that would have the same
    one."""

    number: int
    shot: str
    name: str
    same: list[int]


def preview(project: Project, plan: Plan, shots: Sequence[DeliveredShot]) -> list[Named]:
    """What the shots' files would be called, in the first of the encodings."""
    names = [shot_name(project, plan, shot, outs_of(plan, shot)[0]) for shot in shots]
    by_name: dict[str, list[int]] = {}
    for shot, name in zip(shots, names, strict=True):
        by_name.setdefault(name.lower(), []).append(shot.number)
    return [
        Named(s.number, s.name, name, [n for n in by_name[name.lower()] if n != s.number])
        for s, name in zip(shots, names, strict=True)
    ]


def clashes(drafts: Sequence[Draft]) -> str:
    """Two files that would have one name, in words; empty where there are none."""
    seen: dict[str, Draft] = {}
    for draft in drafts:
        other = seen.setdefault(f"{draft.part} {draft.path.lower()}", draft)
        if other is not draft:
            first, second = (_called(one) for one in (other, draft))
            outs_differ = _out(other.source) != _out(draft.source)
            way = "Put the encoding into the names" if outs_differ else "Put the number into the names"
            return f"{first} and {second} would be one file, {draft.path.rpartition('/')[2]}. {way}."
    return ""


def _called(draft: Draft) -> str:
    source = draft.source
    if isinstance(source, OfReviewShot):
        return source.reviewed.label
    return source.shot.label if isinstance(source, OfShot) else draft.path


def _out(source: Source) -> str:
    return source.out if isinstance(source, OfLook | OfShot | OfConfig) else ""
