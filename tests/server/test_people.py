"""People: the table of who may do what, ways in, sessions, tokens, and what was done."""

import base64
import json
import re
import time
from datetime import timedelta

import pyotp
import pytest
from django.contrib.sessions.models import Session
from django.db import DatabaseError, OperationalError, transaction
from django.test import Client
from django.urls import get_resolver
from django.utils import timezone
from saucer_core.look import Look as LookValue
from saucer_server.errors import RuleError
from saucer_server.frames import rules as frames
from saucer_server.looks import rules as looks
from saucer_server.people import factors
from saucer_server.people.activity import Event, Happening, note
from saucer_server.people.may import TABLE, Reach, may, must
from saucer_server.people.models import Link, Token, UserSession
from saucer_server.people.rules import Person, Role
from saucer_server.people.tokens import BAKES

from .conftest import STEPS, Api, in_a_project, person

PASSWORD = "glaze-and-ember"

# The table


def somebody(role) -> Person:
    return Person.objects.create_user(
        f"p {role}", password="clay-and-water", full_name=role.title(), role=role
    )


@pytest.mark.parametrize("role", list(Role))
@pytest.mark.parametrize("key", list(TABLE))
def test_the_table_answers_for_every_line(db, key, role):
    who, reach = somebody(role), TABLE[key].reach(role)
    assert may(who, key, own=True) is (reach in (Reach.ALL, Reach.OWN))
    assert may(who, key, own=False) is (reach is Reach.ALL)
    for own in (True, False):
        if may(who, key, own):
            must(who, key, own)
            continue
        with pytest.raises(RuleError) as refused:
            must(who, key, own, "Better words.")
        assert refused.value.status == 403
        assert refused.value.message == ("Better words." if reach is Reach.OWN else refused.value.message)
        assert len(refused.value.message) > 12


def test_nobody_may_do_more_than_a_lead():
    order = [Reach.NO, Reach.ASKS, Reach.OWN, Reach.ALL]
    for line in TABLE.values():
        assert order.index(line.applier) <= order.index(line.designer) <= order.index(line.lead), line.key


class World:
    """A look, a frame and a project of somebody, at which everybody tries everything."""

    def __init__(self, owner: Person, frame) -> None:
        self.look = looks.create(
            owner if owner.role != Role.APPLIER else somebody(Role.DESIGNER),
            "Theirs",
            LookValue.model_validate({"steps": STEPS}),
        )
        self.revision = looks.keep_revision(self.look, self.look.maker, "")
        self.project = in_a_project("Theirs", [frame], self.revision)
        self.project.members.set([owner])
        self.frame = frame

    def tries(self):
        """A request for every line of the table that a person meets over HTTP."""
        look, revision, shot = self.look, self.revision, self.project.shots.get()
        return {
            "look.try": ("GET", f"/revisions/{revision.pk}/recipe", None),
            "shot.work": ("PATCH", f"/projects/{self.project.pk}/shots/{shot.pk}", {"name": "x"}),
            "look.make": ("POST", "/looks", {"name": "x"}),
            "look.change": ("PATCH", f"/looks/{look.pk}", {"note": "x"}),
            "bake": ("POST", f"/revisions/{revision.pk}/bakes", {"kinds": ["cube"], "grid": 9}),
            "bring_in": ("POST", "/packs", {"name": "x"}),
            "catalogue.order": ("PUT", f"/catalogue/{look.pk}/tags", {"tags": ["x"]}),
            "review.ask": ("PUT", f"/revisions/{revision.pk}/status", {"status": "in review"}),
            "review.decide": ("PUT", f"/revisions/{revision.pk}/status", {"status": "approved"}),
            "started.end": ("PATCH", f"/frames/{self.frame.pk}", {"name": "x"}),
            "project.make": ("POST", "/projects", {"name": "x"}),
            "people.change": ("POST", "/invitations", {"for_name": "x"}),
        }


@pytest.mark.parametrize("role", list(Role))
@pytest.mark.parametrize("key", [k for k in TABLE if k != "held.pass_on"])
@pytest.mark.parametrize("own", [True, False], ids=["own", "another's"])
def test_over_http_everybody_may_what_the_table_says(db, lead, tmp_path, frame, key, role, own):
    """Every line × role × own or another's, asked for through the interface: 403 where the table says no, and
    nowhere else."""
    who = somebody(role)
    owner = who if own else person("owner", Role.DESIGNER)
    if own:
        frames.Frame.objects.filter(pk=frame.pk).update(added_by=who)
    world = World(owner, frame)
    if own and role == Role.APPLIER and key in ("look.change", "review.ask"):
        own = False
    method, path, body = world.tries()[key]
    answer = Api(who).send(method, path, body)
    assert (answer.status_code != 403) is may(who, key, own), answer.content
    assert answer.status_code < 500
    assert answer.status_code == 403 or answer.status_code < 300, answer.content


