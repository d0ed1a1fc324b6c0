"""The demo's projects: a film in four scenes with stills and a clip, and a catalogue of stills. Loaded by
``demo.load``."""

import tempfile
from collections.abc import Sequence
from dataclasses import dataclass, field
from pathlib import Path

from django.core.files.uploadedfile import SimpleUploadedFile
from saucer_core.encodings import encoding, meet
from saucer_core.formats import pictures
from saucer_core.trim import Trim
from saucer_server.clips import rules as clips
from saucer_server.frames import rules as frames
from saucer_server.frames.reading_rules import ReadingRule
from saucer_server.looks import rules as looks
from saucer_server.people.rules import Person
from saucer_server.projects import assigning, fromclip, trimming
from saucer_server.projects import rules as projects
from saucer_server.projects.payloads import ProjectPatch, Ripple, ShotPatch, Wanted, Wish
from saucer_server.projects.rules import NewShot, Project, Shot
from saucer_server.reel import notes
from saucer_server.reel.notes import ReelNote
from saucer_server.reel.payloads import ReelNoteIn

from .frames import SCENES
from .render.render_clips import CLIPS

#: How wide the closer pictures are that are cut from a scene.
WIDTH = 720


@dataclass(frozen=True)
class Part:
    """A shot: its name, the scene it is a part of, that part (left, top, width as shares of it), how it is
    encoded, and its trim."""

    name: str
    scene: str
    window: tuple[float, float, float] = (0.0, 0.0, 1.0)
    encoding: str = "film_log"
    trim: Trim = field(default_factory=Trim)
    exposed: float = 0.0


@dataclass(frozen=True)
class DemoScene:
    """A scene of the film: its name, what is put on it, and its shots."""

    name: str
    look: str
    strength: float
    shots: tuple[Part, ...]


FILM = (
    DemoScene(
        "Shelf, morning",
        "North window",
        1.0,
        (
            Part("Shelf, wide", "north_shelf", trim=Trim(exposure=0.5)),
            Part("White jars", "north_shelf", (0.02, 0.42, 0.5), trim=Trim(exposure=0.5)),
            Part("Blue bottle", "north_shelf", (0.3, 0.02, 0.45), trim=Trim(exposure=0.4)),
            Part("Upper row", "north_shelf", (0.45, 0.0, 0.5), trim=Trim(exposure=0.7)),
            Part("Glaze tests", "glaze_table", encoding="srgb"),
        ),
    ),
    DemoScene(
        "Heads, window",
        "North window",
        1.0,
        (
            Part("Three heads", "clay_heads", trim=Trim(exposure=1.0)),
            Part(
                "The middle one",
                "clay_heads",
                (0.31, 0.2, 0.38),
                trim=Trim(exposure=0.95, temperature=34, tint=3),
            ),
            Part("With the cap", "clay_heads", (0.02, 0.22, 0.42), trim=Trim(exposure=1.0)),
            Part("Two of them", "clay_heads", (0.3, 0.08, 0.7), trim=Trim(exposure=1.05)),
            Part("The right one", "clay_heads", (0.58, 0.2, 0.4), trim=Trim(exposure=0.9)),
        ),
    ),
    DemoScene(
        "Yard",
        "Ember & Tide",
        0.85,
        (
            Part("Yard, wide", "yard_noon", encoding="srgb"),
            Part("Blue door", "yard_noon", (0.45, 0.2, 0.4), encoding="srgb"),
            Part("Jars by the wall", "yard_noon", (0.0, 0.45, 0.45), encoding="srgb"),
            Part("Last light", "yard_dusk", encoding="linear_709", trim=Trim(exposure=0.9)),
            Part("Lit window", "yard_dusk", (0.1, 0.15, 0.5), encoding="linear_709", trim=Trim(exposure=0.8)),
        ),
    ),
    DemoScene(
        "Kiln, night",
        "Ember & Tide",
        0.7,
        (
            Part("Kiln, wide", "kiln_night", trim=Trim(exposure=0.7)),
            Part("First fire", "kiln_night", (0.3, 0.15, 0.42), trim=Trim(exposure=0.6)),
            Part("The cold side", "kiln_night", (0.58, 0.3, 0.42), trim=Trim(exposure=0.8)),
        ),
    ),
)
#: The clip that shots of the film are cut from.
FILM_CLIP = "from_yard_to_fire_log.mov"
#: The scenes of the film that the clip's shots go into.
CLIP_SCENES = ("Yard", "Kiln, night", "Shelf, morning")
STILLS = (
    ("Glaze table", "Glaze tests", "Plain print", 1.0),
    ("North shelf", "Shelf, stock", "Celadon wash", 0.5),
)


def _frame(part: Part, person: Person, folder: Path) -> frames.Frame:
    light, _ = pictures.read(SCENES / f"{part.scene}.exr")
    height, width = light.shape[:2]
    left, top, share = part.window
    wide = int(width * share)
    tall = min(round(wide * 9 / 16), height)
    y = min(int(top * height), height - tall)
    window = light[y : y + tall, int(left * width) : int(left * width) + wide]
    rgb = meet(pictures.fit(window, WIDTH, WIDTH), encoding("linear_709"), encoding(part.encoding))
    suffix = ".exr" if part.encoding == "linear_709" else ".png"
    path = folder / f"{part.name.lower().replace(' ', '_').replace(',', '')}_{part.encoding}{suffix}"
    pictures.write(path, rgb, "uint8" if part.encoding == "srgb" else None)
    return frames.add(
        path,
        path.name,
        name=part.name,
        light="",
        encoding_key=part.encoding,
        person=person,
        trim=part.trim,
        of_shot=True,
    )


