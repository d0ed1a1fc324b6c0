"""Projects: scenes, assignments that the nearest wins, undo, trims, evenness, newer revisions, and who may
change what."""

import numpy as np
import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from saucer_core.formats import pictures
from saucer_core.look import Look as LookValue
from saucer_core.stack import Layer, stacked
from saucer_core.treatment import Treatment
from saucer_server.frames.models import Frame
from saucer_server.looks import rules as looks
from saucer_server.looks.models import Look, Revision
from saucer_server.people.rules import Person
from saucer_server.projects import rules as projects
from saucer_server.projects.models import Assignment, Change, Shot

from .conftest import in_a_project

NEUTRAL = {"exposure": 0, "temperature": 0, "tint": 0, "contrast": 1}


@pytest.fixture
def project(lead, frame):
    made = lead.post("/projects", {"name": "Kiln & yard", "note": "n"}).json()
    return lead.post(f"/projects/{made['id']}/shots", {"frames": [frame.pk, frame.pk, frame.pk]}).json()


@pytest.fixture
def other_look(designer):
    recipe = LookValue.model_validate({"steps": [{"id": "x", "kind": "exposure", "stops": 0.4}]})
    maker = Person.objects.get(username="ines")
    return looks.keep_revision(looks.create(maker, "Late straw", recipe), maker, "")


def assign(who, project, revision=None, strength=1.0, **where):
    layers = [] if revision is None else [{"revision": revision.pk, "strength": strength}]
    where.setdefault("how", "replace")
    return who.post(f"/projects/{project['id']}/assign", {"layers": layers, **where})


def ids(project):
    return [s["id"] for s in project["shots"]]


def on(project):
    return [[(x["revision"]["look_name"], x["strength"]) for x in s["layers"]] for s in project["shots"]]


def given_by(project):
    return [s["given_by"] for s in project["shots"]]


def scene_of(who, project, name, shots):
    return who.post(f"/projects/{project['id']}/scenes", {"name": name, "shots": shots}).json()["scenes"][-1][
        "id"
    ]


# What is on a shot


def test_shots_start_with_the_frames_trim(lead, designer, frame):
    designer.send("PATCH", f"/frames/{frame.pk}", {"trim": {**NEUTRAL, "exposure": 0.5}})
    made = lead.post("/projects", {"name": "P"}).json()
    shots = lead.post(f"/projects/{made['id']}/shots", {"frames": [frame.pk]}).json()["shots"]
    assert shots[0]["trim"]["exposure"] == 0.5
    assert shots[0]["trim"]["red"] == {"slope": 1.0, "offset": 0.0, "power": 1.0}


def test_the_nearest_assignment_wins(applier, project, revision, other_look):
    first, second, _ = ids(project)
    scene = scene_of(applier, project, "Yard", [first, second])
    after = assign(applier, project, revision, whole=True).json()
    assert given_by(after) == ["project"] * 3
    after = assign(applier, project, other_look, 0.7, scenes=[scene]).json()
    assert on(after) == [[("Late straw", 0.7)], [("Late straw", 0.7)], [("Warm shelf", 1.0)]]
    after = assign(applier, project, revision, 0.5, shots=[second]).json()
    assert given_by(after) == ["scene", "shot", "project"]
    assert on(after)[1] == [("Warm shelf", 0.5)]
    after = assign(applier, project, shots=[second], how="inherit").json()
    assert on(after)[1] == [("Late straw", 0.7)]


def test_no_look_can_be_meant(applier, project, revision):
    assign(applier, project, revision, whole=True)
    after = assign(applier, project, shots=ids(project)[:1]).json()
    assert on(after) == [[], [("Warm shelf", 1.0)], [("Warm shelf", 1.0)]]


