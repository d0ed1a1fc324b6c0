"""People in a real browser: a lead invites, somebody comes in, a role changes, a session ends, a token is
made."""

import re
import urllib.error
import urllib.request

import pytest
from playwright.sync_api import expect


def test_from_an_invitation_to_a_look(enter, browser, site):
    """The whole way in: the link is handed on, a name and a password are chosen, and what the role allows is
    there."""
    lead = enter("odile", "/people")
    team = lead.get_by_role("region", name="People")
    lead.get_by_role("button", name="Invite", exact=True).click()
    lead.get_by_role("textbox", name="Whom").fill("Glaze hand")
    lead.get_by_role("dialog").get_by_role("button", name=re.compile(r"\bAs$")).click()
    lead.get_by_role("option", name=re.compile("Look designer")).click()
    lead.get_by_role("button", name="Make the link").click()
    address = team.locator("code").inner_text()
    assert address.startswith(site)
    expect(team.get_by_text("Glaze hand", exact=True)).to_be_visible()

    fresh = browser.new_context(viewport={"width": 1280, "height": 800})
    page = fresh.new_page()
    page.goto(address)
    expect(page.get_by_text("invites Glaze hand to come in as look designer")).to_be_visible()
    page.get_by_label("What you are called").fill("Gesa Hand")
    page.get_by_label("Name to sign in with").fill("gesa")
    page.get_by_label("Password").fill("short")
    expect(page.get_by_role("button", name="Come in")).to_be_disabled()
    page.get_by_label("Password").fill("glaze-and-ember")
    page.get_by_role("button", name="Come in").click()
    page.wait_for_url(re.compile("/catalogue"))
    page.get_by_role("link", name="People").click()
    expect(page.get_by_text("designer, you")).to_be_visible()
    expect(page.get_by_role("button", name="Invite", exact=True)).to_have_count(0)
    # The link is used up.
    page.goto(address)
    expect(page.get_by_role("alert")).to_contain_text("Ask a lead")

    # The lead makes an editor of her, then lets her in no more: she is out at the next step.
    lead.reload()
    lead.get_by_role("button", name=re.compile("Change Gesa Hand")).click()
    lead.get_by_role("menuitem", name=re.compile("Make an editor or photographer")).click()
    expect(lead.get_by_role("button", name=re.compile("Change Gesa Hand"))).to_contain_text(
        "Editor or photographer"
    )
    expect(lead.get_by_role("region", name="Activity")).to_contain_text("gave another role to")
    lead.get_by_role("button", name=re.compile("Change Gesa Hand")).click()
    lead.get_by_role("menuitem", name=re.compile("Let in no more")).click()
    expect(lead.get_by_role("button", name=re.compile("Show 1 not let in"))).to_be_visible()
    page.goto(f"{site}/people")
    page.wait_for_url(re.compile("/sign-in"))
    fresh.close()


def test_a_token_lets_a_script_in_until_it_is_ended(enter, site):
    page = enter("ines", "/people")
    yours = page.get_by_role("region", name="Yours")
    yours.get_by_role("button", name="New token").click()
    page.get_by_role("textbox", name="What for").fill("Nightly bake")
    page.get_by_role("button", name="Make the token").click()
    secret = yours.locator("code").inner_text()

    def asked() -> int:
        request = urllib.request.Request(f"{site}/api/me", headers={"Authorization": f"Bearer {secret}"})
        with urllib.request.urlopen(request, timeout=20) as answer:
            return answer.status

    assert asked() == 200
    yours.get_by_role("button", name=re.compile("End Nightly bake")).click()
    expect(yours.get_by_text("None. A script")).to_be_visible()
    with pytest.raises(urllib.error.HTTPError, match="401"):
        asked()


def test_a_look_of_another_is_tried_and_varied_not_changed(enter):
    """Tomas looks at what Ines made and did not share: he may work on a variation of it."""
    ines = enter("ines", "/bench")
    ines.get_by_role("button", name=re.compile("New look|Start")).first.wait_for()
    tomas = enter("tomas", "/catalogue")
    tomas.get_by_role("link", name=re.compile("North window")).first.click()
    page = tomas
    expect(page.get_by_text("Who changes it")).to_be_visible()
    page.get_by_role("button", name="Open on the bench").click()
    expect(page.get_by_text("made this look and has not shared it")).to_be_visible()
    page.get_by_role("button", name="Work on a variation").click()
    expect(page.get_by_role("dialog")).to_be_visible()