def test_the_table_is_shown(applier):
    rows = applier.get("/people/may").json()
    assert [r["key"] for r in rows] == list(TABLE)
    change = next(r for r in rows if r["key"] == "look.change")
    assert (change["applier"], change["designer"], change["lead"]) == ("no", "own", "all")
    assert "shares it" in change["own"]


def test_a_look_is_its_makers_until_it_is_shared(designer, other, lead, db):
    made = designer.post("/looks", {"name": "Mine"}).json()
    save = {"version": 1, "draft": {"steps": STEPS}}
    refused = other.send("PUT", f"/looks/{made['id']}/draft", save)
    assert refused.status_code == 403
    assert "variation" in refused.json()["message"]
    assert other.get(f"/looks/{made['id']}").json()["may_edit"] is False
    assert other.send("PATCH", f"/looks/{made['id']}", {"shared": True}).status_code == 403
    assert other.post(f"/looks/{made['id']}/variations", {"name": "Another"}).status_code == 201
    assert designer.send("PATCH", f"/looks/{made['id']}", {"shared": True}).status_code == 200
    assert other.get(f"/looks/{made['id']}").json()["may_edit"] is True
    assert other.send("PUT", f"/looks/{made['id']}/draft", save).status_code == 200
    # Who may change it does not say who else may.
    assert other.send("PATCH", f"/looks/{made['id']}", {"shared": False}).status_code == 403
    assert lead.send("PATCH", f"/looks/{made['id']}", {"shared": False}).status_code == 200


def test_members_of_a_project_change_its_frames(applier, other, lead, frame, revision):
    project = in_a_project("Kiln", [frame], revision)
    patch = ("PATCH", f"/frames/{frame.pk}", {"light": "dusk"})
    assert applier.send(*patch).status_code == 403
    assert (
        lead.send(
            "PATCH", f"/projects/{project.pk}", {"members": [Person.objects.get(username="vera").pk]}
        ).status_code
        == 200
    )
    assert applier.send(*patch).status_code == 200
    assert other.send(*patch).status_code == 403


# Ways in


def secret_of(link) -> str:
    return link["path"].rpartition("/")[2]


def test_an_invitation_lets_one_person_in_once(lead, stranger):
    link = lead.post("/invitations", {"for_name": "Kiln hand", "role": "designer"}).json()
    secret = secret_of(link)
    assert "secret" not in json.dumps(lead.get("/invitations").json())
    assert lead.get("/invitations").json()[0]["path"] == ""
    seen = stranger.get(f"/come-in/{secret}").json()
    assert seen == {"for_name": "Kiln hand", "role": "Look designer", "made_by": "Odile", "username": ""}
    form = {"username": "hand", "name": "Kiln Hand", "password": PASSWORD}
    came = stranger.post(f"/come-in/{secret}", form)
    assert came.status_code == 200, came.content
    assert came.json()["may_design"] is True
    assert stranger.get("/me").json()["name"] == "Kiln Hand"
    again = Api(None).post(f"/come-in/{secret}", {**form, "username": "second"})
    assert again.status_code == 404
    assert "Ask a lead" in again.json()["message"]
    assert Person.objects.filter(username="second").count() == 0
    assert lead.get("/invitations").json() == []


@pytest.mark.parametrize(
    ("change", "status", "words"),
    [
        ({"password": "short"}, 422, "too short"),
        ({"username": "odile"}, 409, "signs in as odile already"),
        ({"username": "two words"}, 422, "letters a to z, digits"),
        ({"username": " "}, 422, "Choose a name"),
        ({"name": ""}, 422, "what you are called"),
    ],
)
def test_a_refused_form_leaves_the_invitation_as_it_was(lead, stranger, change, status, words):
    secret = secret_of(lead.post("/invitations", {"for_name": "x"}).json())
    form = {"username": "hand", "name": "Kiln Hand", "password": PASSWORD}
    answer = stranger.post(f"/come-in/{secret}", {**form, **change})
    assert answer.status_code == status
    assert words in answer.json()["message"]
    assert stranger.get("/me").status_code == 401
    assert stranger.post(f"/come-in/{secret}", form).status_code == 200


