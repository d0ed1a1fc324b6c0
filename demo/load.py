"""Loads the demo world into an empty Saucer: people, frames, looks, projects, a pack, and what is said of
looks.

Run as ``python -m demo.load`` with the server's settings; does nothing where there are people already.
"""

import tempfile
from datetime import timedelta
from pathlib import Path

import django

django.setup()

from django.core.files.uploadedfile import SimpleUploadedFile  # noqa: E402
from django.db import transaction  # noqa: E402
from django.utils import timezone  # noqa: E402
from saucer_core.baking.bake import bake  # noqa: E402
from saucer_core.encodings import CameraEncoding  # noqa: E402
from saucer_core.formats.cube import write_text  # noqa: E402
from saucer_core.look import Look  # noqa: E402
from saucer_core.treatment import Treatment  # noqa: E402
from saucer_server.bench import pictures  # noqa: E402
from saucer_server.catalogue import collecting  # noqa: E402
from saucer_server.catalogue import rules as catalogue  # noqa: E402
from saucer_server.clips import moments  # noqa: E402
from saucer_server.clips import rules as clips  # noqa: E402
from saucer_server.encodings import rules as encodings  # noqa: E402
from saucer_server.frames import rules as frames  # noqa: E402
from saucer_server.looks import rules as looks  # noqa: E402
from saucer_server.looks.payloads import LookPatch  # noqa: E402
from saucer_server.luts import rules as luts  # noqa: E402
from saucer_server.packs import rules as packs  # noqa: E402
from saucer_server.people import inviting  # noqa: E402
from saucer_server.people.rules import Person, Role  # noqa: E402
from saucer_server.reviewing import notes  # noqa: E402
from saucer_server.reviewing import rules as reviews  # noqa: E402
from saucer_server.sheets import rules as sheets  # noqa: E402
from saucer_server.sheets.payloads import MarkIn, Said, SheetPlan  # noqa: E402

from .frames import FRAMES, make, make_chart  # noqa: E402
from .looks import BROUGHT_IN, LOOKS, DemoLook  # noqa: E402
from .pack import NAME, packed  # noqa: E402
from .projects import load_projects  # noqa: E402
from .render.render_clips import CLIPS  # noqa: E402

PASSWORD = "slip-and-glaze"
TEAM = (
    ("vera", "Vera Quillon", Role.APPLIER),
    ("ines", "Ines Tallow", Role.DESIGNER),
    ("tomas", "Tomas Ferrow", Role.DESIGNER),
    ("odile", "Odile Marrin", Role.LEAD),
)
#: Collections by hand with their looks, and those that a search keeps.
COLLECTIONS = {
    "Kiln series": ("Ember & Tide", "Night slip", "Oxide"),
    "Slip campaign": ("North window", "Celadon wash", "Cross bath", "Faded card"),
    "Prints and papers": ("Plain print", "Faded card", "Ash"),
}
KEPT = {"Warm light": "range=warmth:8:&order=warmth", "Waiting": "status=in review&order=newest"}

#: Clips that stand among the frames: their file, name and light.
MOVING = (
    ("heads_into_shade_log.mov", "Heads, into shade", "window"),
    ("fire_at_night_log.mov", "Fire at night", "fire"),
    ("yard_at_dusk_log.mov", "Along the yard, dusk", "dusk"),
)
#: The logarithm of the camera that the demo team borrowed.
CAMERA = CameraEncoding(
    name="Wheelhouse log",
    red=(0.712, 0.296),
    green=(0.192, 0.806),
    blue=(0.118, 0.034),
    white=(0.3127, 0.329),
    base=10,
    log_side_slope=0.262,
    log_side_offset=0.398,
    lin_side_slope=5.4,
    lin_side_offset=0.062,
    lin_side_break=0.009,
)


#: Looks that their makers keep to themselves; every designer may change the others.
OWN = ("North window", "Faded card")


def _people() -> dict[str, Person]:
    people = {
        name: Person.objects.create_user(name, password=PASSWORD, full_name=full, role=role)
        for name, full, role in TEAM
    }
    inviting.invite(people["odile"], "Kiln hand in the yard", Role.APPLIER)
    return people


def _frames(person: Person) -> dict[str, frames.Frame]:
    found = {}
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        for f in FRAMES:
            path = make(f, folder)
            found[f.name] = frames.add(
                path,
                path.name,
                name=f.name,
                light=f.light,
                encoding_key=f.encoding,
                person=person,
                trim=f.trim,
            )
        path = make_chart(folder)
        chart = frames.add(path, path.name, name="Test chart", light="", encoding_key="srgb", person=person)
        chart.chart = True
        chart.save()
    return found


def _clips(person: Person) -> None:
    """Clips among the frames; workers make them play once they run."""
    for file, name, light in MOVING:
        upload = SimpleUploadedFile(file, (CLIPS / file).read_bytes())
        clip = clips.take_upload(upload, person, "film_log", name=name, light=light, among_frames=True)
        clips.look_through(clip.pk)
        moments.stand_if_wanted(clip.pk)


def _earlier(look: Look, share: float) -> Look:
    """An earlier state of a look: the same steps, eased."""
    earlier = look.model_copy(deep=True)
    for step in earlier.steps:
        if step.kind not in ("encode", "scene_to_display"):
            step.strength = round(step.strength * share, 2)
    return earlier


