"""The whole interface against its own description."""

import pytest
import schemathesis
from django.test import Client
from hypothesis import HealthCheck, settings
from saucer_server.api import api
from saucer_server.people.rules import Person, Role
from saucer_server.wsgi import application

from .conftest import STEPS

description = schemathesis.openapi.from_wsgi("/api/openapi.json", application)
description.base_url = "http://localhost"


@pytest.fixture
def cookies(transactional_db):
    person = Person.objects.create_user("lead", password="clay-and-water", full_name="Lead", role=Role.LEAD)
    client = Client()
    client.get("/api/session")
    client.force_login(person)
    return {name: c.value for name, c in client.cookies.items()}


def test_the_description_is_served(client):
    assert client.get("/api/openapi.json").json()["info"]["title"] == api.title


@description.parametrize()
@settings(max_examples=6, deadline=None, derandomize=True, suppress_health_check=list(HealthCheck))
def test_no_request_breaks_the_server(case, cookies):
    """schemathesis: whatever is sent, the answer is never an error of the server's own."""
    if case.path.endswith("/sign-out"):
        case.method = "get"
    answer = case.call(cookies=cookies, headers={"X-CSRFToken": cookies["csrftoken"], "Host": "localhost"})
    assert answer.status_code < 500, (case.method, case.path, case.body, answer.text[:400])
    assert STEPS
