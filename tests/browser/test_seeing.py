"""Every way of seeing a draft on the bench shows what the core computes; and what is read, picked and laid
over it."""

import re
from typing import Any

import numpy as np
import pytest
from playwright.sync_api import Locator, Page, expect
from saucer_core.baking.bake import bake
from saucer_core.encodings import encoding
from saucer_core.look import Look
from saucer_core.screen import for_screen
from saucer_core.steps.balance import neutralising
from saucer_core.treatment import Treatment

from .hands import against, choose_row, control, draft_of, made, show, tick, type_in, until
from .seen import apart, computed, places, rendered, shown

STEPS: list[dict[str, Any]] = [
    {"id": "s", "kind": "scene_to_display"},
    {"id": "c", "kind": "contrast", "amount": 1.15},
    {"id": "z", "kind": "zone_tint", "shadows": {"hue": 220, "amount": 0.2}},
    {"id": "k", "kind": "saturation", "amount": 1.2},
]


@pytest.fixture
def bench(enter) -> Page:
    page = enter("ines")
    made(page, *STEPS, name="Seen", input="film_log")
    tick(page, "radio", "Glaze table")
    return page


def settled(page: Page, nth: int = 0) -> Locator:
    canvas = page.locator("main canvas[data-picture]").nth(nth)
    expect(canvas).to_have_attribute("data-exact", "yes")
    return canvas


def given(page: Page, canvas: Locator) -> np.ndarray:
    return places(page, canvas.get_attribute("data-picture") or "")


def eight(screen: np.ndarray) -> np.ndarray:
    return np.round(np.clip(screen, 0, 1) * 255).astype(np.uint8)


def close(seen: np.ndarray, wanted: np.ndarray) -> None:
    off = apart(seen, wanted)
    assert off.max() <= 2, f"up to {off.max()} codes from the core"


def comes(page: Page, look: Look, nth: int = 0, below: int = 0) -> None:
    """The canvas comes to show that look, in all rows below one."""

    def shows() -> bool:
        canvas = settled(page, nth)
        return bool(apart(shown(canvas), computed(look, given(page, canvas)))[below:].max() <= 2)

    until(shows)


def other_look(page: Page, name: str) -> Look:
    cards = page.request.get("/api/catalogue").json()["cards"]
    number = next(c["revision"]["id"] for c in cards if c["name"] == name)
    return Look.model_validate(page.request.get(f"/api/revisions/{number}/recipe").json())


