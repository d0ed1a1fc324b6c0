"""What the bench asks for beside the picture: readings, probe, masks, compare modes, checks, presets, who is
in."""

import io
import json
import struct

import numpy as np
import pytest
from django.utils import timezone
from PIL import Image
from saucer_core.baking.bake import bake
from saucer_core.difference import difference
from saucer_core.encodings import encoding
from saucer_core.finish.render import finish
from saucer_core.look import Look
from saucer_core.presets import shipped, step_of
from saucer_core.readings.density import VECTOR_FULL, WAVE_FULL, density
from saucer_core.readings.histogram import histogram
from saucer_core.readings.scopes import vectorscope, waveform
from saucer_core.screen import for_screen
from saucer_core.treatment import Treatment, evaluate
from saucer_server.frames.rules import pixels
from saucer_server.looks.models import Presence
from saucer_server.looks.presence import GONE
from saucer_server.luts import rules as luts
from saucer_server.people.rules import Person

from .conftest import STEPS


def recipe(*steps, **more):
    return {"input": "bt709_display", "output": "bt709_display", "steps": list(steps or STEPS), **more}


def half(answer) -> np.ndarray:
    data = answer.content
    w, h = struct.unpack("<II", data[:8])
    return np.frombuffer(data[8:], "<f2").astype(np.float32).reshape(h, w, 3)


def read(answer):
    data = answer.content
    length = struct.unpack("<I", data[:4])[0]
    head = json.loads(data[4 : 4 + length])
    counts = np.frombuffer(data[4 + length :], np.uint8)
    waves = 4 * head["columns"] * 256
    return (
        head,
        counts[:waves].reshape(4, 256, head["columns"]),
        counts[waves:].reshape(head["scope"], head["scope"]),
    )


def test_readings_count_what_the_core_counts(designer, frame):
    look = Look.model_validate(recipe())
    head, waves, vectors = read(
        designer.post("/readings", {"look": recipe(), "frame": frame.pk, "spots": [{"x": 0.5, "y": 0.5}]})
    )
    after = evaluate(look, pixels(frame, "bt709_display", 320))
    drawn = density(waveform(after, head["columns"]), WAVE_FULL)
    # Rows from the top: the brightest level is the first.
    np.testing.assert_array_equal(waves, np.flip(drawn, axis=2).transpose(0, 2, 1))
    np.testing.assert_array_equal(
        vectors, density(vectorscope(after, encoding(look.output), size=head["scope"])[None], VECTOR_FULL)[0]
    )
    assert [sum(row) for row in head["histogram"] + head["before"]] == [64 * 36] * 8
    assert head["skin"][0] ** 2 + head["skin"][1] ** 2 == pytest.approx(1)
    assert {t["name"] for t in head["targets"]} == {"red", "yellow", "green", "cyan", "blue", "magenta"}
    spot = head["spots"][0]
    given = np.float32([spot["before"]["code"]])
    np.testing.assert_allclose(spot["after"]["code"], evaluate(look, given)[0], atol=2e-4)


def test_a_step_is_drawn_over_the_tones_it_is_given(designer, frame):
    head, _, _ = read(designer.post("/readings", {"look": recipe(), "frame": frame.pk, "step": "b"}))
    there = (
        Treatment(Look.model_validate(recipe())).compile().before("b")(pixels(frame, "bt709_display", 320))
    )
    assert head["given"] == histogram(there).tolist() != head["before"]
    head, _, _ = read(designer.post("/readings", {"look": recipe(), "frame": frame.pk, "step": "gone"}))
    assert head["given"] is None


def test_a_reference_is_read_as_it_is(designer, frame):
    head, _, _ = read(designer.post("/readings", {"look": None, "frame": frame.pk}))
    assert head["histogram"] == head["before"]
    assert head["spots"] == []


def test_the_probe_says_what_a_step_is_given(designer, frame):
    body = {
        "look": recipe(*STEPS, {"id": "c", "kind": "balance"}),
        "frame": frame.pk,
        "spot": {"x": 0.25, "y": 0.5},
        "step": "c",
    }
    found = designer.post("/probe", body).json()
    before = Treatment(Look.model_validate(body["look"])).compile().before("c")
    given, at = before(np.float32([found["before"]["code"]])), before.end
    np.testing.assert_allclose(found["given"]["code"], given[0], atol=2e-4)
    assert found["given"]["encoding"] == at.key
    assert len(found["neutral"]) == 2
    assert designer.post("/probe", {**body, "step": "nowhere"}).status_code == 422


def test_one_step_alone(designer, frame):
    body = {"look": recipe(), "frame": frame.pk, "only": "a"}
    alone = half(designer.post("/exact?width=64", body))
    look = Look.model_validate(recipe(STEPS[0]))
    wanted = for_screen(evaluate(look, pixels(frame, "bt709_display", 64)), "bt709_display")
    np.testing.assert_allclose(alone, wanted, atol=2e-3)
    assert designer.post("/live", {**body, "only": "zzz"}).status_code == 422


