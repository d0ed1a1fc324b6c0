"""Each editor under the hand: what a pointer or a key does to the step."""

import math
import re

import numpy as np
import pytest
from playwright.sync_api import Locator, Page, expect

from .hands import add_step, choose_row, control, draft_of, made, row, type_in

#: Where the disc's edge is, as a part of half its width.
EDGE = 0.775


@pytest.fixture
def bench(enter) -> Page:
    page = enter("ines")
    made(page, name="Under the hand")
    return page


def first(page: Page):
    return draft_of(page).steps[0]


def drag(page: Page, place: Locator, start: tuple[float, float], end: tuple[float, float]) -> None:
    """From one place in a box to another, in shares from its top left."""
    box = place.bounding_box()
    assert box
    at = lambda x, y: (box["x"] + x * box["width"], box["y"] + y * box["height"])  # noqa: E731
    page.mouse.move(*at(*start))
    page.mouse.down()
    page.mouse.move(*at((start[0] + end[0]) / 2, (start[1] + end[1]) / 2))
    page.mouse.move(*at(*end))
    page.mouse.up()


def on_disc(hue: float, amount: float) -> tuple[float, float]:
    turn = math.radians(hue)
    return 0.5 + math.cos(turn) * amount * EDGE / 2, 0.5 - math.sin(turn) * amount * EDGE / 2


def disc_of(page: Page, name: str) -> Locator:
    return page.get_by_role("slider", name=name).locator("xpath=..")


def test_a_disc_sets_hue_and_amount_together_or_alone(bench):
    add_step(bench, "zone", "Zone tint")
    disc = disc_of(bench, "Tint of the shadows")
    drag(bench, disc, (0.5, 0.5), on_disc(210, 0.5))
    tone = first(bench).shadows
    assert (tone.hue, tone.amount) == (pytest.approx(210, abs=2), pytest.approx(0.5, abs=0.02))
    bench.keyboard.down("Shift")
    drag(bench, disc, on_disc(210, 0.5), on_disc(40, 0.9))
    bench.keyboard.up("Shift")
    tone = first(bench).shadows
    assert (tone.hue, tone.amount) == (pytest.approx(210, abs=2), pytest.approx(0.9, abs=0.02))
    bench.keyboard.down("Alt")
    drag(bench, disc, on_disc(210, 0.9), on_disc(40, 0.3))
    bench.keyboard.up("Alt")
    tone = first(bench).shadows
    assert (tone.hue, tone.amount) == (pytest.approx(40, abs=2), pytest.approx(0.9, abs=0.02))
    knob = bench.get_by_role("slider", name="Tint of the shadows")
    knob.press("Shift+ArrowDown")
    knob.press("ArrowLeft")
    after = first(bench).shadows
    assert (after.hue, after.amount) == (
        pytest.approx(tone.hue + 1, abs=0.01),
        pytest.approx(tone.amount - 0.1, abs=0.002),
    )


def test_a_disc_pulls_channels_apart_and_keeps_what_they_share(bench):
    add_step(bench, "lift", "Lift, gamma, gain")
    type_in(bench, "Gain", "1.1")
    drag(bench, disc_of(bench, "Gain, direction and amount"), (0.5, 0.5), on_disc(30, 0.5))
    step = first(bench)
    gains = [step.red.gain, step.green.gain, step.blue.gain]
    assert step.master.gain == 1.1
    assert np.mean(gains) == pytest.approx(1, abs=1e-3)
    # Toward red: the two others give way alike.
    assert gains[0] > 1.15
    assert gains[1] == pytest.approx(gains[2], abs=0.02)
    bench.get_by_role("slider", name="Gain, direction and amount").locator("xpath=..").dblclick(
        position={"x": 42, "y": 42}
    )
    step = first(bench)
    assert [step.red.gain, step.green.gain, step.blue.gain] == [1, 1, 1]


def test_a_wash_takes_its_colour_from_the_disc(bench):
    add_step(bench, "wash", "Colour wash")
    drag(bench, disc_of(bench, "Colour of the wash"), (0.5, 0.5), on_disc(75, 0.4))
    colour = first(bench).colour
    assert (colour.hue, colour.chroma) == (pytest.approx(75, abs=3), pytest.approx(0.1, abs=0.006))


