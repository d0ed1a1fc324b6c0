"""Every pair of writes at once: nothing breaks, nobody's work is lost, and no state comes about that the
rules forbid."""

import itertools
import os
import threading
from collections.abc import Callable
from dataclasses import dataclass

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import OperationalError, connections, transaction
from django.db.models import F
from psycopg.errors import DeadlockDetected
from saucer_core.look import Look as LookValue
from saucer_server.catalogue import collecting
from saucer_server.catalogue import rules as catalogue
from saucer_server.catalogue.models import Collection, Placed, Tag
from saucer_server.frames.models import Frame
from saucer_server.looks import rules as looks
from saucer_server.looks.models import Look, Revision, SetAside, Status
from saucer_server.luts import rules as luts
from saucer_server.packs import rules as packs
from saucer_server.people.models import Link
from saucer_server.people.rules import Person, Role
from saucer_server.projects import rules as projects
from saucer_server.projects.models import Shot
from saucer_server.reviewing import notes
from saucer_server.reviewing import rules as reviews
from saucer_server.reviewing.models import Review, Stand
from saucer_server.sheets.models import Sheet

from .conftest import STEPS, Api, in_a_project, person

#: One pair of so many; a storm (``./saucer test --storm``) takes them all.
SHARE = 1 if os.environ.get("SAUCER_STORM") else 4


class World:
    """One look with a revision in review, a frame, a project with a shot, a collection, a note and an
    invitation; fresh for each pair."""

    def __init__(self, frame: Frame) -> None:
        self.ines, self.odile = Person.objects.get(username="ines"), Person.objects.get(username="odile")
        Person.objects.filter(pk=self.odile.pk).update(role=Role.LEAD, is_active=True)
        self.spare = Person.objects.get(username="spare")
        Person.objects.filter(pk=self.spare.pk).update(role=Role.LEAD, is_active=True)
        Sheet.objects.ever().delete()
        Frame.objects.ever().filter(shots__isnull=True).delete()
        fields = {
            f.attname: getattr(frame, f.attname)
            for f in Frame._meta.concrete_fields
            if f.attname not in ("id", "added_at")
        }
        self.frame = Frame.objects.create(**fields)
        self.in_use = Frame.objects.create(**fields)
        self.look = looks.create(self.ines, "Raced", LookValue.model_validate({"steps": STEPS}))
        Look.objects.filter(pk=self.look.pk).update(shared=True)
        self.revision = looks.keep_revision(self.look, self.ines, "")
        self.review = reviews.ask(self.revision, self.ines, self.odile.pk, None, "")
        self.project = in_a_project("Raced", [self.in_use], self.revision)
        self.scene = projects.add_scene(self.project, self.odile, "Scene", [])
        self.shot = self.project.shots.get()
        self.note = notes.pin(self.look, self.revision, self.ines, "words", None)
        Collection.objects.ever().delete()
        collecting.create(self.ines, "Kiln")
        Tag.objects.all().delete()
        self.other = looks.create(self.ines, "Other", LookValue.model_validate({"steps": STEPS}))
        self.other_revision = looks.keep_revision(self.other, self.ines, "")
        self.third = looks.create(self.ines, "Third", LookValue.model_validate({"steps": STEPS}))
        self.third_revision = looks.keep_revision(self.third, self.ines, "")
        Revision.objects.filter(pk__in=[self.other_revision.pk, self.third_revision.pk]).update(
            status=Status.APPROVED
        )
        self.sheet = (
            Api(self.odile)
            .post("/sheets", {"name": "Vote", "looks": [self.look.pk], "frames": [self.in_use.pk]})
            .json()
        )
        packs.Pack.objects.all().delete()
        self.pack = packs.begin(self.ines, "Pack")
        packs.add_file(self.pack, "x.cube", SimpleUploadedFile("x.cube", b"LUT_3D_SIZE 2\n" + b"0 0 0\n" * 8))
        self.secret = self._invited()

    def _invited(self) -> str:
        Link.objects.all().delete()
        Person.objects.filter(username="raced").delete()
        made = Api(self.odile).post("/invitations", {"for_name": "x"}).json()
        return str(made["path"]).rpartition("/")[2]