def test_looks_are_stacked_in_order_and_rendered_so(applier, project, revision, other_look, frame):
    first = ids(project)[0]
    assign(applier, project, revision, whole=True)
    after = assign(applier, project, other_look, 0.6, shots=[first], how="stack").json()
    assert on(after)[0] == [("Warm shelf", 1.0), ("Late straw", 0.6)]
    shot = Shot.objects.get(pk=first)
    worn = projects.worn(list(shot.layers.all()))
    recipes = [looks.recipe_of(r) for r in (revision, other_look)]
    exact = Treatment(stacked([Layer(recipes[0]), Layer(recipes[1], 0.6)])).compile()
    rgb = np.random.default_rng(1).uniform(0, 1, (50, 3)).astype(np.float32)
    np.testing.assert_allclose(
        Treatment(worn.look, strength=worn.strength).compile()(rgb), exact(rgb), atol=1e-6
    )
    assert applier.get(f"/projects/{project['id']}/shots/{first}/worn").json()["steps"][-1]["kind"] == "look"


def test_at_most_six_are_stacked(applier, project, revision):
    first = ids(project)[:1]
    for _ in range(6):
        assert assign(applier, project, revision, 0.5, shots=first, how="stack").status_code == 200
    refused = assign(applier, project, revision, shots=first, how="stack")
    assert refused.status_code == 422
    assert len(on(applier.get(f"/projects/{project['id']}").json())[0]) == 6


def test_all_or_none(applier, project, revision):
    assert assign(applier, project, revision, shots=[ids(project)[0], 99999]).status_code == 404
    assert on(applier.get(f"/projects/{project['id']}").json())[0] == []
    assert assign(applier, project, revision).status_code == 422


def test_a_retired_revision_is_not_assigned(applier, project, revision):
    Revision.objects.filter(pk=revision.pk).update(status="retired")
    answer = assign(applier, project, revision, whole=True)
    assert answer.status_code == 409
    assert "is retired" in answer.json()["message"]


def test_trying_changes_nothing(applier, project, revision):
    first = ids(project)[0]
    for over in ("true", "false"):
        wanted = f"revision={revision.pk}&strength=0.5&over={over}&width=64"
        path = f"/projects/{project['id']}/shots/{first}/trying?{wanted}"
        assert applier.get(path)["Content-Type"] == "image/jpeg"
    assert Assignment.objects.count() == 0
    assert Change.objects.count() == 0


# Scenes


def test_a_scene_that_is_taken_apart_leaves_its_looks(applier, project, revision):
    first, second, _ = ids(project)
    scene = scene_of(applier, project, "Yard", [first, second])
    assign(applier, project, revision, 0.8, scenes=[scene])
    assert applier.send("DELETE", f"/projects/{project['id']}/scenes/{scene}").status_code == 204
    after = applier.get(f"/projects/{project['id']}").json()
    assert on(after)[:2] == [[("Warm shelf", 0.8)]] * 2
    assert after["scenes"] == []


def test_a_shot_that_changes_its_scene_changes_its_look(applier, project, revision, other_look):
    first, second, third = ids(project)
    yard, shelf = scene_of(applier, project, "Yard", [first]), scene_of(applier, project, "Shelf", [second])
    assign(applier, project, revision, scenes=[yard])
    assign(applier, project, other_look, scenes=[shelf])
    after = applier.post(
        f"/projects/{project['id']}/gather", {"shots": [first, third], "scene": shelf}
    ).json()
    assert [x[0][0] for x in on(after)] == ["Late straw"] * 3


def test_scenes_are_put_in_order_and_renamed(applier, project):
    one, two = (scene_of(applier, project, name, []) for name in ("One", "Two"))
    after = applier.send(
        "PATCH", f"/projects/{project['id']}/scenes/{two}", {"name": "First", "place": 1}
    ).json()
    assert [(s["id"], s["name"], s["place"]) for s in after["scenes"]] == [(two, "First", 1), (one, "One", 2)]


# Undo, and two people


def test_what_was_done_is_undone_and_done_again(applier, project, revision):
    path = f"/projects/{project['id']}/changes"
    done = assign(applier, project, revision, 0.4, whole=True).json()["changes"][0]
    assert done["words"] == "Warm shelf r1 40% on the project"
    back = applier.post(f"{path}/{done['id']}/undo").json()
    assert on(back) == [[], [], []]
    assert back["changes"][1]["undone"] is True
    assert applier.post(f"{path}/{done['id']}/undo").status_code == 409
    again = applier.post(f"{path}/{back['changes'][0]['id']}/undo").json()
    assert on(again)[0] == [("Warm shelf", 0.4)]
    assert again["changes"][0]["words"] == done["words"]