def test_invitations_run_out_are_renewed_and_taken_back(lead, stranger):
    link = lead.post("/invitations", {"for_name": "x"}).json()
    Link.objects.update(until=timezone.now() - timedelta(minutes=1))
    assert stranger.get(f"/come-in/{secret_of(link)}").status_code == 404
    assert lead.get("/invitations").json()[0]["run_out"] is True
    fresh = lead.post(f"/invitations/{link['id']}/renew").json()
    assert stranger.get(f"/come-in/{secret_of(link)}").status_code == 404
    assert stranger.get(f"/come-in/{secret_of(fresh)}").status_code == 200
    assert lead.send("DELETE", f"/invitations/{link['id']}").status_code == 204
    assert stranger.get(f"/come-in/{secret_of(fresh)}").status_code == 404
    assert lead.send("DELETE", f"/invitations/{link['id']}").status_code == 404


def test_a_link_for_a_new_password_ends_the_old_sessions(lead, applier, stranger):
    vera = Person.objects.get(username="vera")
    signed_in = Api(None)
    assert signed_in.post("/sign-in", {"username": "vera", "password": "clay-and-water"}).status_code == 200
    first = lead.post(f"/people/{vera.pk}/reset").json()
    link = lead.post(f"/people/{vera.pk}/reset").json()
    assert stranger.get(f"/come-in/{secret_of(first)}").status_code == 404
    assert stranger.get(f"/come-in/{secret_of(link)}").json()["username"] == "vera"
    assert stranger.post(f"/come-in/{secret_of(link)}", {"password": PASSWORD}).status_code == 200
    assert signed_in.get("/me").status_code == 401
    assert Api(None).post("/sign-in", {"username": "vera", "password": "clay-and-water"}).status_code == 401
    assert Api(None).post("/sign-in", {"username": "vera", "password": PASSWORD}).status_code == 200


def test_who_is_let_in_no_more_is_out_at_once_and_everywhere(lead, stranger, applier):
    vera = Person.objects.get(username="vera")
    stranger.post("/sign-in", {"username": "vera", "password": "clay-and-water"})
    _, secret = token_of(stranger, "all")
    assert lead.send("PATCH", f"/people/{vera.pk}", {"active": False}).json()["active"] is False
    assert stranger.get("/me").status_code == 401
    assert with_token(secret, "GET", "/me").status_code == 401
    assert Api(None).post("/sign-in", {"username": "vera", "password": "clay-and-water"}).status_code == 401
    assert vera.pk not in {p["id"] for p in lead.get("/people").json()}
    assert vera.pk in {p["id"] for p in lead.get("/people?gone=true").json()}
    lead.send("PATCH", f"/people/{vera.pk}", {"active": True})
    assert Api(None).post("/sign-in", {"username": "vera", "password": "clay-and-water"}).status_code == 200


def test_the_last_lead_stays_one(lead):
    odile = Person.objects.get(username="odile")
    for change in ({"role": "designer"}, {"active": False}):
        answer = lead.send("PATCH", f"/people/{odile.pk}", change)
        assert answer.status_code == 409
        assert "only lead" in answer.json()["message"]
    second = person("second", Role.LEAD)
    assert lead.send("PATCH", f"/people/{odile.pk}", {"role": "designer"}).status_code == 200
    assert Api(second).send("PATCH", f"/people/{second.pk}", {"role": "applier"}).status_code == 409


def test_an_address_belongs_to_one_person_and_leads_alone_see_it(lead, applier, designer):
    vera, ines = (Person.objects.get(username=n) for n in ("vera", "ines"))
    assert (
        lead.send("PATCH", f"/people/{vera.pk}", {"email": "vera@kiln.example"}).json()["email"]
        == "vera@kiln.example"
    )
    taken = lead.send("PATCH", f"/people/{ines.pk}", {"email": "VERA@kiln.example"})
    assert taken.status_code == 409
    assert lead.send("PATCH", f"/people/{ines.pk}", {"email": "no address"}).status_code == 422
    assert {p["email"] for p in designer.get("/people").json()} == {""}
    assert lead.send("PATCH", f"/people/{vera.pk}", {"email": ""}).json()["email"] == ""


