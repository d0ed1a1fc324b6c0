"""Renamed addresses answer with the new one, method and body kept (308: RFC 9110, section 15.4.9)."""

import pytest
from saucer_server.moved import MOVED

pytestmark = pytest.mark.django_db(transaction=True)


def test_an_old_address_leads_to_the_new_one(designer, look):
    answer = designer.send("PUT", f"/looks/{look.pk}/sitting", {"take": False})
    assert (answer.status_code, answer["Location"]) == (308, f"/api/looks/{look.pk}/presence")
    assert (
        designer.get("/catalogue/narrowing?q=warm&tag=a%20b")["Location"]
        == "/api/catalogue/filters?q=warm&tag=a%20b"
    )


def test_every_new_address_is_there(designer, look):
    for _, there in MOVED:
        path = there.removeprefix("/api").format(look.pk, 1)
        assert designer.get(path).status_code in (200, 404, 405), path
