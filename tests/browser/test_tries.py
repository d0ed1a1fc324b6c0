"""Nine pieces of work as a designer does them on the bench, by its interface alone."""

import json
import re

import numpy as np
from playwright.sync_api import Page, expect
from saucer_core.encodings import encoding
from saucer_core.encodings.oklab import to_oklab
from saucer_core.formats import cube
from saucer_core.readings.traits import traits
from saucer_core.tables.lut import Lut, identity_grid
from saucer_core.treatment import evaluate

from .hands import (
    add_step,
    against,
    checks,
    choose_row,
    control,
    draft_of,
    look_id,
    made,
    row,
    show,
    tick,
    type_in,
)


def _channel(page: Page, name: str) -> None:
    control(page).get_by_role("radio", name=name, exact=True).click()


def _points(page: Page, points: list[tuple[float, float]]) -> None:
    """Types a channel's points, in the unit that is chosen; the two ends are there already."""
    for _ in range(len(points) - 2):
        page.get_by_role("button", name="Add point").click()
    for k in [0, len(points) - 1, *range(1, len(points) - 1)]:
        x, y = points[k]
        for part, value in (("in", x), ("out", y)):
            box = control(page).get_by_role("textbox", name=f"Point {k + 1} {part}, 8-bit")
            box.fill(str(value))
            box.press("Enter")


S = [(0, 0), (64, 50), (191, 205), (255, 255)]
REVERSED = [(0, 0), (64, 78), (191, 177), (255, 255)]


def test_crossed_curves_kept_as_a_preset_and_reused(enter):
    page = enter("ines")
    made(page, name="Crossed")
    add_step(page, "curves", "Curves")
    for channel, points in (("Red", S), ("Green", S), ("Blue", REVERSED)):
        _channel(page, channel)
        _points(page, points)
    first = draft_of(page).steps[0]
    page.get_by_role("button", name="Keep as preset").click()
    page.get_by_role("textbox", name="Name", exact=True).fill("Crossed by hand")
    page.get_by_role("dialog").get_by_role("button", name="Keep", exact=True).click()
    expect(page.get_by_role("dialog")).to_have_count(0)

    made(page, name="Reuse")
    add_step(page, "curves", "Curves")
    page.get_by_role("button", name="Presets").click()
    option = page.get_by_role("option", name="Crossed by hand")
    before = page.locator("main canvas[data-drawn]").first.get_attribute("data-drawn")
    option.hover()
    # It is seen on the picture before it is chosen, and nothing is changed by looking.
    expect(page.locator("main canvas[data-drawn]").first).not_to_have_attribute("data-drawn", before or "")
    assert draft_of(page).steps[0].neutral()
    option.click()
    second = draft_of(page).steps[0]
    assert (second.red, second.green, second.blue) == (first.red, first.green, first.blue)
    np.testing.assert_allclose(second.red, np.array(S) / 255, atol=2e-5)
    page.get_by_role("button", name="Presets").click()
    page.get_by_role("button", name="Move the preset Crossed by hand to the bin").click()
    expect(page.get_by_role("option", name="Crossed by hand")).to_have_count(0)


def test_an_exact_curve_by_numbers(enter):
    page = enter("ines")
    made(page, name="By numbers")
    add_step(page, "curves", "Curves")
    wanted = {
        "All": [(6, 10), (128, 131), (250, 244)],
        "Red": [(0, 4), (90, 84), (255, 250)],
        "Green": [(3, 0), (120, 124), (252, 255)],
        "Blue": [(0, 18), (100, 106), (255, 236)],
    }
    for channel, points in wanted.items():
        _channel(page, channel)
        _points(page, points)
    found = draft_of(page).steps[0]
    for channel, points in wanted.items():
        np.testing.assert_allclose(getattr(found, channel.lower()), np.array(points) / 255, atol=2e-5)
    control(page).get_by_role("button", name=re.compile("Unit")).click()
    page.get_by_role("option", name="10-bit").click()
    expect(control(page).get_by_role("textbox", name="Point 1 out, 10-bit")).to_have_value("72")