def _newest(name: str, *, before: int = 0) -> looks.Revision:
    """A look's newest revision, or one so many before it."""
    rows = looks.Revision.objects.filter(look__name=name).order_by("-number")
    return rows[min(before, rows.count() - 1)]


def _wish(
    revision: looks.Revision, strength: float, shots: tuple[int, ...] = (), scenes: tuple[int, ...] = ()
) -> Wish:
    """One look at a strength, on shots or scenes."""
    layers = (Wanted(revision=revision.pk, strength=strength),)
    return Wish(shots=shots, scenes=scenes, layers=layers)


def _cut(project: Project, person: Person) -> list[Shot]:
    """The clip comes in by the project's rule for its name, and all of its shots are cut."""
    clip = fromclip.take_clip(
        project, person, SimpleUploadedFile(FILM_CLIP, (CLIPS / FILM_CLIP).read_bytes()), "", ""
    )
    clips.look_through(clip.pk)
    job = fromclip.order(project, person, clips.find(clip.pk), [], None)
    fromclip.make(job.pk, project.pk, clip.pk, person.pk, list(clips.find(clip.pk).cuts), None)
    clips.change(clip.pk, person, name="From yard to fire")
    shots = list(project.shots.filter(clip=clip))
    for shot, called in zip(shots, ("Along the yard", "Into the fire", "Past the wheel"), strict=True):
        projects.change_shot(project, person, shot.pk, ShotPatch(name=called))
    return shots


def _film(people: dict[str, Person], folder: Path) -> None:
    lead, designer = people["odile"], people["tomas"]
    project = projects.create(lead, "Kiln series, episode two", "Six minutes from wedging to first fire.")
    projects.change(
        project,
        lead,
        ProjectPatch(
            members=tuple(people[n].pk for n in ("tomas", "ines", "vera")),
            reading=[
                ReadingRule(by="name", pattern="*_log*", encoding="film_log"),
                ReadingRule(by="folder", pattern="*phone*", encoding="display_p3"),
            ],
            encodings=["bt709_display"],
            pattern=["number", "shot", "out"],
        ),
    )
    project = projects.find(project.pk)
    clip = _cut(project, designer)
    for scene in FILM:
        made = projects.add_shots(
            project, designer, [NewShot(_frame(p, designer, folder)) for p in scene.shots]
        )
        also = [s for s, name in zip(clip, CLIP_SCENES, strict=True) if name == scene.name]
        row = projects.add_scene(project, designer, scene.name, [s.pk for s in (*made, *also)])
        _put(project, designer, row.pk, scene)
    _renumber(project)
    kiln = project.shots.get(name="First fire")
    assigning.assign(project, designer, _wish(_newest("Ember & Tide", before=1), 0.6, shots=(kiln.pk,)))
    # He is of red clay: that his skin is redder than the others' is meant.
    projects.change_shot(
        project, designer, project.shots.get(name="With the cap").pk, ShotPatch(meant=["skin"])
    )
    shelf = project.shots.get(name="White jars")
    trimming.keep(project, people["vera"], Ripple(shots=(shelf.pk,), trim=Trim(exposure=0.62, contrast=0.96)))
    _notes(project, people)


def _notes(project: Project, people: dict[str, Person]) -> None:
    """What the team says of moments of the reel."""

    def pin(who: str, shot: str, text: str, x: float, y: float, frames: tuple[int, int] = (0, 0)) -> ReelNote:
        on = project.shots.get(name=shot)
        first, last = (on.first + k for k in frames)
        said = ReelNoteIn(shot=on.pk, first=first, last=last, x=x, y=y, text=text)
        return notes.pin(project, people[who], said)

    done = pin("odile", "White jars", "White holds now.", 0.32, 0.4)
    notes.settle(project, done.pk, people["vera"], True)
    yellow = pin("vera", "With the cap", "Yellower than the two beside him.", 0.5, 0.35)
    notes.reply(project, yellow.pk, people["ines"], "Trimmed on the wall, 7° back.")
    pin("tomas", "Along the yard", "The door may keep more of its blue.", 0.79, 0.55, (8, 30))
    pin("odile", "First fire", "Flat in the middle on a small screen.", 0.42, 0.55)


def _put(project: Project, person: Person, scene: int, what: DemoScene) -> None:
    # An earlier revision is on the two scenes with fire and sun, so that the newer one offers itself.
    revision = _newest(what.look, before=1 if what.look == "Ember & Tide" else 0)
    assigning.assign(project, person, _wish(revision, what.strength, scenes=(scene,)))


def _renumber(project: Project) -> None:
    """Numbers follow the scenes."""
    shots: Sequence[Shot] = [s for scene in project.scenes.all() for s in scene.shots.all()]
    for k, shot in enumerate(shots, 1001):
        Shot.objects.filter(pk=shot.pk).update(number=k)
    for k, shot in enumerate(shots, 1):
        Shot.objects.filter(pk=shot.pk).update(number=k)


def _stills(people: dict[str, Person], by_name: dict[str, frames.Frame]) -> None:
    lead = people["odile"]
    project = projects.create(
        lead, "Glaze catalogue, spring", "Stills of the new glazes. Colour has to stay true: ease every look."
    )
    made = projects.add_shots(project, lead, [NewShot(by_name[f], name) for f, name, _, _ in STILLS])
    for shot, (_, _, look, strength) in zip(made, STILLS, strict=True):
        assigning.assign(project, lead, _wish(_newest(look), strength, shots=(shot.pk,)))
    projects.add_shots(project, lead, [NewShot(by_name["Clay heads"], "Heads, bisque")])


def load_projects(people: dict[str, Person], by_name: dict[str, frames.Frame]) -> None:
    """Both projects with their scenes, shots and looks."""
    with tempfile.TemporaryDirectory() as name:
        _film(people, Path(name))
    _stills(people, by_name)