def test_nothing_is_undone_over_somebody_elses_work(applier, other, project, revision, other_look):
    first = ids(project)[:1]
    done = assign(applier, project, revision, shots=first).json()["changes"][0]
    assign(other, project, other_look, shots=first)
    refused = applier.post(f"/projects/{project['id']}/changes/{done['id']}/undo")
    assert refused.status_code == 409
    assert on(applier.get(f"/projects/{project['id']}").json())[0] == [("Late straw", 1.0)]


def test_the_second_of_two_is_told_who_was_quicker(applier, other, project, revision, other_look):
    seen = 0
    first, second, _ = ids(project)
    assert assign(other, project, other_look, shots=[first], seen=seen).status_code == 200
    late = assign(applier, project, revision, shots=[first, second], seen=seen)
    assert late.status_code == 409
    assert late.json()["message"].startswith("Tomas was quicker: Late straw r1 on ")
    assert on(applier.get(f"/projects/{project['id']}").json())[:2] == [[("Late straw", 1.0)], []]
    # Elsewhere in the project nobody was in the way.
    assert assign(applier, project, revision, shots=[second], seen=seen).status_code == 200


# Trims


def test_a_trim_is_rippled_over_a_scene_in_parts(applier, project):
    first, second, _ = ids(project)
    path = f"/projects/{project['id']}/trim"
    applier.post(path, {"shots": [second], "trim": {**NEUTRAL, "exposure": 1}})
    trim = {**NEUTRAL, "exposure": 0.4, "temperature": 12, "tint": -3, "saturation": 0.9}
    after = applier.post(path, {"shots": [first, second], "trim": trim, "parts": ["balance"]}).json()
    found = [
        (s["trim"]["exposure"], s["trim"]["temperature"], s["trim"]["saturation"]) for s in after["shots"]
    ]
    assert found == [(0, 12, 1), (1, 12, 1), (0, 0, 1)]
    done = after["changes"][0]
    back = applier.post(f"/projects/{project['id']}/changes/{done['id']}/undo").json()
    assert [(s["trim"]["exposure"], s["trim"]["temperature"]) for s in back["shots"]] == [
        (0, 0),
        (1, 0),
        (0, 0),
    ]


def test_a_trim_is_under_the_look(applier, project, revision):
    first = ids(project)[0]
    assign(applier, project, revision, whole=True)
    still = f"/projects/{project['id']}/shots/{first}/still?width=64"
    before = applier.get(still).content
    version = applier.get(f"/projects/{project['id']}").json()["shots"][0]["version"]
    after = applier.post(
        f"/projects/{project['id']}/trim", {"shots": [first], "trim": {**NEUTRAL, "green": {"slope": 1.4}}}
    ).json()
    assert applier.get(still).content != before
    assert after["shots"][0]["version"] != version


def test_what_is_no_trim_is_refused(applier, project):
    first = ids(project)[0]
    path = f"/projects/{project['id']}"
    assert applier.post(f"{path}/trim", {"shots": [first], "trim": {"exposure": 99}}).status_code == 422
    assert applier.post(f"{path}/trim", {"shots": [first], "trim": NEUTRAL, "parts": []}).status_code == 422
    assert applier.get(f"{path}/shots/{first}/trimmed?trim=%7B%22exposure%22%3A%22x%22%7D").status_code == 422


@pytest.fixture
def scene_frames(db, tmp_path, designer):
    """Four frames of one wall with a face; the last one warmer."""
    maker = Person.objects.get(username="ines")
    y, x = np.mgrid[0:54, 0:96].astype(np.float32)
    made = []
    for k in range(4):
        rgb = np.where(
            ((x - 48) ** 2 + (y - 27) ** 2 < 300)[..., None],
            np.array((0.76, 0.56, 0.44), np.float32),
            np.float32(0.5),
        )
        rgb = rgb * (0.9 + 0.02 * k) * (np.array((1.14, 1.0, 0.8), np.float32) if k == 3 else 1)
        path = tmp_path / f"{k}.png"
        pictures.write(path, np.clip(rgb, 0, 1).astype(np.float32))
        made.append(frames_add(path, maker, f"Face {k}"))
    return made