def test_two_opposing_hues_with_skin_kept_believable(enter):
    page = enter("ines")
    made(page, name="Two hues")
    tick(page, "radio", "Clay heads")
    add_step(page, "hue ranges", "Hue ranges")
    ranges = control(page)
    # A range for every fifth of the circle, all driven to orange or teal; skin goes along.
    for k, (hue, shift) in enumerate(((45, 60), (110, -50), (250, -35))):
        if k:
            ranges.get_by_role("button", name="Add range").click()
        type_in(page, "Hue", str(hue))
        type_in(page, "Hue shift", str(shift))
        type_in(page, "Width", "70")
    add_step(page, "zone", "Zone tint")
    for zone, hue, amount in (("Shadows", 215, 14), ("Highlights", 75, 10)):
        _channel(page, zone)
        type_in(page, "Hue", str(hue))
        type_in(page, "Tint", str(amount))
    page.get_by_role("slider", name="Shadows to midtones").focus()
    for _ in range(4):
        page.keyboard.press("ArrowRight")
    line = checks(page)
    skin = line.get_by_role("listitem").filter(has_text="Skin is")
    expect(skin).to_be_visible()
    turned = abs(traits(draft_of(page)).skin_hue)
    skin.get_by_role("button", name="Ease Step 1 (Hue ranges) to half").click()
    expect(skin).to_have_count(0)
    look = draft_of(page)
    assert abs(traits(look).skin_hue) < turned / 1.5
    assert look.steps[0].strength == 0.5
    # Easing has a name in the history, and can be taken back.
    expect(page.get_by_role("button", name=re.compile("^Undo Ease"))).to_be_visible()


def test_a_correction_after_the_conversion_is_found_and_moved(enter):
    page = enter("ines")
    made(page, {"id": "show", "kind": "scene_to_display"}, name="Log", input="film_log")
    tick(page, "radio", "Wheel by the window")
    choose_row(page, "Scene to display")
    page.get_by_role("button", name="Insert before the first step").click()
    page.get_by_role("searchbox", name="Find a step").fill("exposure")
    page.keyboard.press("Enter")
    type_in(page, "Exposure", "3")
    choose_row(page, "Scene to display")
    add_step(page, "zone", "Zone tint")
    type_in(page, "Tint", "20")
    add_step(page, "exposure", "Exposure")
    type_in(page, "Exposure", "-1.5")
    line = checks(page)
    found = line.get_by_role("listitem").filter(has_text="works on clipped tones")
    expect(found).to_be_visible()
    found.get_by_role("button", name=re.compile("^Move above")).click()
    expect(found).to_have_count(0)
    kinds = [s.kind for s in draft_of(page).steps]
    assert kinds == ["exposure", "exposure", "scene_to_display", "zone_tint"]
    page.get_by_role("button", name=re.compile("^Undo Move above")).click()
    assert [s.kind for s in draft_of(page).steps][-1] == "exposure"


def test_a_lut_for_film_log_on_a_display_frame(enter, tmp_path):
    page = enter("ines")
    made(page, name="Wrong LUT")
    add_step(page, "lut", "LUT")
    page.get_by_role("button", name="Bring in a LUT").click()
    path = tmp_path / "print.cube"
    path.write_text(
        cube.write_text(Lut(np.ascontiguousarray(identity_grid(17) ** np.float32(1.4)), title="Print"))
    )
    sheet = page.get_by_role("dialog")
    sheet.locator("input[type=file]").first.set_input_files(path)
    sheet.get_by_role("button", name="Expects").click()
    page.get_by_role("option", name="film log", exact=True).click()
    sheet.get_by_label("Where it comes from").fill("the lab")
    sheet.get_by_label("Rights: may it be passed on?").fill("inside the house")
    sheet.get_by_role("button", name="Bring in", exact=True).click()
    expect(page.get_by_role("button", name="Table: Print")).to_be_visible()
    line = checks(page)
    wrong = line.get_by_role("listitem").filter(has_text="wants film log and is given BT.709 display")
    wrong.get_by_role("button", name="Bring the picture to film log first").click()
    expect(wrong).to_have_count(0)
    row(page, "Print on BT.709 display").locator(".name").click()
    page.get_by_role("button", name="Step ▾").click()
    page.get_by_role("menuitem", name="Group", exact=True).click()
    type_in(page, "Strength", "60")
    group = draft_of(page).steps[0]
    assert (group.kind, group.strength, [s.kind for s in group.steps]) == ("group", 0.6, ["look"])
    assert group.steps[0].look.input == "film_log"


