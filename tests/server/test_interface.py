"""The whole interface against its own description, and against damaged looks."""

import copy
import json

import pytest
import schemathesis
from django.test import Client
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from ninja import Schema
from saucer_core.look import Look, every_step
from saucer_core.steps import LutStep
from saucer_server.api import api
from saucer_server.people.rules import Person, Role
from saucer_server.wsgi import application

from ..amount import examples
from ..core.random_looks import looks

description = schemathesis.openapi.from_wsgi("/api/openapi.json", application)
description.base_url = "http://localhost"  # type: ignore[attr-defined]
#: Looks nest: our own random ones reach further than what is drawn from a schema that refers to itself.
TAKES_A_LOOK = [
    f"/api/{p}"
    for p in (
        "looks",
        "looks/{look_id}/draft",
        "looks/{look_id}/variations",
        "live",
        "picture",
        "exact",
        "readings",
        "probe",
        "masks",
        "checks",
        "mend",
        "changes",
        "begun",
        "whole",
        "saucer",
    )
]
rest = description.exclude(path=TAKES_A_LOOK, method=["POST", "PUT"])
anything = settings(max_examples=examples(4, 24), deadline=None, suppress_health_check=list(HealthCheck))


@pytest.fixture
def cookies(transactional_db):
    person = Person.objects.create_user("lead", password="clay-and-water", full_name="Lead", role=Role.LEAD)
    client = Client()
    client.get("/api/session")
    client.force_login(person)
    return {name: c.value for name, c in client.cookies.items()}


def test_the_description_is_served(client):
    assert client.get("/api/openapi.json").json()["info"]["title"] == api.title


def every_payload(of=Schema):
    for made in of.__subclasses__():
        yield made
        yield from every_payload(made)


def test_no_two_payloads_share_a_name():
    """The document has one entry a name: the second would take the place of the first, unseen."""
    places = {
        (made.__name__, made.__module__)
        for made in every_payload()
        if made.__module__.startswith("saucer_server.")
    }
    names = [name for name, _ in places]
    assert sorted({name for name in names if names.count(name) > 1}) == []


@rest.parametrize()
@anything
def test_no_request_breaks_the_server(case, cookies):
    """schemathesis: whatever is sent, the answer is never an error of the server's own."""
    if case.path.endswith("/sign-out"):
        case.method = "get"
    answer = case.call(cookies=cookies, headers={"X-CSRFToken": cookies["csrftoken"], "Host": "localhost"})
    # 503 is what it says where no worker stands.
    stands = answer.status_code < 500 or (case.path.endswith("/ready") and answer.status_code == 503)
    assert stands, (case.method, case.path, case.body, answer.text[:400])


HOSTILE: list[object] = [
    None,
    True,
    -1,
    2**80,
    1e308,
    "",
    "\0",
    "x" * 100_000,
    [],
    {},
    [[0, 0], [0, 1]],
    {"kind": "group"},
    [[[[[[]]]]]],
]


def _places(value, path=()):
    """Every place in a JSON value."""
    yield path
    inside = value.items() if isinstance(value, dict) else enumerate(value) if isinstance(value, list) else ()
    for key, part in inside:
        yield from _places(part, (*path, key))


@st.composite
def damaged(draw) -> tuple[bool, object]:
    """A random look as JSON, whole or with one place replaced; and whether it is whole."""
    look = draw(looks()).model_dump(mode="json")
    if draw(st.booleans()):
        return True, look
    path = draw(st.sampled_from([p for p in _places(look) if p]))
    broken = copy.deepcopy(look)
    at = broken
    for key in path[:-1]:
        at = at[key]
    at[path[-1]] = draw(st.sampled_from(HOSTILE))
    return False, broken


@settings(anything, max_examples=examples(30, 200))
@given(damaged())
def test_no_look_breaks_the_server(designer, frame, look, made):
    """Whole looks are taken everywhere; damaged ones are refused in words."""
    whole, sent = made
    bodies = {
        ("POST", "/live"): {"look": sent, "frame": frame.pk},
        ("POST", "/picture?width=32"): {"look": sent, "frame": frame.pk},
        ("POST", "/exact?width=32"): {"look": sent, "frame": frame.pk},
        ("POST", "/readings"): {"look": sent, "frame": frame.pk, "spots": [{"x": 0.2, "y": 1}]},
        ("POST", "/probe"): {"look": sent, "frame": frame.pk, "spot": {"x": 0, "y": 0.5}},
        ("POST", "/masks?width=32"): {"look": sent, "frame": frame.pk},
        ("POST", "/exact?width=32&"): {"look": sent, "frame": frame.pk, "show": "baked", "grid": 9},
        ("POST", "/exact?width=32&&"): {
            "look": sent,
            "frame": frame.pk,
            "show": "difference",
            "against": sent,
        },
        ("POST", "/checks"): {"look": sent, "frames": [frame.pk]},
        ("POST", "/mend"): {"look": sent, "kind": "gamut", "frames": [frame.pk]},
        ("POST", "/changes"): {"before": sent, "after": sent},
        ("POST", f"/looks/{look.pk}/variations"): {"name": "x", "draft": sent},
        ("POST", "/saucer"): sent,
        ("POST", "/whole"): sent,
        ("POST", "/looks"): {"name": "x", "draft": sent},
        ("PUT", f"/looks/{look.pk}/draft"): {"version": 1, "draft": sent},
    }
    for (method, path), body in bodies.items():
        answer = designer.send(method, path, body)
        assert answer.status_code < 500, (path, json.dumps(sent)[:400], answer.content[:300])
        if answer.status_code >= 400 and answer.status_code != 409:
            assert answer.json()["message"]
            # A sound look may have nothing to mend.
            assert path == "/mend" or not (whole and _computable(sent)), (path, answer.json()["message"])


def _computable(sent) -> bool:
    return not any(isinstance(step, LutStep) for step in every_step(Look.model_validate(sent).steps))


def test_no_two_parts_of_the_document_share_a_name():
    """The document has one schema a name: of two classes the second would take the place of the first, and
    nobody would be told."""
    seen: dict[str, str] = {}
    classes = list(Schema.__subclasses__())
    for one in classes:
        classes.extend(one.__subclasses__())
        if one.__module__.startswith("saucer_server"):
            assert seen.setdefault(one.__name__, one.__module__) == one.__module__, (
                f"{one.__name__} in {one.__module__} and {seen[one.__name__]}"
            )
