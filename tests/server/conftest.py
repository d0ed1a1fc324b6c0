"""People, frames and looks for the tests of the server."""

import json

import numpy as np
import pytest
from django.test import Client
from saucer_core.formats import pictures
from saucer_core.look import Look
from saucer_server.frames import rules as frames
from saucer_server.looks import rules as looks
from saucer_server.people import circles
from saucer_server.people.rules import Person, Role
from saucer_server.projects import assigning
from saucer_server.projects import rules as projects
from saucer_server.projects.payloads import Wanted, Wish

from . import emptying

STEPS = [{"id": "a", "kind": "contrast", "amount": 1.2}, {"id": "b", "kind": "saturation", "amount": 0.8}]


class Api:
    """A signed-in person at the HTTP interface, with the protection against forged requests switched on."""

    def __init__(self, person: Person | None) -> None:
        self.client = Client(enforce_csrf_checks=True)
        self.client.get("/api/session")
        if person is not None:
            self.client.force_login(person)

    def send(self, method: str, path: str, body=None, **extra):
        token = self.client.cookies["csrftoken"].value
        data = {} if body is None else {"data": json.dumps(body), "content_type": "application/json"}
        return self.client.generic(method, "/api" + path, headers={"X-CSRFToken": token}, **{**data, **extra})

    def get(self, path):
        return self.send("GET", path)

    def post(self, path, body=None):
        return self.send("POST", path, body if body is not None else {})

    def upload(self, path, fields):
        token = self.client.cookies["csrftoken"].value
        return self.client.post("/api" + path, fields, headers={"X-CSRFToken": token})


def person(name: str, role: Role) -> Person:
    return Person.objects.create_user(name, password="clay-and-water", full_name=name.title(), role=role)


def in_a_project(name, frames_of_it, revision):
    """A project of the lead with shots of those frames, all under a revision."""
    lead = Person.objects.get(username="odile")
    project = projects.create(lead, name, "")
    shots = projects.add_shots(project, lead, [projects.NewShot(f) for f in frames_of_it])
    assigning.assign(
        project, lead, Wish(shots=tuple(s.pk for s in shots), layers=(Wanted(revision=revision.pk),))
    )
    return project


@pytest.fixture(autouse=True, scope="session")
def quick_emptying():
    emptying.quickly()


@pytest.fixture(autouse=True)
def nothing_remembered():
    """What a process remembers of who may see what belongs to rows that are gone with each test."""
    circles.forget()


@pytest.fixture
def applier(db):
    return Api(person("vera", Role.APPLIER))


@pytest.fixture
def designer(db):
    return Api(person("ines", Role.DESIGNER))


@pytest.fixture
def other(db):
    return Api(person("tomas", Role.DESIGNER))


@pytest.fixture
def lead(db):
    return Api(person("odile", Role.LEAD))


@pytest.fixture
def stranger(db):
    return Api(None)


@pytest.fixture
def frame(db, tmp_path, designer):
    y, x = np.mgrid[0:36, 0:64].astype(np.float32)
    path = tmp_path / "ramp.png"
    pictures.write(path, np.stack([x / 63, y / 35, (x + y) / 98], axis=-1))
    return frames.add(
        path,
        "ramp.png",
        name="Ramp",
        light="noon",
        encoding_key="srgb",
        person=Person.objects.get(username="ines"),
    )


@pytest.fixture
def look(designer):
    """A look of ines that other designers may change too."""
    made = looks.create(
        Person.objects.get(username="ines"),
        "Warm shelf",
        Look.model_validate({"steps": STEPS}),
        "for shelves",
    )
    made.shared = True
    made.save(update_fields=["shared"])
    return made


@pytest.fixture
def revision(look):
    return looks.keep_revision(look, look.maker, "first")