def test_four_borrowed_looks_stacked(enter):
    page = enter("ines")
    made(page, name="Stack")
    names = ["Cross bath", "Faded card", "Late straw", "Oxide"]
    for name, strength in zip(names, (30, 40, 50, 35), strict=True):
        add_step(page, "look", "Look")
        page.get_by_role("button", name=re.compile("^Look: ")).click()
        page.get_by_role("option", name=name).click()
        expect(page.get_by_role("button", name=re.compile(f"^Look: {name}"))).to_be_visible()
        type_in(page, "Strength", str(strength))
        type_in(page, "Own name", name)
    choose_row(page, "Oxide")
    page.keyboard.press("Alt+ArrowUp")
    page.keyboard.press("Alt+ArrowUp")
    page.keyboard.press("Alt+Shift+ArrowRight")
    look = draft_of(page)
    assert [(s.label, s.strength) for s in look.steps] == [
        ("Cross bath", 0.3),
        ("Oxide", 0.45),
        ("Faded card", 0.4),
        ("Late straw", 0.5),
    ]
    page.get_by_role("button", name="Keep revision").click()
    page.get_by_role("dialog").get_by_role("button", name="Keep", exact=True).click()
    expect(page.get_by_role("status").filter(has_text="draft after r1")).to_be_visible()
    assert page.request.get(f"/api/looks/{look_id(page)}").json()["revisions"][0]["digest"] == look.digest()


def test_raised_blue_black_a_pale_wash_and_a_lifted_curve(enter):
    page = enter("ines")
    made(page, name="Pale")
    add_step(page, "curves", "Curves")
    page.get_by_role("button", name="Presets").click()
    page.get_by_role("option", name="Blue cellar").click()
    add_step(page, "wash", "Colour wash")
    control(page).get_by_role("button", name="Blend").click()
    page.get_by_role("option", name="multiply").click()
    disc = page.get_by_role("slider", name="Colour of the wash")
    disc.focus()
    for _ in range(3):
        disc.press("ArrowLeft")
    type_in(page, "Lightness", "93")
    type_in(page, "Chroma", "0.04")
    add_step(page, "curves", "Curves")
    _points(page, [(0, 0), (128, 146), (255, 255)])
    look = draft_of(page)
    assert [s.blend for s in look.steps] == ["normal", "multiply", "normal"]
    ends = evaluate(look, np.float32([[0, 0, 0], [1, 1, 1]]))
    assert ends[0, 2] > 0.05 > ends[0, 0]
    white = to_oklab(ends[1:], encoding(look.output))[0]
    assert np.degrees(np.arctan2(white[2], white[1])) % 360 < 120
    assert ends[1, 2] < ends[1, 0]


def test_monochrome_but_for_two_hues(enter):
    page = enter("ines")
    made(page, name="Two remain")
    tick(page, "radio", "Glaze table")
    add_step(page, "hue ranges", "Hue ranges")
    for hue in (35, 240):
        control(page).get_by_role("button", name="Add range").click()
        type_in(page, "Hue", str(hue))
        type_in(page, "Width", "50")
    _channel(page, "everything else")
    type_in(page, "Saturation", "-100")
    look = draft_of(page)
    hues = np.radians([35.0, 140.0, 240.0, 320.0])
    lab = np.stack([np.full(4, 0.62), 0.1 * np.cos(hues), 0.1 * np.sin(hues)], axis=1).astype(np.float32)
    from saucer_core.encodings.oklab import from_oklab

    given = from_oklab(lab, encoding(look.input))
    chroma = np.hypot(*to_oklab(evaluate(look, given), encoding(look.output))[:, 1:].T)
    assert chroma[[0, 2]].min() > 0.06
    assert chroma[[1, 3]].max() < 0.03