@pytest.mark.parametrize("interpolation", ["tetrahedral", "trilinear"])
def test_as_baked_is_the_table_itself(designer, frame, interpolation):
    body = {"look": recipe(), "frame": frame.pk, "show": "baked", "grid": 5, "interpolation": interpolation}
    lut = bake(Treatment(Look.model_validate(recipe())).compile(), 5)
    wanted = for_screen(lut.apply(pixels(frame, "bt709_display", 64), interpolation), "bt709_display")
    np.testing.assert_allclose(half(designer.post("/exact?width=64", body)), wanted, atol=2e-3)


def test_a_difference_is_the_cores(designer, frame):
    body = {"look": recipe(), "frame": frame.pk, "show": "difference", "against": None, "full": 20}
    own = pixels(frame, "bt709_display", 64)
    here, there = (
        for_screen(x, "bt709_display") for x in (evaluate(Look.model_validate(recipe()), own), own)
    )
    wanted = np.clip(difference(here, there, encoding("srgb")).reshape(own.shape[:2]) / 20, 0, 1)
    np.testing.assert_allclose(half(designer.post("/exact?width=64", body))[..., 0], wanted, atol=2e-3)
    same = designer.post("/exact?width=64", {**body, "against": recipe()})
    assert half(same).max() == 0


def test_the_finish_is_seen_and_never_in_the_table(designer, frame):
    plain, shown = recipe(), recipe(finish={"vignette": {"amount": 0.8}})
    live = [designer.post("/live", {"look": r, "traces": False}).content for r in (plain, shown)]
    assert live[0] == live[1]
    look = Look.model_validate(shown)
    wanted = finish(
        evaluate(look, pixels(frame, "bt709_display", 64)), look.finish, "bt709_display", frame.digest
    )
    seen = half(designer.post("/exact?width=64", {"look": shown, "frame": frame.pk}))
    np.testing.assert_allclose(seen, for_screen(wanted, "bt709_display"), atol=2e-3)
    assert designer.get("/finish").json()["begins"]["vignette"] > 0


def test_masks_mark_what_is_clipped(designer, frame):
    answer = designer.post(
        "/masks?width=64", {"look": recipe({"id": "x", "kind": "exposure", "stops": 4}), "frame": frame.pk}
    ).content
    w, h = struct.unpack("<II", answer[:8])
    bits = np.frombuffer(answer[8:], np.uint8)
    assert len(bits) == w * h
    assert (bits & 2).any()


def test_a_check_is_stated_and_mended(designer, frame):
    steps = [{"id": "wide", "kind": "encode", "to": "bt2020_display"}]
    checks = designer.post("/checks", {"look": recipe(*steps), "frames": [frame.pk]}).json()
    assert [c["kind"] for c in checks] == ["ending"]
    mended = designer.post("/mend", {"look": recipe(*steps), "kind": "ending", "frames": [frame.pk]}).json()
    assert [s["kind"] for s in mended["steps"]] == ["encode", "encode"]
    assert designer.post("/checks", {"look": mended, "frames": [frame.pk]}).json() == []
    gone = designer.post(
        "/mend", {"look": recipe(), "kind": "clipped tones", "step": "wide", "frames": [frame.pk]}
    )
    assert gone.status_code == 422
    assert "nothing to mend here" in gone.json()["message"]


def test_presets_are_ones_own_until_shared(designer, other, applier, lead):
    made = designer.post("/presets", {"name": "Ours", "content": {"kind": "exposure", "stops": 0.7}})
    assert made.status_code == 201
    number = made.json()["id"]

    def named(api):
        return [p["name"] for p in api.get("/presets?kind=exposure").json() if p["id"]]

    assert named(designer) == ["Ours"]
    assert named(other) == []
    assert other.send("PATCH", f"/presets/{number}", {"shared": True}).status_code == 404
    assert designer.send("PATCH", f"/presets/{number}", {"shared": True}).json()["shared"]
    assert named(other) == ["Ours"]
    assert other.send("PATCH", f"/presets/{number}", {"name": "Theirs"}).status_code == 403
    assert other.send("DELETE", f"/presets/{number}").status_code == 403
    assert applier.post("/presets", {"name": "No", "content": {"kind": "exposure"}}).status_code == 403
    assert lead.send("DELETE", f"/presets/{number}").status_code == 204
    assert named(designer) == []


@pytest.mark.parametrize(
    "content",
    [{}, {"kind": "nothing"}, {"kind": "exposure", "stops": 99}, {"kind": "exposure", "unknown": 1}],
)
def test_a_preset_that_is_no_step_is_refused(designer, content):
    answer = designer.post("/presets", {"name": "x", "content": content})
    assert answer.status_code == 422
    assert "no step" in answer.json()["message"]