def test_changing_ones_password_signs_out_elsewhere(applier, stranger):
    here = stranger
    here.post("/sign-in", {"username": "vera", "password": "clay-and-water"})
    here.post("/me/tokens", {"name": "shed"})
    there = Api(None)
    there.post("/sign-in", {"username": "vera", "password": "clay-and-water"})
    assert here.send("PUT", "/me/password", {"now": "wrong", "new": PASSWORD}).status_code == 422
    assert here.send("PUT", "/me/password", {"now": "clay-and-water", "new": "short"}).status_code == 422
    done = here.send("PUT", "/me/password", {"now": "clay-and-water", "new": PASSWORD})
    # The other one, and that of the fixture.
    assert done.json() == {"signed_out": 2, "tokens_ended": 1}
    assert Token.objects.count() == 0
    assert here.get("/me").status_code == 200
    assert there.get("/me").status_code == 401


def test_guessing_the_old_password_becomes_slow_too(stranger, applier):
    stranger.post("/sign-in", {"username": "vera", "password": "clay-and-water"})
    for _ in range(5):
        assert stranger.send("PUT", "/me/password", {"now": "no", "new": PASSWORD}).status_code == 422
    assert stranger.send("PUT", "/me/password", {"now": "no", "new": PASSWORD}).status_code == 429


def test_few_passwords_are_checked_at_once(stranger, applier, monkeypatch):
    """Who comes while others wait is told so at once, and holds up no thread."""
    from saucer_server.people import throttle

    taken = [throttle._PLACES.acquire(blocking=False) for _ in range(3)]
    assert all(taken)
    try:
        monkeypatch.setattr("saucer_server.people.api.authenticate", None)
        answer = stranger.post("/sign-in", {"username": "vera", "password": "clay-and-water"})
        assert answer.status_code == 429
        assert "Many are signing in" in answer.json()["message"]
    finally:
        for _ in taken:
            throttle._PLACES.release()


# Sessions


def test_sessions_are_listed_and_ended(applier, stranger):
    here, there = stranger, Api(None)
    here.post("/sign-in", {"username": "vera", "password": "clay-and-water"})
    there.client.defaults["HTTP_USER_AGENT"] = (
        "Mozilla/5.0 (X11; Linux x86_64; rv:140.0) Gecko/20100101 Firefox/140.0"
    )
    there.post("/sign-in", {"username": "vera", "password": "clay-and-water"})
    sessions = here.get("/me/sessions").json()
    away = next(s for s in sessions if s["browser"] == "Firefox on Linux")
    assert [s["this"] for s in sessions].count(True) == 1
    assert not away["this"]
    # Nobody ends the session of somebody else.
    stranger_to_it = person("nosy", Role.LEAD)
    assert Api(stranger_to_it).send("DELETE", f"/me/sessions/{away['id']}").status_code == 404
    assert here.send("DELETE", f"/me/sessions/{away['id']}").status_code == 204
    assert there.get("/me").status_code == 401
    assert here.get("/me").status_code == 200
    here.post("/sign-out")
    assert not UserSession.objects.filter(browser="Firefox on Linux").exists()


def test_the_team_sees_who_is_here(lead, stranger, applier):
    stranger.post("/sign-in", {"username": "vera", "password": "clay-and-water"})
    assert next(p for p in lead.get("/people").json() if p["name"] == "Vera")["here"] is True
    UserSession.objects.update(seen_at=timezone.now() - timedelta(hours=1))
    vera = next(p for p in lead.get("/people").json() if p["name"] == "Vera")
    assert vera["here"] is False
    assert vera["seen_at"]
    stranger.get("/session")
    assert next(p for p in lead.get("/people").json() if p["name"] == "Vera")["here"] is True


# Tokens


def token_of(api, scope, days=30):
    made = api.post("/me/tokens", {"name": "Render shed", "scope": scope, "days": days})
    assert made.status_code == 201, made.content
    return made.json(), made.json()["secret"]


def with_token(secret, method, path, body=None):
    """A request of a script: no cookie, no session, no token against forged requests."""
    from django.test import Client

    data = {} if body is None else {"data": json.dumps(body), "content_type": "application/json"}
    return Client(enforce_csrf_checks=True).generic(
        method, f"/api{path}", headers={"Authorization": f"Bearer {secret}"}, **data
    )


