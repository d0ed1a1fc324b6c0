"""Cut lists in the browser: the first one is taken, the next one laid beside it, taken, and taken back."""

import re
from typing import Any

from playwright.sync_api import Page, expect

from demo import cuts

from .hands import until


def sent(page: Page, path: str, body: dict[str, Any]) -> Any:
    """What a request of the person on the page answers."""
    token = next(c["value"] for c in page.context.cookies() if c["name"] == "csrftoken")
    answer = page.request.post(f"/api{path}", data=body, headers={"X-CSRFToken": token})
    assert answer.ok, answer.text()
    return answer.json()


def bring(page: Page, project: int, path: Any) -> None:
    page.goto(f"/projects/{project}/cuts")
    page.locator("input[type=file]").set_input_files(path)
    expect(page.get_by_role("button", name="Take this cut")).to_be_visible()


def shots(page: Page, project: int) -> list[dict[str, Any]]:
    return list(page.request.get(f"/api/projects/{project}").json()["shots"])


def event(page: Page, name: str) -> Any:
    return page.get_by_role("row", name=name)


def test_tomorrows_cut_is_taken_over_with_every_look_where_it_belongs(enter, axe, tmp_path):
    first, second = cuts.write(tmp_path)
    page = enter("odile")
    project = sent(page, "/projects", {"name": "Kiln series, teaser"})["id"]
    bring(page, project, first)
    expect(page.get_by_role("status")).to_contain_text("0 stay, 12 change.")
    expect(page.get_by_text("1 event waits for a clip")).to_be_visible()
    assert shots(page, project) == []
    page.get_by_role("button", name="Take this cut").click()
    expect(page.get_by_role("heading", level=1, name="Cut 1")).to_be_visible()
    before = shots(page, project)
    assert [shot["number"] for shot in before] == [1, 2, 3, 4, 5, 7, 8, 9, 10, 11, 12]
    sent(page, f"/projects/{project}/trim", {"shots": [before[3]["id"]], "trim": {"exposure": 1}})
    # The next day.
    bring(page, project, second)
    expect(page.get_by_role("status")).to_contain_text("4 stay, 11 change.")
    expect(page.get_by_text("1 dissolve is read as a cut", exact=False)).to_be_visible()
    expect(event(page, "1 Along the yard, dusk")).to_contain_text("0:10 off its end")
    expect(event(page, "4 Heads, into shade")).to_contain_text("trim +1 stops")
    # By keys: the rows that are gone, then the next event that waits.
    page.get_by_role("radio", name="Gone 2").click()
    expect(event(page, "7 Heads, into shade")).to_contain_text("laid aside with look and trim")
    page.keyboard.press("n")
    expect(page.get_by_role("button", name="Clip of hands_wet_clay_02")).to_be_focused()
    carries = page.get_by_role("region", name="CDLs of the list")
    carries.get_by_role("radiogroup", name="The CDL of Heads, into shade").get_by_text("as its trim").click()
    cut = page.url.replace("/projects", "/api/projects")
    until(lambda: page.request.get(cut).json()["after"][3]["taken"])
    assert axe(page) == []
    page.get_by_role("button", name="Take this cut").click()
    expect(page.get_by_role("heading", level=1, name="Cut 2")).to_be_visible()
    after = shots(page, project)
    assert [shot["number"] for shot in after] == [1, 2, 3, 4, 5, 7, 8, 10, 11, 12, 13]
    assert [shot["id"] for shot in after[:3]] == [before[k]["id"] for k in (0, 2, 1)]
    assert (after[3]["trim"]["exposure"], after[3]["trim"]["red"]["slope"]) == (0, 0.94)
    # As one change, it is taken back.
    page.get_by_role("link", name="Rows", exact=True).click()
    expect(page.get_by_text("follows cut 2", exact=False)).to_be_visible()
    page.get_by_role("button", name="Undo").first.click()
    expect(page.get_by_text("follows cut 1", exact=False)).to_be_visible()
    assert [(shot["id"], shot["cut"]) for shot in shots(page, project)] == [
        (shot["id"], shot["cut"]) for shot in before
    ]


def test_an_event_that_waits_is_given_a_clip_and_the_list_goes_out(enter, tmp_path):
    first, _ = cuts.write(tmp_path)
    page = enter("odile")
    project = sent(page, "/projects", {"name": "Kiln series, trailer"})["id"]
    bring(page, project, first)
    page.get_by_role("button", name="Take this cut").click()
    expect(page.get_by_role("heading", level=1, name="Cut 1")).to_be_visible()
    page.get_by_role("button", name="Clip of hands_wet_clay_02").click()
    page.get_by_role("option", name="Fire at night").first.click()
    # It holds other frames: nothing is made, and it is said why.
    expect(page.get_by_role("alert")).to_contain_text(re.compile("has 21:30:10:00 – 21:30:14:23 alone"))
    with page.expect_download() as coming:
        page.get_by_role("link", name="CMX 3600").click()
    assert coming.value.suggested_filename == "kiln_cut_1 with looks.edl"
    assert "FROM CLIP NAME: fire_at_night_log.mov" in coming.value.path().read_text()