def test_the_look_and_a_split_against_another(bench):
    look = draft_of(bench)
    canvas = settled(bench)
    at = given(bench, canvas)
    close(shown(canvas), computed(look, at))
    show(bench, "Split")
    against(bench, "Faded card")
    own, other = computed(look, at), computed(other_look(bench, "Faded card"), _for(bench, at, "Faded card"))
    h, w = own.shape[:2]
    # The handle and the words lie over the picture: a band above the handle is compared, a little away from
    # the line.
    rows = slice(int(h * 0.6), int(h * 0.9))
    halves = (((rows, slice(0, w // 2 - 14)), other), ((rows, slice(w // 2 + 14, w)), own))

    def off() -> int:
        seen = shown(settled(bench))
        return max(int(apart(seen[half], wanted[half]).max()) for half, wanted in halves)

    until(lambda: off() <= 2)


@pytest.mark.parametrize("key", ["film_log", "pq"])
def test_the_original(enter, key):
    page = enter("ines")
    made(
        page,
        {"id": "s", "kind": "encode" if key == "pq" else "scene_to_display", "to": "bt709_display"},
        name="As it is",
        input=key,
    )
    tick(page, "radio", "Yard, noon")
    show(page, "Original")
    canvas = settled(page)
    close(shown(canvas)[60:], eight(for_screen(given(page, canvas), key))[60:])


def _for(page: Page, at: np.ndarray, name: str) -> np.ndarray:
    """The same frame as places in another look's table."""
    look = other_look(page, name)
    canvas = page.locator("main canvas[data-picture]").first
    frame, version, _, width, trimmed = (canvas.get_attribute("data-picture") or "").split("-")
    return places(page, f"{frame}-{version}-{look.input}-{width}-{trimmed}")


def test_beside_another_look_and_a_reference(bench):
    show(bench, "Beside")
    against(bench, "Faded card")
    bench.keyboard.press("Escape")
    against(bench, "Yard, noon")
    look, other = draft_of(bench), other_look(bench, "Faded card")
    for nth, wanted in ((0, look), (1, other)):
        comes(bench, wanted, nth)
    expect(bench.get_by_role("img", name="Yard, noon, reference")).to_be_visible()


def test_difference_in_delta_e(bench):
    look, other = draft_of(bench), other_look(bench, "Faded card")
    settled(bench)
    show(bench, "Difference")
    against(bench, "Faded card")
    canvas = settled(bench)
    frame = int((canvas.get_attribute("data-picture") or "").split("-")[0])
    body = {
        "look": look.model_dump(mode="json"),
        "frame": frame,
        "show": "difference",
        "against": other.model_dump(mode="json"),
        "full": 20,
    }
    wanted = rendered(bench, shown(canvas).shape[1], body)
    assert wanted.mean() > 10
    # Beside the words.
    until(lambda: apart(shown(settled(bench)), wanted)[60:].max() <= 2)


@pytest.mark.parametrize(("grid", "interpolation"), [(17, "trilinear"), (33, "tetrahedral")])
def test_as_baked(bench, grid, interpolation):
    look = draft_of(bench)
    show(bench, "As baked")
    bench.get_by_role("radio", name=f"{grid}³").click()
    if interpolation == "trilinear":
        bench.get_by_role("button", name="Interpolation").click()
        bench.get_by_role("option", name="trilinear").click()
    canvas = settled(bench)
    at = given(bench, canvas)
    wanted = eight(for_screen(bake(Treatment(look).compile(), grid).apply(at, interpolation), look.output))
    close(shown(canvas)[60:], wanted[60:])
    assert apart(wanted, computed(look, at)).max() > 2


def test_nine_frames_at_once_and_one_step_alone(bench):
    look = draft_of(bench)
    bench.get_by_role("button", name="View ▾").click()
    bench.get_by_role("menuitem", name="4", exact=True).click()
    expect(bench.locator("main canvas[data-picture]")).to_have_count(4)
    for nth in range(4):
        comes(bench, look, nth, below=50)
    bench.get_by_role("button", name="View ▾").click()
    bench.get_by_role("menuitem", name="One", exact=True).click()
    expect(bench.get_by_role("menu")).to_have_count(0)
    choose_row(bench, "Zone tint")
    bench.keyboard.press("a")
    expect(bench.get_by_role("button", name="one step alone ✕")).to_be_visible()
    comes(
        bench,
        look.model_copy(
            update={
                "steps": [s if s.id == "z" else s.model_copy(update={"strength": 0.0}) for s in look.steps]
            }
        ),
    )
    bench.keyboard.press("Escape")
    comes(bench, look)


def test_strength_of_the_look_and_its_finish(enter):
    bench = enter("ines")
    made(bench, *STEPS[1:], name="Eased")
    tick(bench, "radio", "Glaze table")
    box = bench.get_by_role("complementary", name="Order").get_by_role("textbox", name="Strength of the look")
    box.fill("40")
    box.press("Enter")
    bench.get_by_role("button", name="Add a finish").click()
    bench.get_by_role("menuitem", name="Vignette").click()
    type_in(bench, "Vignette", "80")
    look = draft_of(bench)
    assert (look.strength, look.finish.vignette.amount) == (0.4, 0.8)
    canvas = settled(bench)
    seen = shown(canvas)
    frame = int((canvas.get_attribute("data-picture") or "").split("-")[0])
    wanted = rendered(bench, seen.shape[1], {"look": look.model_dump(mode="json"), "frame": frame})
    close(seen, wanted)
    assert apart(seen, computed(look, given(bench, canvas))).max() > 20


def test_the_split_turns_and_the_picture_enlarges(bench):
    bench.keyboard.press("h")
    bench.keyboard.press("v")
    expect(bench.get_by_role("slider", name=re.compile("^Split between"))).to_have_attribute(
        "aria-orientation", "vertical"
    )
    bench.keyboard.press("h")
    settled(bench)
    before = shown(settled(bench))
    bench.keyboard.press("+")
    expect(bench.get_by_role("button", name="× 1.5 ✕")).to_be_visible()
    canvas = settled(bench)
    wide = given(bench, canvas)
    assert wide.shape[1] > before.shape[1]
    bench.keyboard.press("0")
    np.testing.assert_array_equal(shown(settled(bench)), before)


def test_a_neutral_and_a_tone_are_picked_in_the_picture(bench):
    choose_row(bench, "Contrast")
    from .hands import add_step

    add_step(bench, "balance", "Balance")
    bench.get_by_role("button", name="Pick a neutral").click()
    canvas = settled(bench)
    box = canvas.bounding_box()
    assert box
    bench.mouse.click(box["x"] + box["width"] * 0.7, box["y"] + box["height"] * 0.62)
    expect(control(bench).get_by_role("textbox", name="Temperature")).not_to_have_value("0")
    look = draft_of(bench)
    balance = look.steps[2]
    at = given(bench, canvas)
    y, x = int(at.shape[0] * 0.62), int(at.shape[1] * 0.7)
    patch = Treatment(look).compile().upto("c")
    code = patch(at[y - 1 : y + 2, x - 1 : x + 2].reshape(-1, 3).mean(axis=0)[None])[0]
    wanted = neutralising(code, encoding("bt709_display"))
    np.testing.assert_allclose([balance.temperature, balance.tint], wanted, atol=6)
    add_step(bench, "curves", "Curves")
    bench.get_by_role("button", name="Pick a tone").click()
    bench.mouse.click(box["x"] + box["width"] * 0.7, box["y"] + box["height"] * 0.62)
    expect(control(bench).get_by_role("slider", name=re.compile("^Point 3"))).to_be_visible()
    points = draft_of(bench).steps[3].all
    # The picked tone lies on the line as it was.
    assert abs(points[1][0] - points[1][1]) < 0.02


def test_spots_are_pinned_and_masks_laid_over(bench):
    canvas = settled(bench)
    box = canvas.bounding_box()
    assert box
    for x in (0.3, 0.5, 0.7):
        bench.mouse.click(box["x"] + box["width"] * x, box["y"] + box["height"] * 0.5)
    probe = bench.get_by_role("table", name="Probe")
    expect(probe.get_by_role("row", name=re.compile(r"^3 "))).to_be_visible()
    before = probe.get_by_role("row", name=re.compile(r"^2 ")).inner_text()
    choose_row(bench, "Contrast")
    type_in(bench, "Contrast", "1.6")
    expect(probe.get_by_role("row", name=re.compile(r"^2 "))).not_to_have_text(before)
    bench.mouse.click(box["x"] + box["width"] * 0.5, box["y"] + box["height"] * 0.5)
    expect(probe.get_by_role("row", name=re.compile(r"^3 "))).to_have_count(0)
    bench.get_by_role("button", name="View ▾").click()
    bench.get_by_role("menuitem", name="Clipped blacks").click()
    overlay = bench.locator("main .picture canvas.mask")
    expect(overlay).to_have_count(1)
    inked = "c => c.getContext('2d').getImageData(0, 0, c.width, c.height).data.some(v => v > 0)"
    until(lambda: overlay.evaluate(inked))
    for name in ("Tone, larger", "Parade, larger", "Vectors, larger", "Probe, larger"):
        bench.get_by_role("button", name=name).click()
        bench.get_by_role("radio", name="linear").click()
        bench.get_by_role("button", name="Smaller").click()


def exposure_of(page: Page, name: str) -> float:
    """What the server has as that frame's trim."""
    return next(f["trim"]["exposure"] for f in page.request.get("/api/frames").json() if f["name"] == name)


def test_a_trim_belongs_to_the_frame(bench):
    look = draft_of(bench)
    first = exposure_of(bench, "Glaze table")
    bench.keyboard.press("t")
    panel = bench.get_by_role("region", name="Trim", exact=True)
    box = panel.get_by_role("textbox", name="Exposure", exact=True)
    box.fill("-1")
    box.press("Enter")
    expect(bench.get_by_role("img", name="Glaze table, look")).to_be_visible()
    until(lambda: exposure_of(bench, "Glaze table") == -1)
    panel.get_by_role("button", name="Copy to").click()
    bench.get_by_role("menuitem", name="Yard, dusk", exact=True).click()
    expect(panel.get_by_role("status")).to_have_text("Copied to Yard, dusk.")
    assert exposure_of(bench, "Yard, dusk") == -1
    box.fill(str(first))
    box.press("Enter")
    until(lambda: exposure_of(bench, "Glaze table") == first)
    panel.get_by_role("button", name="Copy to").click()
    bench.get_by_role("menuitem", name="Yard, dusk", exact=True).click()
    until(lambda: exposure_of(bench, "Yard, dusk") == first)
    panel.get_by_role("button", name="Done").click()
    assert draft_of(bench) == look
    comes(bench, look)


def test_axe_finds_nothing_in_the_bench_however_it_is_seen(bench, axe):
    for how in ("Split", "Beside", "As baked", "Difference"):
        show(bench, how)
        bench.wait_for_timeout(300)
        assert axe(bench) == [], how
    bench.get_by_role("button", name="Add a finish").click()
    bench.get_by_role("menuitem", name="Grain").click()
    assert axe(bench) == []
    bench.keyboard.press("t")
    bench.get_by_role("region", name="Trim", exact=True).wait_for()
    assert axe(bench) == []
    bench.keyboard.press("t")
    for kind in ("curves", "levels", "hue ranges", "lift", "tone ramp", "wash"):
        bench.get_by_role("button", name="Add a step", exact=True).click()
        bench.get_by_role("searchbox", name="Find a step").fill(kind)
        bench.keyboard.press("Enter")
        bench.wait_for_timeout(500)
        assert axe(bench) == [], kind
    bench.keyboard.press("?")
    bench.get_by_role("dialog", name="Keys").wait_for()
    assert axe(bench) == []
