"""A studio's directory keeps people by SCIM 2.0 (RFC 7643, RFC 7644)."""

import json

import pytest
from saucer_server.people.activity import Event
from saucer_server.people.rules import Person, Role

from demo import directory as stand_in

TOKEN = "directory-token"


@pytest.fixture
def send(client, settings, db):
    """Sends to the directory's door; status and what was answered."""
    settings.SCIM = TOKEN

    def sending(method, path, body=None, token=TOKEN):
        data = {} if body is None else {"data": json.dumps(body), "content_type": "application/scim+json"}
        path, _, query = path.partition("?")
        query = query.replace(" ", "%20").replace('"', "%22")
        answer = client.generic(
            method, f"/scim/v2{path}?{query}", headers={"Authorization": f"Bearer {token}"}, **data
        )
        assert not answer.content or answer["Content-Type"] == "application/scim+json"
        return answer.status_code, json.loads(answer.content) if answer.content else {}

    return sending


def user(username, **more):
    return {"schemas": [stand_in.USER], "userName": username, **more}


def test_a_directory_is_kept_in_step(send, lead):
    keys = stand_in.synchronise(send, stand_in.PEOPLE)
    assert {
        p.username: (p.full_name, p.role, p.email, p.is_active)
        for p in Person.objects.exclude(username="odile")
    } == {
        "gesa": ("Gesa Hand", "applier", "gesa@kiln.example", True),
        "bruno": ("Bruno Slip", "applier", "bruno@kiln.example", True),
        "wiebke": ("Wiebke Raku", "designer", "", True),
    }
    assert not Person.objects.get(username="gesa").has_usable_password()
    # Again: nobody is made twice. Then one has left, and one is called otherwise.
    assert stand_in.synchronise(send, stand_in.PEOPLE) == keys
    changed = {**stand_in.PEOPLE["d-1"], "displayName": "Gesa Fuss", "userName": "gesa.fuss"}
    stand_in.synchronise(send, {"d-1": changed, "d-3": stand_in.PEOPLE["d-3"]})
    assert {p.username: p.is_active for p in Person.objects.all()} == {
        "odile": True,
        "gesa.fuss": True,
        "bruno": False,
        "wiebke": True,
    }
    assert (
        Event.objects.filter(said="The directory lets in no more", about="Bruno Slip", by=None).count() == 1
    )


def test_who_leaves_is_signed_out_and_the_only_lead_stays(send, lead, designer):
    odile, ines = (Person.objects.get(username=name) for name in ("odile", "ines"))
    secret = designer.post("/me/tokens", {"name": "x"}).json()["secret"]
    assert send("DELETE", f"/Users/{ines.pk}")[0] == 204
    assert designer.get("/me").status_code == 401
    assert designer.client.get("/api/me", headers={"Authorization": f"Bearer {secret}"}).status_code == 401
    status, said = send(
        "PATCH", f"/Users/{odile.pk}", {"Operations": [{"op": "replace", "value": {"active": False}}]}
    )
    assert (status, "only lead" in said["detail"]) == (409, True)
    assert (
        send(
            "PATCH",
            f"/Users/{odile.pk}",
            {"Operations": [{"op": "Replace", "path": "active", "value": "False"}]},
        )[0]
        == 409
    )
    assert lead.get("/me").status_code == 200


@pytest.mark.parametrize(
    ("operations", "field", "value"),
    [
        ([{"op": "replace", "path": "displayName", "value": "New Name"}], "full_name", "New Name"),
        (
            [{"op": "add", "path": 'emails[type eq "work"].value', "value": "new@kiln.example"}],
            "email",
            "new@kiln.example",
        ),
        (
            [
                {
                    "op": "replace",
                    "path": "emails",
                    "value": [{"value": "a@k.example"}, {"value": "b@k.example", "primary": True}],
                }
            ],
            "email",
            "b@k.example",
        ),
        ([{"op": "remove", "path": "emails"}], "email", ""),
        ([{"op": "replace", "path": "roles", "value": [{"value": "lead"}]}], "role", Role.LEAD),
        ([{"op": "replace", "path": "name.formatted", "value": "Formatted"}], "full_name", "Formatted"),
        ([{"op": "replace", "value": {"userName": "other.name", "externalId": "e-9"}}], "external", "e-9"),
    ],
)
def test_changes_as_the_standard_writes_them(send, operations, field, value):
    """RFC 7644, 3.5.2: with a path, with a filter in it, without one."""
    made = send("POST", "/Users", user("gesa", emails=[{"value": "gesa@kiln.example"}]))[1]
    status, _ = send(
        "PATCH", f"/Users/{made['id']}", {"schemas": [stand_in.CHANGE], "Operations": operations}
    )
    assert status == 200
    assert getattr(Person.objects.get(pk=made["id"]), field) == value


def test_people_are_found_and_listed_in_pages(send):
    for k in range(5):
        assert send("POST", "/Users", user(f"p{k}", externalId=f"e{k}"))[0] == 201
    one = send("GET", '/Users?filter=userName eq "P3"')[1]
    assert (one["totalResults"], one["Resources"][0]["externalId"]) == (1, "e3")
    page = send("GET", "/Users?startIndex=2&count=2")[1]
    assert (page["totalResults"], page["itemsPerPage"], [p["userName"] for p in page["Resources"]]) == (
        5,
        2,
        ["p1", "p2"],
    )
    assert send("GET", '/Users?filter=displayName sw "p"')[0] == 400
    assert send("GET", "/Users/999999")[0] == 404
    for path in ("/ServiceProviderConfig", "/ResourceTypes", "/Schemas"):
        assert send("GET", path)[0] == 200


@pytest.mark.parametrize(
    ("body", "status"),
    [
        (user("ODILE"), 409),
        (user("two words"), 422),
        ({}, 400),
        ([], 400),
        (user("x", emails=["no address"]), 400),
        (user("x", roles=[{"value": "king"}]), 400),
        (user("x", displayName="a\u202eb"), 422),
        (user("x", name="text"), 400),
        (user("x", externalId="taken"), 409),
        (user("x", emails=[{"value": "odile@kiln.example"}]), 409),
    ],
)
def test_what_cannot_be_kept_is_refused_and_makes_nobody(send, lead, body, status):
    Person.objects.filter(username="odile").update(external="taken", email="odile@kiln.example")
    answer = send("POST", "/Users", body)
    assert answer[0] == status, answer
    assert answer[1]["schemas"] == ["urn:ietf:params:scim:api:messages:2.0:Error"]
    assert len(answer[1]["detail"]) > 8
    assert Person.objects.count() == 1


def test_nobody_else_opens_that_door(send, settings, client, lead):
    assert send("GET", "/Users", token="guessed")[0] == 401
    assert send("GET", "/Users", token="")[0] == 401
    settings.SCIM = ""
    assert send("GET", "/Users", token="")[0] == 404
    assert client.get("/scim/v2/Users").status_code == 404