def test_presets_that_come_with_saucer_do_something_and_are_drawn(designer):
    offered = designer.get("/presets?encoding=film_log").json()
    assert len(offered) == len(shipped()) == len({p["name"] for p in offered})
    for p in offered:
        step = step_of({"id": "x", **p["content"]})
        assert not step.neutral(), p["name"]
        assert p["kind"] == "group" or p["trace"], p["name"]


def test_a_variation_names_its_parent_and_differs(designer, look):
    made = designer.post(f"/looks/{look.pk}/variations", {"name": "Warmer"}).json()
    assert made["parent"] == {"id": look.pk, "name": look.name}
    assert designer.get(f"/looks/{look.pk}").json()["variations"] == [{"id": made["id"], "name": "Warmer"}]
    assert [(x["name"], x["parent"]["name"]) for x in designer.get("/looks").json() if x["parent"]] == [
        ("Warmer", look.name)
    ]
    after = {**made["draft"], "steps": [{**made["draft"]["steps"][0], "amount": 1.3}], "strength": 0.5}
    texts = [c["text"] for c in designer.post("/changes", {"before": made["draft"], "after": after}).json()]
    assert texts == [
        "Contrast: contrast 1.2 × → 1.3 ×",
        "Saturation removed",
        "Strength of the look 100% → 50%",
    ]


def test_one_person_holds_a_draft(designer, other, applier, look):
    def announce(api, take=False):
        return api.send("PUT", f"/looks/{look.pk}/presence", {"take": take}).json()

    assert announce(designer) == {"mine": True, "holder": "Ines", "others": []}
    assert announce(applier)["mine"] is False
    late = announce(other)
    assert (late["mine"], late["holder"], sorted(late["others"])) == (False, "Ines", ["Ines", "Vera"])
    assert announce(other, take=True)["mine"]
    assert announce(designer) == {"mine": False, "holder": "Tomas", "others": ["Vera", "Tomas"]}
    # Whoever leaves, or is not heard of, lets go of it.
    other.post(f"/looks/{look.pk}/leave")
    assert announce(designer)["mine"]
    Presence.objects.update(seen_at=timezone.now() - 2 * GONE)
    assert announce(other)["mine"]
    assert announce(applier, take=True)["mine"] is False


def test_borrowed_tables_are_shown_before_they_are_chosen(designer, frame):
    """On a frame, with their saucer, and in words."""
    grey = bake(
        Treatment(Look.model_validate({"steps": [{"id": "m", "kind": "monochrome", "amount": 1}]})).compile(),
        9,
        title="Ash",
    )
    row = luts.adopt(
        grey,
        Person.objects.get(username="ines"),
        expects="bt709_display",
        gives="bt709_display",
        rights="r",
        origin="o",
    )
    assert row is not None
    assert "monochrome" in designer.get("/luts/words").json()[row.digest]
    assert designer.get(f"/luts/{row.pk}/saucer?size=64")["Content-Type"] == "image/png"
    still = designer.get(f"/luts/{row.pk}/still?frame={frame.pk}&width=64").content
    shown = np.asarray(Image.open(io.BytesIO(still)).convert("RGB")).astype(int)
    assert np.ptp(shown, axis=-1).max() <= 6
    assert designer.get("/luts/999/saucer").status_code == 404
    # One whose table is gone has no words, and no picture: it says why.
    luts.BorrowedLut.objects.filter(pk=row.pk).update(file="luts/gone.cube", expects="srgb")
    assert designer.get("/luts/words").json()[row.digest] == []
    answer = designer.get(f"/luts/{row.pk}/still?frame={frame.pk}")
    assert answer.status_code == 422
    assert "“Ash”" in answer.json()["message"]


def test_ways_to_begin_are_begun_by_the_core(designer):
    ways = [[], [STEPS[0]], [{"id": "r", "kind": "scene_to_display"}]]
    scene = designer.post("/begun", {"input": "film_log", "ways": ways}).json()
    assert [[step["kind"] for step in look["steps"]] for look in scene] == [
        ["scene_to_display"],
        ["scene_to_display", "contrast"],
        ["scene_to_display"],
    ]
    assert designer.post("/begun", {"input": "srgb", "output": "srgb", "ways": ways}).json()[2] is None
    assert designer.post("/begun", {"input": "nothing", "ways": []}).status_code == 422


def test_the_document_has_answers_in_whole_and_heads_of_binary_ones(designer, frame):
    schemas = designer.get("/openapi.json").json()["components"]["schemas"]
    assert set(schemas["LookWhole"]["required"]) == set(schemas["LookWhole"]["properties"])
    assert "steps" not in schemas["Look"].get("required", [])
    live = designer.post("/live", {"look": recipe()}).content
    told = json.loads(live[4 : 4 + struct.unpack("<I", live[:4])[0]])
    assert set(told) == set(schemas["LiveHead"]["properties"])
    head, _, _ = read(designer.post("/readings", {"look": recipe(), "frame": frame.pk}))
    assert set(head) == set(schemas["ReadingsHead"]["properties"])