def test_a_token_lets_a_script_in_as_far_as_it_says(designer, look, revision):
    bakes = ("POST", f"/revisions/{revision.pk}/bakes", {"kinds": ["cube"], "grid": 9})
    make = ("POST", "/looks", {"name": "from a script"})
    reach = {"read": (200, 403, 403), "bake": (200, 201, 403), "all": (200, 201, 201)}
    for scope, (reads, baked, made) in reach.items():
        _, secret = token_of(designer, scope)
        assert secret.startswith("saucer_")
        assert with_token(secret, "GET", "/me").status_code == reads
        assert with_token(secret, *bakes).status_code == baked
        assert with_token(secret, *make).status_code == made
        # No token makes another way in.
        for method, path in (
            ("POST", "/me/tokens"),
            ("PUT", "/me/password"),
            ("POST", "/invitations"),
            ("GET", "/me/sessions"),
        ):
            assert with_token(secret, method, path, {"name": "x"}).status_code == 403, path
    listed = designer.get("/me/tokens").json()
    assert all(t["used_at"] and t["secret"] == "" and len(t["tail"]) == 4 for t in listed)
    stored = Token.objects.get(pk=listed[0]["id"])
    assert secret not in (stored.digest, stored.name)


def test_what_a_token_for_baking_may_send_is_told_by_the_route_alone(designer, look, frame):
    """Not by words in an address: a collection may be called as a route is."""
    _, secret = token_of(designer, "bake")
    for name in ("live", "bakes", "exact"):
        assert designer.post("/collections", {"name": name}).status_code == 201
        assert with_token(secret, "PATCH", f"/collections/{name}", {"name": "mine"}).status_code == 403
        assert with_token(secret, "DELETE", f"/collections/{name}").status_code == 403
    assert {c["name"] for c in designer.get("/catalogue/filters").json()["collections"]} == {
        "live",
        "bakes",
        "exact",
    }
    interface = next(r for r in get_resolver().url_patterns if str(r.pattern) == "api/")
    assert {route.removeprefix("api/") for route in BAKES} <= {
        str(route.pattern) for route in interface.url_patterns
    }


@pytest.mark.parametrize("scope", ["bake", "all"])
def test_tokens_are_let_in_at_the_bench(designer, look, frame, scope):
    _, secret = token_of(designer, scope)
    asked = {"look": look.draft, "frame": frame.pk}
    assert {
        path: with_token(secret, "POST", path, asked).status_code for path in ("/live", "/exact", "/picture")
    } == {
        "/live": 200,
        "/exact": 200,
        "/picture": 200,
    }
    assert with_token("saucer_made-up", "POST", "/live", asked).status_code == 401


def test_a_token_ends_when_it_says_and_when_it_is_told(designer, other):
    made, secret = token_of(designer, "read")
    Token.objects.update(until=timezone.now() - timedelta(seconds=1))
    assert with_token(secret, "GET", "/me").status_code == 401
    Token.objects.update(until=None)
    assert with_token(secret, "GET", "/me").status_code == 200
    assert other.send("DELETE", f"/me/tokens/{made['id']}").status_code == 404
    assert designer.send("DELETE", f"/me/tokens/{made['id']}").status_code == 204
    assert with_token(secret, "GET", "/me").status_code == 401
    assert with_token("saucer_made-up", "GET", "/me").status_code == 401


def test_tokens_are_bounded(designer):
    for _ in range(20):
        token_of(designer, "read")
    assert designer.post("/me/tokens", {"name": "x"}).status_code == 409
    assert designer.post("/me/tokens", {"name": "x", "days": 3}).status_code == 422


# What was done


def test_the_job_leaves_a_trace(designer, lead, look):
    revision = designer.post(f"/looks/{look.pk}/revisions", {"note": "warmer"}).json()
    odile = Person.objects.get(username="odile")
    designer.post(f"/revisions/{revision['id']}/reviews", {"of": odile.pk})
    review = lead.get("/waiting").json()["asked"][0]
    lead.post(f"/reviews/{review['id']}/answer", {"approve": True})
    told = [(e["by"], e["said"], e["about"]) for e in lead.get("/activity").json()["events"]]
    assert told[:3] == [
        ("Odile", "approved", "Warm shelf r1"),
        ("Ines", "asks for review of", "Warm shelf r1"),
        ("Ines", "kept", "Warm shelf r1"),
    ]
    shown = designer.get(f"/looks/{look.pk}").json()["revisions"][0]
    assert shown["moved_by"] == "Odile"
    assert shown["moved_at"]