@dataclass(frozen=True)
class Write:
    """One request: who sends it (``None`` for a stranger), and what."""

    name: str
    who: str | None
    method: str
    path: Callable[[World], str]
    body: Callable[[World], object] = lambda w: {}


def saved(amount, tab):
    return lambda w: {"version": 1, "draft": {"steps": [{**STEPS[0], "amount": amount}]}, "tab": tab}


WRITES = [
    Write("save", "ines", "PUT", lambda w: f"/looks/{w.look.pk}/draft", saved(1.4, "a")),
    Write("save elsewhere", "ines", "PUT", lambda w: f"/looks/{w.look.pk}/draft", saved(1.5, "b")),
    Write("save as another", "tomas", "PUT", lambda w: f"/looks/{w.look.pk}/draft", saved(1.6, "c")),
    Write("keep", "ines", "POST", lambda w: f"/looks/{w.look.pk}/revisions"),
    Write("rename", "ines", "PATCH", lambda w: f"/looks/{w.look.pk}", lambda w: {"name": "Renamed"}),
    Write("note", "tomas", "PATCH", lambda w: f"/looks/{w.look.pk}", lambda w: {"note": "Noted"}),
    Write(
        "tag", "ines", "PUT", lambda w: f"/catalogue/{w.look.pk}/tags", lambda w: {"tags": ["dusk", "warm"]}
    ),
    Write("untag", "tomas", "PUT", lambda w: f"/catalogue/{w.look.pk}/tags", lambda w: {"tags": ["warm"]}),
    Write("favour", "ines", "PUT", lambda w: f"/catalogue/{w.look.pk}/favourite", lambda w: {"likes": True}),
    Write("collect", "ines", "POST", lambda w: "/collections/Kiln/looks", lambda w: {"looks": [w.look.pk]}),
    Write("take apart", "tomas", "DELETE", lambda w: "/collections/Kiln"),
    Write(
        "approve", "odile", "POST", lambda w: f"/reviews/{w.review.pk}/answer", lambda w: {"approve": True}
    ),
    Write(
        "send back",
        "spare",
        "POST",
        lambda w: f"/reviews/{w.review.pk}/answer",
        lambda w: {"approve": False, "words": "no"},
    ),
    Write("withdraw", "ines", "POST", lambda w: f"/reviews/{w.review.pk}/withdraw"),
    Write(
        "ask another",
        "ines",
        "POST",
        lambda w: f"/revisions/{w.revision.pk}/reviews",
        lambda w: {"of": w.spare.pk},
    ),
    Write(
        "set approved",
        "odile",
        "PUT",
        lambda w: f"/revisions/{w.revision.pk}/status",
        lambda w: {"status": "approved"},
    ),
    Write(
        "set draft",
        "ines",
        "PUT",
        lambda w: f"/revisions/{w.revision.pk}/status",
        lambda w: {"status": "draft"},
    ),
    Write("rename frame", "ines", "PATCH", lambda w: f"/frames/{w.frame.pk}", lambda w: {"name": "Renamed"}),
    Write(
        "trim frame",
        "ines",
        "PATCH",
        lambda w: f"/frames/{w.frame.pk}",
        lambda w: {"trim": {"exposure": 0.5}},
    ),
    Write("remove frame", "ines", "DELETE", lambda w: f"/frames/{w.frame.pk}"),
    Write(
        "add shot",
        "odile",
        "POST",
        lambda w: f"/projects/{w.project.pk}/shots",
        lambda w: {"frames": [w.frame.pk]},
    ),
    Write(
        "rename shot",
        "odile",
        "PATCH",
        lambda w: f"/projects/{w.project.pk}/shots/{w.shot.pk}",
        lambda w: {"name": "Renamed"},
    ),
    Write("remove shot", "odile", "DELETE", lambda w: f"/projects/{w.project.pk}/shots/{w.shot.pk}"),
    Write(
        "gather",
        "odile",
        "POST",
        lambda w: f"/projects/{w.project.pk}/gather",
        lambda w: {"shots": [w.shot.pk], "scene": w.scene.pk},
    ),
    Write("remove scene", "spare", "DELETE", lambda w: f"/projects/{w.project.pk}/scenes/{w.scene.pk}"),
    Write(
        "assign",
        "odile",
        "POST",
        lambda w: f"/projects/{w.project.pk}/assign",
        lambda w: {"shots": [w.shot.pk], "layers": [{"revision": w.revision.pk, "strength": 0.5}]},
    ),
    Write(
        "clear",
        "spare",
        "POST",
        lambda w: f"/projects/{w.project.pk}/assign",
        lambda w: {"shots": [w.shot.pk], "layers": []},
    ),
    Write(
        "settle",
        "odile",
        "PUT",
        lambda w: f"/looks/{w.look.pk}/notes/{w.note.pk}/settled",
        lambda w: {"settled": True},
    ),
    Write(
        "reply",
        "tomas",
        "POST",
        lambda w: f"/looks/{w.look.pk}/notes/{w.note.pk}/replies",
        lambda w: {"text": "yes", "revision": w.revision.pk},
    ),
    Write("drop note", "ines", "DELETE", lambda w: f"/looks/{w.look.pk}/notes/{w.note.pk}"),
    Write(
        "lead no more", "odile", "PATCH", lambda w: f"/people/{w.spare.pk}", lambda w: {"role": "designer"}
    ),
    Write("nor that one", "spare", "PATCH", lambda w: f"/people/{w.odile.pk}", lambda w: {"active": False}),
    Write(
        "retire",
        "odile",
        "POST",
        lambda w: f"/revisions/{w.third_revision.pk}/retire",
        lambda w: {"successor": w.other.pk},
    ),
    Write(
        "retire the other",
        "spare",
        "POST",
        lambda w: f"/revisions/{w.other_revision.pk}/retire",
        lambda w: {"successor": w.third.pk},
    ),
    Write(
        "vote",
        "tomas",
        "PUT",
        lambda w: f"/sheets/{w.sheet['id']}/marks",
        lambda w: {"row": w.sheet["rows"][0]["id"], "column": w.sheet["columns"][0]["id"], "verdict": "for"},
    ),
    Write("drop sheet", "odile", "DELETE", lambda w: f"/sheets/{w.sheet['id']}"),
    Write("read pack", "ines", "POST", lambda w: f"/packs/{w.pack.pk}/read", lambda w: {"frame": w.frame.pk}),
    Write("drop pack", "ines", "DELETE", lambda w: f"/packs/{w.pack.pk}"),
    Write(
        "come in",
        None,
        "POST",
        lambda w: f"/come-in/{w.secret}",
        lambda w: {"username": "raced", "name": "Raced", "password": "glaze-and-ember"},
    ),
]