def frames_add(path, maker, name):
    from saucer_server.frames import rules as frames

    return frames.add(path, path.name, name=name, light="", encoding_key="srgb", person=maker)


def test_the_wall_tells_which_shot_stands_out_and_what_mends_it(lead, applier, scene_frames):
    made = lead.post("/projects", {"name": "Faces"}).json()
    project = lead.post(f"/projects/{made['id']}/shots", {"frames": [f.pk for f in scene_frames]}).json()
    scene_of(lead, project, "Wall", ids(project))
    path = f"/projects/{project['id']}"
    (wall,) = lead.get(f"{path}/wall").json()
    assert [bool(s["apart"]) for s in wall["shots"]] == [False, False, False, True]
    warm = ids(project)[3]
    found = applier.get(f"{path}/shots/{warm}/suggested").json()
    assert found["trim"]["temperature"] < -5
    assert abs(found["after"]["grey"]["yellow"] - found["aim"]["grey"]["yellow"]) < 0.6
    assert applier.get(path).json()["shots"][3]["trim"]["temperature"] == 0
    applier.post(f"{path}/trim", {"shots": [warm], "trim": found["trim"]})
    assert not lead.get(f"{path}/wall").json()[0]["shots"][3]["apart"]
    applier.send("PATCH", f"{path}/shots/{warm}", {"meant": ["skin", "grey", "tone"]})
    assert applier.get(path).json()["shots"][3]["meant"] == ["skin", "grey", "tone"]
    toward = applier.get(f"{path}/shots/{warm}/suggested?hero={ids(project)[0]}").json()
    assert toward["aim"]["tone"] == pytest.approx(wall["shots"][0]["reading"]["tone"])
    assert applier.get(f"{path}/shots/{warm}/suggested?hero={warm}").status_code == 409


def test_a_shot_alone_has_nothing_to_be_brought_to(lead, frame):
    made = lead.post("/projects", {"name": "One"}).json()
    project = lead.post(f"/projects/{made['id']}/shots", {"frames": [frame.pk]}).json()
    answer = lead.get(f"/projects/{made['id']}/shots/{ids(project)[0]}/suggested")
    assert answer.status_code == 409
    assert "alone" in answer.json()["message"]


# Newer revisions


@pytest.fixture
def newer(revision):
    """A second revision of the look that is on shots."""
    maker, draft = revision.look.maker, looks.recipe_of(revision)
    draft.steps[0].amount = 1.6
    looks.save_draft(revision.look_id, maker, draft, revision.look.draft_version)
    return looks.keep_revision(revision.look, maker, "more")


def roll(who, project, now, then, shots, **more):
    return who.post(
        f"/projects/{project['id']}/roll-out", {"now": now.pk, "then": then.pk, "shots": shots, **more}
    )


def test_a_newer_revision_offers_itself_with_what_it_changes(applier, project, revision, newer):
    assign(applier, project, revision, whole=True)
    path = f"/projects/{project['id']}"
    (offer,) = applier.get(f"{path}/offers").json()
    assert (offer["now"]["number"], offer["then"]["number"], len(offer["shots"])) == (1, 2, 3)
    assert any("1.2" in w and "1.6" in w for w in offer["words"])
    changed = applier.get(f"{path}/changed?now={revision.pk}&then={newer.pk}").json()
    assert [c["most"] for c in changed] == sorted((c["most"] for c in changed), reverse=True)
    assert changed[0]["mean"] > 0.5
    first = ids(project)[0]
    for what in ("then", "apart"):
        assert (
            applier.get(
                f"{path}/shots/{first}/{what}?now={revision.pk}&revision={newer.pk}&width=64"
            ).status_code
            == 200
        )
    assert applier.get("/projects").json()[0]["waiting"] == "newer revisions for 3 shots"