def _look(d: DemoLook, people: dict[str, Person]) -> None:
    maker, lead = people[d.maker], people["odile"]
    final = d.look()
    row = looks.create(maker, d.name, final, d.note, rights=d.rights)
    count = len(d.revisions)
    for k, note in enumerate(d.revisions):
        state = final if k == count - 1 else _earlier(final, 0.8 + 0.1 * k)
        row = looks.save_draft(row.pk, maker, state, row.draft_version)
        revision = looks.keep_revision(row, maker, note)
        if k == count - 1 and d.status != "draft":
            looks.set_status(revision, lead, d.status)
    catalogue.set_tags(row, list(d.tags))
    if d.name not in OWN:
        looks.change(row.pk, maker, LookPatch(shared=True))


def _lut(person: Person) -> None:
    table = bake(
        Treatment(BROUGHT_IN.look()).compile(),
        33,
        title=BROUGHT_IN.name,
        comments=("made by the demo, free to pass on",),
    )
    luts.add(
        SimpleUploadedFile("second_firing.cube", write_text(table).encode()),
        person,
        name=BROUGHT_IN.name,
        expects="bt709_display",
        gives="bt709_display",
        rights="free to pass on",
        origin="the demo team's own",
    )


def _pack(person: Person) -> None:
    """A pack that waits to be read, so that a newcomer can bring looks in at once."""
    pack = packs.begin(person, NAME)
    packs.add_file(pack, NAME, SimpleUploadedFile(NAME, packed()))


def _collections(people: dict[str, Person]) -> None:
    by_name = {look.name: look for look in looks.Look.objects.all()}
    for name, members in COLLECTIONS.items():
        collecting.add(people["ines"], name, [by_name[n] for n in members])
    for name, search in KEPT.items():
        collecting.create(people["tomas"], name, search)
    catalogue.favour(by_name["Ember & Tide"], people["ines"], True)


def _talk(people: dict[str, Person], by_name: dict[str, frames.Frame]) -> None:
    """What the team says of its looks: notes on spots, a review that is asked for."""
    look = looks.Look.objects.get(name="Ember & Tide")
    first, newest = look.revisions.order_by("number").first(), looks.latest(look)
    assert first is not None
    assert newest is not None
    heads = by_name["Clay heads"]
    skin = notes.pin(look, first, people["tomas"], "Skin leans red at full strength.", (heads, 0.52, 0.42))
    notes.reply(look, skin.pk, newest, people["ines"], "The guard holds it now: see the cheek.")
    jar = notes.pin(look, newest, people["odile"], "One blue with the yard now. Good.", (heads, 0.46, 0.1))
    notes.settle(look, jar.pk, people["odile"], True)
    notes.pin(look, newest, people["vera"], "The cap nearly clips on the left.", (heads, 0.19, 0.34))
    for name, asker, words in (
        ("Faded card", "tomas", "Are the plum blacks too much on print?"),
        ("Celadon wash", "ines", "Quiet enough for the glaze catalogue?"),
    ):
        revision = looks.latest(looks.Look.objects.get(name=name))
        assert revision is not None
        reviews.ask(
            revision, people[asker], people["odile"].pk, timezone.localdate() + timedelta(days=3), words
        )


def _sheet(people: dict[str, Person], by_name: dict[str, frames.Frame]) -> None:
    """A blind choice that two of the team have begun."""
    ids = [
        looks.Look.objects.get(name=n).pk
        for n in ("Plain print", "Ember & Tide", "Oxide", "Late straw", "Faded card", "Cross bath")
    ]
    shown = [
        by_name[n].pk
        for n in ("Clay heads", "Kiln mouth, night", "North shelf", "Yard, noon", "Yard, dusk", "Glaze table")
    ]
    plan = SheetPlan(name="Autumn poster, which look", looks=ids, frames=shown, judged_by=ids[:1], blind=True)
    sheet = sheets.create(people["ines"], plan)
    verdicts: tuple[Said, ...] = ("for", "with changes", "against")
    cells = [(r, c) for r in sheet.rows.all() if not r.judged_by for c in sheet.columns.all()]
    for k, (row, column) in enumerate(cells):
        place = ids.index(row.revision.look_id) if row.revision else 0
        first, second = (verdicts[(place * weight + column.place) % 3] for weight in (1, 2))
        sheets.mark(sheet, people["tomas"], MarkIn(row=row.pk, column=column.pk, verdict=first))
        if k < 2 * len(cells) // 3:
            sheets.mark(sheet, people["odile"], MarkIn(row=row.pk, column=column.pk, verdict=second))


def _warm() -> None:
    """Renders what the first screens show, so that the first visit is as quick as the later ones."""
    for look in catalogue.published():
        revision = look.revisions.all()[0]
        recipe = looks.recipe_of(revision)
        pictures.saucer(recipe, 160)
        for frame in frames.Frame.objects.all()[:1]:
            pictures.still(recipe, revision.digest, frame, 480)


def load() -> bool:
    """Loads everything or nothing; returns whether it did."""
    if Person.objects.exists():
        return False
    with transaction.atomic():
        people = _people()
        by_name = _frames(people["ines"])
        _clips(people["tomas"])
        encodings.add(CAMERA, people["ines"])
        _lut(people["tomas"])
        for d in LOOKS:
            _look(d, people)
        load_projects(people, by_name)
        _collections(people)
        _talk(people, by_name)
        _sheet(people, by_name)
        _pack(people["ines"])
    _warm()
    return True


if __name__ == "__main__":
    print("Demo data loaded." if load() else "Demo data is there already.")