def test_activity_is_narrowed_and_paged(designer, lead):
    ines = Person.objects.get(username="ines")
    for k in range(70):
        note(Happening.LOOK, ines, "kept", f"Look {k}")
    note(Happening.PEOPLE, Person.objects.get(username="odile"), "invited", "x")
    page = lead.get("/activity?kind=looks").json()
    assert page["count"] == 70
    assert len(page["events"]) == 60
    rest = lead.get(f"/activity?kind=looks&before={page['events'][-1]['id']}").json()["events"]
    assert [e["about"] for e in rest] == [f"Look {k}" for k in range(9, -1, -1)]
    assert lead.get(f"/activity?by={ines.pk}").json()["count"] == 70
    assert lead.get("/activity?days=1").json()["count"] == 71
    assert lead.get("/activity?kind=nothing").status_code == 422


def test_what_was_done_is_not_rewritten(designer):
    note(Happening.LOOK, Person.objects.get(username="ines"), "kept", "x")
    for change in (lambda: Event.objects.update(said="never"), lambda: Event.objects.all().delete()):
        with pytest.raises(DatabaseError, match="not rewritten"), transaction.atomic():
            change()
    assert Event.objects.get().said == "kept"


def test_reviews_that_wait_for_others_are_seen_by_all(designer, lead, applier, revision):
    odile = Person.objects.get(username="odile")
    designer.post(f"/revisions/{revision.pk}/reviews", {"of": odile.pk})
    assert [r["asked_of"] for r in applier.get("/waiting/others").json()] == ["Odile"]
    assert lead.get("/waiting/others").json() == []


# Input that a database or a file cannot hold


@pytest.mark.parametrize("version", [-1, 2**31, 2**63, 10**30])
def test_a_version_that_there_cannot_be_is_refused(designer, look, version):
    assert (
        designer.send(
            "PUT", f"/looks/{look.pk}/draft", {"version": version, "draft": {"steps": []}}
        ).status_code
        == 422
    )


def test_half_a_character_is_refused_in_words(designer, look):
    body = '{"tags": ["\\ud800"]}'
    token = designer.client.cookies["csrftoken"].value
    answer = designer.client.generic(
        "PUT",
        f"/api/catalogue/{look.pk}/tags",
        body,
        content_type="application/json",
        headers={"X-CSRFToken": token},
    )
    assert answer.status_code == 422
    assert re.search("whole characters|valid", answer.json()["message"])


# Passwords and names


@pytest.mark.parametrize("password", ["1234567890", "password123", "Gesa Hand", "gesa-hand-1", "qwertyuiop"])
def test_passwords_that_everybody_tries_first_are_refused(lead, password):
    path = lead.post("/invitations", {"for_name": "Gesa"}).json()["path"]
    answer = Api(None).post(path, {"username": "gesa-hand", "name": "Gesa Hand", "password": password})
    assert answer.status_code == 422
    assert len(answer.json()["message"]) > 20
    assert not Person.objects.filter(username="gesa-hand").exists()


@pytest.mark.parametrize(
    ("username", "name", "status"),
    [
        ("Odile", "Another", 409),
        ("ODILE", "Another", 409),
        ("\uff4fdile", "Another", 409),
        ("\u043edile", "Another", 422),
        ("new\u200bname", "Another", 422),
        ("newname", "Od\u0456le Marrin", 422),
        ("newname", "Odile\u202eMarrin", 422),
        ("newname", "\u041e\u043b\u0435\u0433", 200),
        ("newname", "\u5c71\u7530 \u82b1\u5b50", 200),
        ("newname", "O\u2019Hara-Ngu\u1ec5n", 200),
    ],
)
def test_no_two_people_are_told_apart_by_what_cannot_be_seen(lead, username, name, status):
    """The look-alike letters are those of Unicode Technical Standard 39."""
    path = lead.post("/invitations", {"for_name": "Somebody"}).json()["path"]
    assert (
        Api(None).post(path, {"username": username, "name": name, "password": PASSWORD}).status_code == status
    )


def test_capitals_make_no_difference_when_signing_in(stranger, applier):
    assert (
        stranger.post("/sign-in", {"username": "VERA", "password": "clay-and-water"}).json()["username"]
        == "vera"
    )