def test_some_go_over_and_all_go_over(applier, project, revision, newer):
    first, second, third = ids(project)
    assign(applier, project, revision, 0.7, whole=True)
    after = roll(applier, project, revision, newer, [second]).json()
    assert [s["layers"][0]["revision"]["number"] for s in after["shots"]] == [1, 2, 1]
    assert given_by(after) == ["project", "shot", "project"]
    assert after["shots"][1]["layers"][0]["strength"] == 0.7
    assert after["changes"][0]["words"] == "Warm shelf r2 instead of r1 on 1 shot"
    after = roll(applier, project, revision, newer, [first, third]).json()
    # All that had it from the project went over: the project itself did.
    assert given_by(after) == ["project", "shot", "project"]
    assert after["puts"][0]["revision"]["number"] == 2
    back = applier.post(f"/projects/{project['id']}/changes/{after['changes'][0]['id']}/undo").json()
    assert [s["layers"][0]["revision"]["number"] for s in back["shots"]] == [1, 2, 1]


def test_backwards_too(applier, project, revision, newer):
    assign(applier, project, newer, whole=True)
    after = roll(applier, project, newer, revision, ids(project)).json()
    assert {s["layers"][0]["revision"]["number"] for s in after["shots"]} == {1}


def test_to_stay_is_remembered_until_there_is_a_still_newer_one(applier, project, revision, newer):
    assign(applier, project, revision, whole=True)
    assert roll(applier, project, revision, newer, []).json()["changes"][0]["kind"] == "stay"
    assert applier.get(f"/projects/{project['id']}/offers").json() == []
    draft = looks.recipe_of(newer)
    draft.steps[0].amount = 1.7
    look = looks.find(revision.look_id)
    looks.save_draft(look.pk, look.maker, draft, look.draft_version)
    third = looks.keep_revision(look, look.maker, "")
    assert [o["then"]["id"] for o in applier.get(f"/projects/{project['id']}/offers").json()] == [third.pk]


def test_a_retired_look_offers_its_successor(lead, applier, project, revision, other_look):
    assign(applier, project, revision, whole=True)
    Revision.objects.filter(pk=revision.pk).update(status="retired")
    Look.objects.filter(pk=revision.look_id).update(successor=other_look.look_id)
    (offer,) = applier.get(f"/projects/{project['id']}/offers").json()
    assert offer["then"]["look_name"] == "Late straw"
    assert on(roll(applier, project, revision, other_look, ids(project)).json())[0] == [("Late straw", 1.0)]


def test_what_is_there_no_more_does_not_go_over(applier, project, revision, newer, other_look):
    assign(applier, project, revision, whole=True)
    first = ids(project)[0]
    assign(applier, project, other_look, shots=[first])
    late = roll(applier, project, revision, newer, ids(project))
    assert late.status_code == 409
    assert roll(applier, project, revision, other_look, ids(project)[1:]).status_code == 422
    Revision.objects.filter(pk=newer.pk).update(status="retired")
    assert roll(applier, project, revision, newer, ids(project)[1:]).status_code == 409


def test_where_used_names_the_shots(applier, project, revision, newer):
    first, second, _ = ids(project)
    assign(applier, project, revision, shots=[first])
    assign(applier, project, newer, shots=[second])
    found = applier.get(f"/projects/using/{revision.look_id}").json()
    assert [(u["revision"], u["shots"], u["names"]) for u in found] == [
        (2, 1, ["2 Ramp"]),
        (1, 1, ["1 Ramp"]),
    ]


# Who may, and how pictures are read


def test_only_members_change_a_project_that_has_members(lead, applier, designer, project, revision):
    vera = Person.objects.get(username="vera")
    assert designer.send("PATCH", f"/projects/{project['id']}", {"members": [vera.pk]}).status_code == 403
    assert (
        lead.send("PATCH", f"/projects/{project['id']}", {"members": [vera.pk]}).json()["members"][0]["name"]
        == "Vera"
    )
    assert assign(applier, project, revision, whole=True).status_code == 200
    refused = assign(designer, project, revision, whole=True)
    assert refused.status_code == 403
    assert "changed by its members" in refused.json()["message"]
    assert designer.get(f"/projects/{project['id']}").status_code == 200
    first = ids(project)[0]
    path = f"/projects/{project['id']}"
    for answer in (
        designer.post(f"{path}/shots", {"frames": [1]}),
        designer.post(f"{path}/scenes", {"name": "x"}),
        designer.post(f"{path}/trim", {"shots": [first], "trim": NEUTRAL}),
        designer.send("DELETE", f"{path}/shots/{first}"),
        designer.send("PATCH", f"{path}/shots/{first}", {"name": "x"}),
        designer.post(f"{path}/deliveries", {}),
        designer.post(f"{path}/feeds", {"name": "x"}),
        designer.post(f"{path}/gather", {"shots": [first], "scene": None}),
    ):
        assert answer.status_code in (403, 404), answer.content
    assert lead.send("PATCH", path, {"members": [987654]}).status_code == 422


