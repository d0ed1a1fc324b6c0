"""Single sign-on against the stand-in of a provider that ships with the demo: OpenID Connect Core 1.0, code
flow with PKCE."""

from urllib.parse import parse_qs, urlsplit

import pytest
import requests
from django.test import Client
from saucer_server.people.activity import Event
from saucer_server.people.rules import Person, Role

from demo import provider as stand_in

from .conftest import person


@pytest.fixture
def provider(settings):
    one = stand_in.Provider().start()
    settings.OIDC = {
        "issuer": one.issuer,
        "client": stand_in.CLIENT,
        "secret": stand_in.SECRET,
        "label": "the studio's sign-on",
        "role": "",
    }
    yield one
    one.shutdown()
    one.server_close()


def chosen(client, who, at="/bench/3"):
    """Goes to the provider, chooses somebody there, and gives the way back, not yet taken."""
    away = client.get(f"/single-sign-on?next={at}")
    assert away.status_code == 302, away.content
    back = requests.get(f"{away['Location']}&as={who}", allow_redirects=False, timeout=10)
    return urlsplit(back.headers["Location"])


def came(client, who, at="/bench/3"):
    back = chosen(client, who, at)
    return client.get(f"{back.path}?{back.query}")


def said(answer):
    return parse_qs(urlsplit(answer["Location"]).query).get("said", [""])[0]


def test_without_a_provider_there_is_none(client, db):
    assert client.get("/api/session").json()["single_sign_on"] == ""
    assert "no single sign-on" in said(client.get("/single-sign-on"))
    assert "no single sign-on" in said(client.get("/single-sign-on/back?code=x"))


def test_somebody_of_the_team_comes_in_by_their_proved_address(provider, db):
    vera = person("vera", Role.APPLIER)
    Person.objects.filter(pk=vera.pk).update(email="Vera@kiln.example")
    client = Client()
    assert client.get("/api/session").json()["single_sign_on"] == "the studio's sign-on"
    answer = came(client, "p-2")
    assert answer["Location"] == "/bench/3"
    assert client.get("/api/me").json()["username"] == "vera"
    # From now on the provider's own name for them counts, whatever their address becomes.
    Person.objects.filter(pk=vera.pk).update(email="")
    again = Client()
    came(again, "p-2")
    assert again.get("/api/me").json()["username"] == "vera"
    assert Person.objects.count() == 1


def test_an_address_that_nobody_proved_opens_nothing(provider, db):
    vera = person("vera", Role.LEAD)
    Person.objects.filter(pk=vera.pk).update(email="vera@kiln.example")
    client = Client()
    assert "not in the team" in said(came(client, "p-3"))
    assert client.get("/api/me").status_code == 401


def test_somebody_new_comes_in_only_where_the_settings_give_a_role(provider, db, settings):
    client = Client()
    assert "not in the team" in said(came(client, "p-1"))
    settings.OIDC = {**settings.OIDC, "role": "designer"}
    person("gesa", Role.APPLIER)
    came(client, "p-1")
    made = client.get("/api/me").json()
    assert (made["name"], made["username"], made["may_design"], made["may_lead"]) == (
        "Gesa Hand",
        "gesa-2",
        True,
        False,
    )
    assert not Person.objects.get(username="gesa-2").has_usable_password()
    assert Event.objects.first().said == "came in by single sign-on"
    assert client.get("/api/me/sessions").json()[0]["this"] is True


def test_who_is_let_in_no_more_stays_out(provider, db, settings):
    settings.OIDC = {**settings.OIDC, "role": "applier"}
    came(Client(), "p-1")
    Person.objects.update(is_active=False)
    client = Client()
    assert "let in no more" in said(came(client, "p-1"))
    assert client.get("/api/me").status_code == 401


@pytest.mark.parametrize(
    "change", ["state", "code", "other browser", "used twice", "nonce", "audience", "issuer", "key", "late"]
)
def test_what_does_not_belong_together_opens_nothing(provider, db, settings, monkeypatch, change):
    settings.OIDC = {**settings.OIDC, "role": "applier"}
    client = Client()
    token = provider.token
    wrong = {
        "nonce": {"nonce": "another"},
        "audience": {"aud": "another"},
        "issuer": {"iss": "http://another.example"},
        "late": {"exp": 1, "iat": 0},
    }.get(change)
    if wrong:
        monkeypatch.setattr(provider, "token", lambda who, nonce: token(who, nonce, **wrong))
    if change == "key":
        other = stand_in.Provider()
        monkeypatch.setattr(
            provider, "token", lambda who, nonce: other.token(who, nonce, iss=provider.issuer)
        )
    back = chosen(client, "p-1")
    query = dict(pair.split("=") for pair in back.query.split("&"))
    if change in ("state", "code"):
        query[change] = "wrong"
    who = Client() if change == "other browser" else client
    path = f"{back.path}?{'&'.join(f'{k}={v}' for k, v in query.items())}"
    answer = who.get(path)
    if change == "used twice":
        assert client.get("/api/me").status_code == 200
        answer = client.get(path)
    assert "did not work out" in said(answer)
    assert who.get("/api/me").status_code == (200 if change == "used twice" else 401)
    assert Person.objects.count() == (1 if change == "used twice" else 0)


def test_nobody_is_sent_to_another_site(provider, db, settings):
    settings.OIDC = {**settings.OIDC, "role": "applier"}
    for at in ("https://elsewhere.example/", "//elsewhere.example", "javascript:alert(1)"):
        assert came(Client(), "p-1", at)["Location"] == "/"


def test_a_provider_that_is_away_is_said(client, db, settings):
    settings.OIDC = {"issuer": "http://127.0.0.1:9", "client": "x", "secret": "x", "label": "x", "role": ""}
    assert "cannot be reached" in said(client.get("/single-sign-on"))


@pytest.mark.parametrize(
    "said",
    [
        {"sub": "x" * 290},
        {"sub": "a\0b"},
        {"email": "x" * 1000 + "@kiln.example"},
        {"email": "a\0@kiln.example"},
        {"name": "\0\u202e"},
    ],
)
def test_claims_that_cannot_be_kept_make_no_two_people_one(provider, db, settings, monkeypatch, said):
    settings.OIDC = {**settings.OIDC, "role": "applier"}
    token = provider.token
    monkeypatch.setattr(provider, "token", lambda who, nonce: token(who, nonce, **said))
    client = Client()
    answer = came(client, "p-1")
    if "sub" in said:
        assert "longer than Saucer takes" in answer["Location"].replace("+", " ")
        assert Person.objects.count() == 0
    else:
        made = Person.objects.get()
        assert client.get("/api/me").json()["name"] == made.full_name
        assert made.full_name.isprintable()
        assert made.email == ("" if "email" in said else made.email)


def test_single_sign_on_can_be_the_only_way_in(provider, db, settings, stranger, lead):
    settings.OIDC = {**settings.OIDC, "only": "1"}
    assert stranger.get("/session").json()["passwords"] is False
    refused = stranger.post("/sign-in", {"username": "odile", "password": "clay-and-water"})
    assert refused.status_code == 403
    assert "alone" in refused.json()["message"]
    link = lead.post("/invitations", {"for_name": "Somebody"}).json()["path"]
    form = {"username": "somebody", "name": "Somebody", "password": "a glaze of ash"}
    assert stranger.post(f"/{link[1:]}", form).status_code == 403
    assert (
        lead.send("PUT", "/me/password", {"now": "clay-and-water", "new": "a glaze of ash"}).status_code
        == 403
    )
    assert Person.objects.count() == 1