@pytest.mark.parametrize("kind", ["text/plain", "application/x-www-form-urlencoded", "multipart/form-data"])
def test_no_other_site_signs_anybody_in(stranger, applier, kind):
    """A form of another site can send JSON as text; it neither has the token nor can it say that it sends
    JSON."""
    body = json.dumps({"username": "vera", "password": "clay-and-water"})
    assert Client(enforce_csrf_checks=True).post("/api/sign-in", body, content_type=kind).status_code in (
        400,
        403,
    )
    assert (
        Client(enforce_csrf_checks=True)
        .post("/api/sign-in", body, content_type="application/json")
        .status_code
        == 403
    )
    assert stranger.send("POST", "/sign-in", data=body, content_type=kind).status_code == 400
    assert stranger.get("/me").status_code == 401


# What leads see of others


def test_leads_see_and_end_what_others_come_in_by(lead, designer, applier):
    secret = designer.post("/me/tokens", {"name": "shed"}).json()["secret"]
    ines = Person.objects.get(username="ines")
    ways = lead.get(f"/people/{ines.pk}/ways-in").json()
    assert [t["name"] for t in ways["tokens"]] == ["shed"]
    assert ways["tokens"][0]["secret"] == ""
    assert len(ways["sessions"]) == 1
    for path in (
        "ways-in",
        f"sessions/{ways['sessions'][0]['id']}",
        f"tokens/{ways['tokens'][0]['id']}",
        "second-factor",
    ):
        assert (
            applier.send("GET" if path == "ways-in" else "DELETE", f"/people/{ines.pk}/{path}").status_code
            == 403
        )
    vera = Person.objects.get(username="vera")
    assert lead.send("DELETE", f"/people/{vera.pk}/tokens/{ways['tokens'][0]['id']}").status_code == 404
    assert lead.send("DELETE", f"/people/{ines.pk}/tokens/{ways['tokens'][0]['id']}").status_code == 204
    assert Client().get("/api/me", headers={"Authorization": f"Bearer {secret}"}).status_code == 401
    assert lead.send("DELETE", f"/people/{ines.pk}/sessions/{ways['sessions'][0]['id']}").status_code == 204
    assert designer.get("/me").status_code == 401
    assert [e["said"] for e in lead.get("/activity?kind=people").json()["events"]][:2] == [
        "signed out",
        "ended a token of",
    ]


# The second factor


@pytest.fixture
def twofold(applier, monkeypatch):
    """Vera with a second factor: the clock in seconds, what makes the codes, and the spare ones."""
    clock = [1_800_000_000.0]
    monkeypatch.setattr(time, "time", lambda: clock[0])
    assert applier.post("/me/second-factor", {"password": "wrong"}).status_code == 422
    begun = applier.post("/me/second-factor", {"password": "clay-and-water"}).json()
    assert begun["picture"].startswith("data:image/svg+xml")
    totp = pyotp.TOTP(begun["secret"])
    assert begun["secret"] in begun["address"]
    assert applier.post("/me/second-factor/confirm", {"code": "000000"}).status_code == 422
    # Not asked for before its first code was seen.
    assert Api(None).post("/sign-in", VERA).status_code == 200
    spare = applier.post("/me/second-factor/confirm", {"code": totp.at(int(clock[0]))}).json()["spare"]
    return clock, totp, spare


VERA = {"username": "vera", "password": "clay-and-water"}


def test_codes_are_those_of_the_standard():
    """RFC 6238, appendix B, SHA-1: the last six of the eight digits that stand there."""
    secret = base64.b32encode(b"12345678901234567890").decode()
    for seconds, code in (
        (59, "94287082"),
        (1111111109, "07081804"),
        (1234567890, "89005924"),
        (20000000000, "65353130"),
    ):
        assert pyotp.TOTP(secret, interval=factors.STEP).at(seconds) == code[2:]


def test_a_second_factor_is_asked_for_and_each_code_counts_once(twofold, stranger):
    clock, totp, _ = twofold
    asked = stranger.post("/sign-in", VERA)
    assert (asked.status_code, asked.json()["detail"]) == (401, {"second_factor": True})
    assert stranger.get("/me").status_code == 401
    # The code that confirmed it was used.
    assert stranger.post("/sign-in", {**VERA, "code": totp.at(int(clock[0]))}).status_code == 401
    clock[0] += 30
    code = totp.at(int(clock[0]))
    assert stranger.post("/sign-in", {**VERA, "password": "wrong", "code": code}).status_code == 401
    assert stranger.post("/sign-in", {**VERA, "code": code}).status_code == 200
    assert Api(None).post("/sign-in", {**VERA, "code": code}).status_code == 401
    clock[0] += 600
    assert Api(None).post("/sign-in", {**VERA, "code": totp.at(int(clock[0]) - 90)}).status_code == 401
    assert Api(None).post("/sign-in", {**VERA, "code": totp.at(int(clock[0]) + 30)}).status_code == 200