def test_stills_are_read_by_rule(lead, project, tmp_path):
    path = f"/projects/{project['id']}"
    rules = [
        {"by": "name", "pattern": "*_LOG*", "encoding": "film_log"},
        {"by": "folder", "pattern": "phone*", "encoding": "display_p3"},
        {"by": "tag", "pattern": "*made by the kiln*", "encoding": "bt709_display"},
    ]
    assert lead.send("PATCH", path, {"reading": rules}).status_code == 200
    pictures.write(tmp_path / "a.png", np.full((8, 8, 3), 0.4, np.float32), "uint8")
    facts = pictures.PictureFacts("PNG", 1, 1, "8 bit")
    tagged = pictures.Picture(
        np.zeros((1, 1, 3), np.float32), facts, tags=(("ImageDescription", "Made by the kiln"),)
    )
    pictures.write(tmp_path / "b.png", np.full((8, 8, 3), 0.4, np.float32), "uint8", like=tagged)
    data, described = ((tmp_path / n).read_bytes() for n in ("a.png", "b.png"))

    def bring(name, content=data, **said):
        answer = lead.upload(f"{path}/stills", {"file": SimpleUploadedFile(name, content), **said})
        assert answer.status_code == 201, answer.content
        return answer.json()["frame"]["encoding"]

    assert bring("wall_log_01.png") == "film_log"
    assert bring("wall.png", folder="phone of vera") == "display_p3"
    assert bring("wall.png", described) == "bt709_display"
    assert bring("wall.png") == "srgb"
    assert bring("wall_log_02.png", encoding="srgb") == "srgb"
    names = [f["name"] for f in lead.get("/frames").json()]
    assert "wall" not in names


def test_a_still_that_is_none_leaves_nothing(lead, project):
    answer = lead.upload(
        f"/projects/{project['id']}/stills", {"file": SimpleUploadedFile("x.png", b"nothing")}
    )
    assert answer.status_code == 422
    assert Shot.objects.count() == 3


def test_a_shot_is_read_in_another_encoding_alone(applier, project, frame):
    first = ids(project)[0]
    path = f"/projects/{project['id']}/shots/{first}"
    after = applier.send("PATCH", path, {"encoding": "film_log"}).json()
    assert after["frame"]["encoding"] == "film_log"
    assert Frame.objects.get(pk=frame.pk).encoding == "srgb"
    twin = after["frame"]["id"]
    assert twin != frame.pk
    assert applier.send("DELETE", path).status_code == 204
    assert not Frame.objects.filter(pk=twin).exists()
    assert Frame.objects.filter(pk=frame.pk).exists()


def test_a_frame_of_a_shot_stays(designer, project, frame):
    refused = designer.send("DELETE", f"/frames/{frame.pk}")
    assert refused.status_code == 409
    assert "a shot of Kiln & yard" in refused.json()["message"]


def test_the_list_asks_no_more_for_each_project(lead, frame, revision, django_assert_max_num_queries):
    """What the list shows of a project comes for all of them at once; only what waits is asked for one by
    one."""
    made = [in_a_project(f"Kiln {k}", [frame] * 10, revision) for k in range(6)]
    lead.get("/projects")
    with django_assert_max_num_queries(10 + 4 * len(made)):
        rows = lead.get("/projects").json()
    assert [r["name"] for r in rows] == [f"Kiln {k}" for k in range(6)]
    assert all(len(r["strip"]) == 8 and r["shots"] == 10 and r["looks"] == 1 for r in rows)