def at_once(world: World, pair: tuple[Write, Write]) -> list[int]:
    """Sends both at the same moment; the statuses of their answers."""
    together = threading.Barrier(2)
    statuses = [0, 0]
    apis = [Api(Person.objects.get(username=w.who) if w.who else None) for w in pair]
    requests = [(w.method, w.path(world), w.body(world)) for w in pair]

    def send(k: int) -> None:
        try:
            together.wait(30)
            statuses[k] = apis[k].send(*requests[k]).status_code
        finally:
            connections.close_all()

    threads = [threading.Thread(target=send, args=(k,)) for k in (0, 1)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join(60)
    return statuses


def forbidden(world: World, pair: tuple[Write, Write], statuses: list[int]) -> list[str]:
    """What is as it must not be."""
    names, good = [w.name for w in pair], [s < 300 for s in statuses]
    look = Look.objects.get(pk=world.look.pk)
    saves = sum(ok for name, ok in zip(names, good, strict=True) if name.startswith("save"))
    found = []
    if not all(200 <= s < 500 for s in statuses):
        found.append(f"statuses {statuses}")
    # The same, sent twice, is one save.
    if look.draft_version != 1 + saves and names[0] != names[1]:
        found.append(f"{saves} saves made version {look.draft_version}")
    late = sum(1 for name, s in zip(names, statuses, strict=True) if name.startswith("save") and s == 409)
    if SetAside.objects.filter(look=look).count() != late:
        found.append("a late draft is lost")
    for name, ok in zip(names, good, strict=True):
        if ok and name == "rename" and look.name != "Renamed":
            found.append("the name is lost")
        if ok and name == "note" and look.note != "Noted":
            found.append("the note is lost")
    frame = Frame.objects.filter(pk=world.frame.pk).first()
    if frame is not None and dict(zip(names, good, strict=True)) == {
        "rename frame": True,
        "trim frame": True,
    }:
        kept = (frame.name, frame.trim.exposure)
        found += [] if kept == ("Renamed", 0.5) else [f"of the frame's changes only {kept} is there"]
    if names[0] == names[1] == "remove frame" and good == [True, True]:
        found.append("one frame was removed twice")
    if "remove frame" in names and "add shot" in names and all(good):
        found.append("a frame was removed that became a shot")
    revision = Revision.objects.get(pk=world.revision.pk)
    if (
        revision.status != Status.IN_REVIEW
        and Review.objects.filter(revision=revision, stand=Stand.OPEN).exists()
    ):
        found.append(f"a review is open on a revision that is {revision.status}")
    numbers = sorted(look.revisions.values_list("number", flat=True))
    if numbers != list(range(1, len(numbers) + 1)):
        found.append(f"revisions {numbers}")
    for row in Collection.objects.all():
        places = list(Placed.objects.filter(collection=row).values_list("place", flat=True))
        found += [] if len(places) == len(set(places)) else [f"places {places}"]
    if not Person.objects.filter(role=Role.LEAD, is_active=True).exists():
        found.append("no lead is left")
    if names == ["come in", "come in"] and sum(good) != 1:
        found.append("an invitation was taken up twice, or never")
    if (
        Shot.objects.filter(project=world.project)
        .exclude(scene=None)
        .exclude(scene__project=F("project"))
        .exists()
    ):
        found.append("a shot is in a scene of another project")
    return found


@pytest.fixture
def everybody(frame):
    for name, role in (("tomas", Role.DESIGNER), ("odile", Role.LEAD), ("spare", Role.LEAD)):
        person(name, role)


@pytest.mark.django_db(transaction=True)
def test_every_write_is_taken_where_nothing_comes_between(frame, everybody):
    """A write that is refused by itself would race with nothing."""
    wrong = []
    for write in WRITES:
        world = World(frame)
        api = Api(Person.objects.get(username=write.who) if write.who else None)
        answer = api.send(write.method, write.path(world), write.body(world))
        wrong += (
            []
            if answer.status_code < 300
            else [f"{write.name}: {answer.status_code} {answer.content.decode()[:200]}"]
        )
    assert not wrong, "\n".join(wrong)


@pytest.mark.django_db(transaction=True)
@pytest.mark.parametrize("first", WRITES, ids=lambda w: w.name)
def test_every_pair_of_writes(frame, everybody, first):
    wrong = []
    at = WRITES.index(first)
    for k, second in itertools.islice(enumerate(WRITES), at, None):
        if (at + k) % SHARE:
            continue
        world = World(frame)
        statuses = at_once(world, (first, second))
        wrong += [
            f"{first.name} × {second.name}: {what}" for what in forbidden(world, (first, second), statuses)
        ]
    assert not wrong, "\n".join(wrong)


@pytest.mark.django_db(transaction=True)
def test_a_tag_is_not_lost_that_one_look_gives_up_while_another_takes_it(lead):
    """Forty times: what was acknowledged is there afterwards, though nobody carries the tag for a moment."""
    person = Person.objects.get(username="odile")
    one, other = (
        looks.create(person, name, LookValue.model_validate({"steps": STEPS})) for name in ("One", "Other")
    )
    for turn in range(40):
        catalogue.set_tags(one, ["raku"])
        catalogue.set_tags(other, [])
        begin = threading.Barrier(2)

        def give(look, names, begin=begin):
            try:
                begin.wait()
                catalogue.set_tags(look, names)
            finally:
                connections.close_all()

        threads = [threading.Thread(target=give, args=words) for words in ((one, []), (other, ["raku"]))]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
        assert list(other.tags.values_list("name", flat=True)) == ["raku"], turn
        assert not one.tags.exists()


@pytest.mark.django_db(transaction=True)
def test_two_looks_retired_for_one_another_at_once(lead, designer):
    """Twenty times: one of them is refused with words, and nobody is told of a database."""
    odile, ines = (Person.objects.get(username=name) for name in ("odile", "ines"))
    for turn in range(20):
        made = [looks.create(ines, f"{turn} {k}", LookValue.model_validate({"steps": STEPS})) for k in (0, 1)]
        kept = [looks.keep_revision(look, ines, "") for look in made]
        Revision.objects.filter(pk__in=[revision.pk for revision in kept]).update(status=Status.APPROVED)
        begin, statuses = threading.Barrier(2), [0, 0]

        def retire(k, made=made, kept=kept, begin=begin, statuses=statuses):
            api = Api(odile)
            begin.wait()
            statuses[k] = api.post(
                f"/revisions/{kept[k].pk}/retire", {"successor": made[1 - k].pk}
            ).status_code
            connections.close_all()

        threads = [threading.Thread(target=retire, args=(k,)) for k in (0, 1)]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
        assert sorted(statuses) == [200, 409], turn


def test_a_deadlock_is_tried_again_and_never_told(designer, look, monkeypatch):
    """One that goes away with the next try; and one that stays, as somebody's change at the same moment."""
    error = OperationalError("deadlock detected")
    error.__cause__ = DeadlockDetected("deadlock detected")
    left, change = [2], looks.change

    def meeting(*words, **said):
        if left[0]:
            left[0] -= 1
            raise error
        return change(*words, **said)

    monkeypatch.setattr(looks, "change", meeting)
    assert designer.send("PATCH", f"/looks/{look.pk}", {"name": "After two"}).json()["name"] == "After two"
    left[0] = 100
    told = designer.send("PATCH", f"/looks/{look.pk}", {"name": "Never"})
    assert told.status_code == 409
    assert "at this moment" in told.json()["message"]


@pytest.mark.django_db(transaction=True)
def test_a_table_is_not_removed_while_a_draft_that_takes_it_is_saved(lead):
    """The removal waits for the transaction that saves, and then finds the table in use."""
    odile = Person.objects.get(username="odile")
    look = looks.create(odile, "Raced", LookValue.model_validate({"steps": []}))
    file = SimpleUploadedFile("x.cube", b"LUT_3D_SIZE 2\n" + b"0.2 0.3 0.4\n" * 8)
    lut = luts.add(file, odile, name="Raced", expects="srgb", gives="srgb", rights="free", origin="here")
    draft = LookValue.model_validate(
        {"steps": [{"kind": "lut", "id": "l", "table": lut.digest, "name": "Raced"}]}
    )
    asked, answers = threading.Event(), []

    def remove():
        api = Api(odile)
        asked.set()
        answers.append(api.send("DELETE", f"/luts/{lut.pk}"))
        connections.close_all()

    thread = threading.Thread(target=remove)
    with transaction.atomic():
        looks.save_draft(look.pk, odile, draft, 1)
        thread.start()
        asked.wait(30)
        thread.join(1.0)
        assert thread.is_alive()
    thread.join(30)
    assert answers[0].status_code == 409
    assert "the draft of “Raced”" in answers[0].json()["message"]


@pytest.mark.django_db(transaction=True)
def test_a_table_that_a_kept_look_holds_is_not_removed_by_others(lead, designer, applier):
    """And the look is not told by its name."""
    ines, odile = (Person.objects.get(username=name) for name in ("ines", "odile"))
    file = SimpleUploadedFile("x.cube", b"LUT_3D_SIZE 2\n" + b"0.2 0.3 0.4\n" * 8)
    lut = luts.add(file, ines, name="Raced", expects="srgb", gives="srgb", rights="free", origin="here")
    step = {"kind": "lut", "id": "l", "table": lut.digest, "name": "Raced"}
    look = looks.create(odile, "Secret", LookValue.model_validate({"steps": [step]}))
    project = lead.post("/projects", {"name": "Kept"}).json()["id"]
    lead.send("PATCH", f"/projects/{project}", {"private": True})
    assert lead.send("PUT", f"/projects/{project}/looks/{look.pk}", {"kept": True}).status_code == 200
    told = designer.send("DELETE", f"/luts/{lut.pk}")
    assert told.status_code == 409
    assert "a look that is kept to a project" in told.json()["message"]
    assert "Secret" not in told.json()["message"]