def test_spare_codes_let_in_once_and_codes_are_guessed_slowly(twofold, stranger):
    _, _, spare = twofold
    assert len(set(spare)) == factors.SPARE
    assert stranger.post("/sign-in", {**VERA, "code": spare[3].upper()}).status_code == 200
    assert Api(None).post("/sign-in", {**VERA, "code": spare[3]}).status_code == 401
    assert Event.objects.filter(said="signed in with a spare code", more="9 left").exists()
    for _ in range(4):
        assert Api(None).post("/sign-in", {**VERA, "code": "123456"}).status_code == 401
    assert Api(None).post("/sign-in", {**VERA, "code": spare[4]}).status_code == 429


def test_a_link_for_a_new_password_does_not_get_around_it(twofold, lead):
    clock, totp, _ = twofold
    vera = Person.objects.get(username="vera")
    assert next(p for p in lead.get("/people").json() if p["id"] == vera.pk)["second_factor"] is True
    path = lead.post(f"/people/{vera.pk}/reset").json()["path"]
    new = Api(None)
    assert new.post(path, {"password": PASSWORD}).json()["detail"] == {"second_factor": True}
    clock[0] += 30
    assert new.post(path, {"password": PASSWORD, "code": totp.at(int(clock[0]))}).status_code == 200
    # The phone is lost: a lead takes it off.
    assert lead.send("DELETE", f"/people/{vera.pk}/second-factor").status_code == 204
    assert Api(None).post("/sign-in", {**VERA, "password": PASSWORD}).status_code == 200


def test_ones_own_second_factor_is_taken_off_with_the_password(twofold, applier):
    assert applier.post("/me/second-factor", {"password": "clay-and-water"}).status_code == 409
    assert applier.post("/me/second-factor/end", {"password": "no"}).status_code == 422
    assert applier.post("/me/second-factor/end", {"password": "clay-and-water"}).json() == {"on": False}
    assert Api(None).post("/sign-in", VERA).status_code == 200


@pytest.mark.django_db(transaction=True)
def test_what_cannot_be_written_down_is_not_done(lead, applier, designer, monkeypatch):
    """A crash between a change of people and its line in the activity would leave a change that nobody
    did."""
    vera, ines = (Person.objects.get(username=name) for name in ("vera", "ines"))
    token = designer.post("/me/tokens", {"name": "Nightly", "scope": "read"}).json()["id"]
    link = lead.post("/invitations", {"for_name": "Glaze hand"}).json()["id"]
    session = lead.get(f"/people/{ines.pk}/ways-in").json()["sessions"][0]["id"]

    def state():
        return (
            list(Person.objects.order_by("pk").values_list("role", "is_active", "email", "password")),
            list(Token.objects.order_by("pk").values_list("pk")),
            list(Link.objects.order_by("pk").values_list("pk")),
            list(UserSession.objects.order_by("pk").values_list("pk", "session")),
            Session.objects.count(),
        )

    before = state()

    def full(*words, **said):
        raise OperationalError("no room")

    monkeypatch.setattr(Event.objects, "create", full)
    password = {"now": "clay-and-water", "new": "ember-and-straw-9"}
    tries = [
        lead.send("PATCH", f"/people/{vera.pk}", {"role": "designer"}),
        lead.send("PATCH", f"/people/{vera.pk}", {"active": False}),
        lead.send("PATCH", f"/people/{vera.pk}", {"email": "vera@pottery.example"}),
        lead.post("/invitations", {"for_name": "x"}),
        lead.send("DELETE", f"/invitations/{link}"),
        lead.post(f"/people/{vera.pk}/reset"),
        lead.send("DELETE", f"/people/{ines.pk}/tokens/{token}"),
        lead.send("DELETE", f"/people/{ines.pk}/sessions/{session}"),
        designer.post("/me/tokens", {"name": "x", "scope": "read"}),
        designer.send("DELETE", f"/me/tokens/{token}"),
        designer.send("PUT", "/me/password", password),
    ]
    assert [answer.status_code for answer in tries] == [503] * len(tries)
    assert state() == before
