"""Looks over the length of a clip on the server: lines and places for a draft, what causes a place, and who
may ask."""

import pytest
from saucer_server.clips import proxying, tasks
from saucer_server.clips.models import Clip

from .test_clips import bring

pytestmark = pytest.mark.django_db(transaction=True)
#: So bright that the clip's highlights clip.
BRIGHT = {
    "input": "film_log",
    "output": "bt709_display",
    "steps": [{"id": "e", "kind": "exposure", "stops": 3}, {"id": "s", "kind": "scene_to_display"}],
}


@pytest.fixture
def clip(lead):
    """A clip that was looked through."""
    project = lead.post("/projects", {"name": "Kiln"}).json()["id"]
    made = bring(lead, project, encoding="film_log").json()
    tasks.look(clip_id=made["id"])
    return Clip.objects.get(pk=made["id"])


@pytest.fixture
def frame(lead, clip) -> int:
    """The frame that stands for it."""
    return int(lead.post(f"/clips/{clip.pk}/frame").json()["id"])


def test_a_draft_is_measured_roughly_first_then_by_all_samples(lead, clip, frame):
    body = {"look": BRIGHT, "frame": frame}
    assert lead.post("/over-time", body).status_code == 409
    proxying.make(clip.pk)
    coarse = lead.post("/over-time", {**body, "coarse": True}).json()
    whole = lead.post("/over-time", body).json()
    assert whole["numbers"] == list(range(132))
    assert set(coarse["numbers"]) < set(whole["numbers"])
    assert len(coarse["numbers"]) <= 48
    for line in whole["lines"]:
        assert len(line["before"]) == len(line["after"]) == 132
    tone = {(line["name"]): line for line in whole["lines"]}["tone"]
    rough = {(line["name"]): line for line in coarse["lines"]}["tone"]
    at = [whole["numbers"].index(n) for n in coarse["numbers"]]
    assert [tone["after"][k] for k in at] == rough["after"]
    place = next(p for p in whole["places"] if p["kind"] == "white")
    assert "highlights clip" in place["text"]
    cause = lead.post("/over-time/cause", {**body, "place": place}).json()
    assert cause["step"] == "e"
    assert 0 < cause["strength"] < 1
    assert cause["amount"].endswith("%")


def test_another_trim_is_measured_as_it_is_asked(lead, clip, frame):
    proxying.make(clip.pk)
    body = {"look": BRIGHT, "frame": frame, "coarse": True}
    plain = lead.post("/over-time", body).json()
    darker = lead.post("/over-time", {**body, "trim": {"exposure": -3}}).json()
    assert plain["lines"][0]["after"] != darker["lines"][0]["after"]
    worst = [sum(p["amount"] for p in side["places"] if p["kind"] == "white") for side in (plain, darker)]
    assert worst[1] < worst[0]


def test_a_still_and_a_frame_outside_are_refused(lead, clip, frame):
    proxying.make(clip.pk)
    still = lead.post("/clips/held", {"frame": frame, "number": 3}).json()["id"]
    assert lead.post("/over-time", {"look": BRIGHT, "frame": still}).status_code == 404
    place = {"kind": "white", "first": 900, "last": 901, "at": 900, "amount": 0.5, "text": ""}
    answer = lead.post("/over-time/cause", {"look": BRIGHT, "frame": frame, "place": place})
    assert answer.status_code == 422
    assert "no frame 900" in answer.json()["message"]


def test_what_is_meant_is_kept_with_the_look(designer, other, look, frame):
    at = f"/looks/{look.pk}/meant"
    for kind, meant in (("white", True), ("flicker", True), ("white", True), ("flicker", False)):
        answer = designer.send("PUT", at, {"frame": frame, "kind": kind, "meant": meant})
        assert answer.status_code == 200, answer.content
    assert answer.json() == [{"frame": frame, "kind": "white"}]
    assert other.get(f"/looks/{look.pk}").json()["meant"] == answer.json()
    assert designer.send("PUT", at, {"frame": frame, "kind": "fog", "meant": True}).status_code == 422
    look.shared = False
    look.save(update_fields=["shared"])
    assert other.send("PUT", at, {"frame": frame, "kind": "noise", "meant": True}).status_code == 403
    assert other.get(f"/looks/{look.pk}").json()["meant"] == answer.json()