def test_a_channels_curve_is_copied_inverted_and_straightened(bench):
    add_step(bench, "curves", "Curves")
    plot = bench.get_by_role("group", name="all curve")
    drag(bench, plot, (0.4, 0.6), (0.4, 0.5))
    points = first(bench).all
    assert points[1] == pytest.approx((0.4, 0.5), abs=0.01)
    bench.get_by_role("button", name="Copy to").click()
    bench.get_by_role("menuitem", name="Blue").click()
    assert first(bench).blue == points
    bench.get_by_role("button", name="Invert").click()
    step = first(bench)
    assert [p[1] for p in step.all] == [pytest.approx(1 - p[1], abs=1e-4) for p in points]
    assert step.blue == points
    bench.get_by_role("button", name="Straighten").click()
    assert first(bench).all == [(0, 0), (1, 1)]
    point = bench.get_by_role("slider", name="Point 1 of the all curve")
    point.press("Shift+ArrowUp")
    point.press("ArrowRight")
    assert first(bench).all[0] == pytest.approx((1 / 255, 10 / 255), abs=1e-4)


def test_levels_are_set_on_their_ramps(bench):
    add_step(bench, "levels", "Levels")
    black, white = (
        bench.get_by_role("slider", name="Black").first,
        bench.get_by_role("slider", name="White").last,
    )
    black.focus()
    for _ in range(2):
        bench.keyboard.press("PageUp")
    white.focus()
    bench.keyboard.press("PageDown")
    step = first(bench)
    assert 0.05 < step.all.in_black < 0.3
    assert 0.7 < step.all.out_white < 1
    assert (step.all.in_white, step.all.out_black) == (1, 0)
    # Drawn over the tones that the step is given.
    expect(control(bench).locator("svg path[fill='var(--g4)']")).to_have_count(1)


def test_stops_and_ranges_are_moved_where_they_are_drawn(bench):
    add_step(bench, "tone ramp", "Tone ramp")
    control(bench).get_by_role("button", name="Add stop").click()
    stop = bench.get_by_role("slider", name="Stop 2")
    before = first(bench).stops[1].at
    stop.focus()
    for _ in range(4):
        bench.keyboard.press("ArrowRight")
    assert first(bench).stops[1].at == pytest.approx(before + 0.02, abs=1e-6)
    add_step(bench, "hue ranges", "Hue ranges")
    mark = bench.get_by_role("slider", name="Hue of range 1")
    hue = draft_of(bench).steps[1].ranges[0].hue
    mark.press("Shift+ArrowLeft")
    mark.press("ArrowLeft")
    assert draft_of(bench).steps[1].ranges[0].hue == pytest.approx(hue + 11)


def test_a_hue_curve_has_its_points_on_ring_and_plot(bench):
    add_step(bench, "hue curves", "Hue curves")
    plot = bench.get_by_role("group", name="Saturation by hue")
    box = plot.bounding_box()
    assert box
    bench.mouse.click(box["x"] + box["width"] * 0.25, box["y"] + box["height"] * 0.5)
    bench.mouse.click(box["x"] + box["width"] * 0.75, box["y"] + box["height"] * 0.8)
    (hue, gain), (_, low) = first(bench).hue_saturation
    assert (hue, gain) == (pytest.approx(90, abs=2), pytest.approx(1.5, abs=0.05))
    assert low == pytest.approx(0.6, abs=0.05)
    bench.get_by_role("slider", name="Hue of range 1").press("Shift+ArrowLeft")
    assert first(bench).hue_saturation[0][0] == pytest.approx(hue + 10, abs=0.01)
    bench.get_by_role("slider", name="Point 2 of Saturation by hue").press("Delete")
    assert len(first(bench).hue_saturation) == 1


def test_a_ready_made_group_comes_in_as_one_and_leaves_as_its_steps(bench):
    bench.get_by_role("button", name="Add a step", exact=True).click()
    bench.get_by_role("searchbox", name="Find a step").fill("faded summer")
    bench.keyboard.press("Enter")
    group = first(bench)
    assert (group.kind, group.strength, len(group.steps)) == ("group", 0.7, 3)
    choose_row(bench, "Faded summer")
    bench.get_by_role("button", name="Step ▾").click()
    bench.get_by_role("menuitem", name="Ungroup").click()
    assert [s.kind for s in draft_of(bench).steps] == ["curves", "curves", "saturation"]
    row(bench, "Saturation").get_by_role("switch").locator("xpath=ancestor::label").click()
    assert [s.on for s in draft_of(bench).steps] == [True, True, False]


def test_looking_through_looks_changes_nothing_until_one_is_taken(bench):
    add_step(bench, "look", "Look")
    bench.get_by_role("button", name=re.compile("^Look: ")).click()
    drawn = bench.locator("main canvas[data-drawn]").first
    before = drawn.get_attribute("data-drawn")
    bench.get_by_role("option", name="Night slip").hover()
    expect(drawn).not_to_have_attribute("data-drawn", before or "")
    bench.keyboard.press("Escape")
    assert first(bench).look is None
    assert bench.get_by_role("button", name="Undo Look").count() == 0