def test_warm_it_warm_it_more_step_back_and_compare(enter):
    page = enter("ines")
    made(page, {"id": "b", "kind": "balance"}, name="Warmer")
    tick(page, "radio", "North shelf")
    choose_row(page, "Balance")
    type_in(page, "Temperature", "14")
    choose_row(page, "Balance")
    page.keyboard.press("s")
    # Two changes a moment apart are two in the history.
    page.wait_for_timeout(800)
    type_in(page, "Temperature", "38")
    assert draft_of(page).steps[0].temperature == 38
    page.get_by_role("button", name="Undo Balance").click()
    page.wait_for_timeout(800)
    type_in(page, "Temperature", "22")
    show(page, "Beside")
    against(page, "State 1")
    expect(page.locator("main canvas[data-exact=yes]")).to_have_count(2)
    page.get_by_role("button", name="Go on with this").click()
    assert draft_of(page).steps[0].temperature == 14
    page.get_by_role("button", name="Undo Go on with State 1").click()
    assert draft_of(page).steps[0].temperature == 22
    # The history is there after a reload, names included.
    page.reload()
    page.get_by_role("button", name=re.compile("^Undo Balance")).click()
    assert draft_of(page).steps[0].temperature == 14


def test_dragging_and_keys_come_to_the_same(enter):
    page = enter("ines")
    steps = [
        {"id": k, "kind": "exposure", "label": name, "stops": 0.1}
        for k, name in (("a", "One"), ("b", "Two"), ("c", "Three"))
    ]
    made(page, *steps, name="By drag")
    held, target = row(page, "Three").bounding_box(), row(page, "One").bounding_box()
    assert held
    assert target
    page.mouse.move(held["x"] + 60, held["y"] + 14)
    page.mouse.down()
    for y in (held["y"] - 10, target["y"] + 20, target["y"] + 5, target["y"] + 3):
        page.mouse.move(target["x"] + 60, y, steps=4)
        page.wait_for_timeout(80)
    page.mouse.up()
    bar = row(page, "Two").locator(".bar")
    box = bar.bounding_box()
    assert box
    page.mouse.move(box["x"] + box["width"] - 1, box["y"] + 7)
    page.mouse.down()
    page.mouse.move(box["x"] + box["width"] * 0.7, box["y"] + 7, steps=4)
    page.mouse.up()
    dragged = draft_of(page)

    made(page, *steps, name="By keys")
    choose_row(page, "Three")
    page.keyboard.press("Alt+ArrowUp")
    page.keyboard.press("Alt+ArrowUp")
    choose_row(page, "Two")
    for _ in range(3):
        page.keyboard.press("Alt+Shift+ArrowLeft")
    keyed = draft_of(page)
    assert [s.label for s in keyed.steps] == ["Three", "One", "Two"]
    assert abs(dragged.steps[2].strength - 0.7) < 0.03
    assert keyed.steps[2].strength == 0.7
    assert [s.label for s in dragged.steps] == [s.label for s in keyed.steps]


def test_steps_travel_between_looks_on_the_clipboard(enter):
    page = enter("ines")
    page.context.grant_permissions(["clipboard-read", "clipboard-write"])
    made(
        page,
        {"id": "a", "kind": "exposure", "stops": 0.3},
        {"id": "b", "kind": "contrast", "amount": 1.2},
        name="From",
    )
    choose_row(page, "Exposure")
    choose_row(page, "Contrast", modifiers=["Control"])
    page.keyboard.press("Control+c")
    made(page, name="To")
    add_step(page, "saturation", "Saturation")
    choose_row(page, "Saturation")
    page.keyboard.press("Control+v")
    expect(row(page, "Contrast")).to_be_visible()
    look = draft_of(page)
    assert [s.kind for s in look.steps] == ["saturation", "exposure", "contrast"]
    assert (look.steps[1].stops, look.steps[2].amount) == (0.3, 1.2)
    page.evaluate(
        "text => navigator.clipboard.writeText(text)",
        json.dumps({"saucer_steps": [{"kind": "exposure", "stops": 900}]}),
    )
    choose_row(page, "Contrast")
    page.keyboard.press("Control+v")
    expect(page.get_by_role("alert").filter(has_text="cannot be put here")).to_be_visible()
    assert draft_of(page) == look
