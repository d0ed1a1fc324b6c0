"""What a look does to a clip over time: planted faults are found at the right frames, with the step that
causes them; clips without any stay silent."""

import json
from collections.abc import Callable
from dataclasses import asdict
from pathlib import Path
from typing import Any
from xml.etree import ElementTree

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from saucer_core.cli.main import main
from saucer_core.errors import FileError
from saucer_core.formats import recipe
from saucer_core.look import Look
from saucer_core.readings.overtime import (
    FrameReading,
    Kind,
    Place,
    Samples,
    cause,
    chosen,
    measure,
    places,
    sample,
)
from saucer_core.readings.overtime.cause import eased
from saucer_core.steps import no_tables

DEMO = Path(__file__).parents[2] / "demo" / "clips"
WIDE, HIGH, FRAMES = 320, 180, 60
LOG = "film_log"
#: A look that renders log light for a display and changes nothing else.
PLAIN = Look.model_validate(
    {"input": LOG, "output": "bt709_display", "steps": [{"id": "s", "kind": "scene_to_display"}]}
)


def with_steps(*steps: dict[str, Any]) -> Look:
    return Look.model_validate(
        {"input": LOG, "output": "bt709_display", "steps": [*steps, {"id": "s", "kind": "scene_to_display"}]}
    )


DOWN, ACROSS = np.mgrid[0:HIGH, 0:WIDE].astype(np.float32)


def picture(k: int, rng: np.random.Generator, noise: float = 0.0) -> np.ndarray:
    """Log codes: a smooth sky above, textured ground, and a patch of skin that walks."""
    sky = 0.52 + 0.06 * DOWN / HIGH
    ground = 0.36 + 0.05 * np.sin(ACROSS / 3 + DOWN / 5)
    luma = np.where(DOWN < HIGH / 2, sky, ground)
    rgb = np.stack([luma, luma, luma], axis=-1)
    x = 60 + k * 2
    rgb[110:170, x : x + 80] = (0.535, 0.455, 0.41)
    return (rgb + rng.normal(0, noise, rgb.shape)).astype(np.float32) if noise else rgb.astype(np.float32)


def clip(change: Callable[[int, np.ndarray], np.ndarray] = lambda k, rgb: rgb, noise: float = 0.0) -> Samples:
    rng = np.random.default_rng(5)

    def ten(rgb: np.ndarray) -> np.ndarray:
        return (np.round(np.clip(rgb, 0, 1) * 1023) / 1023).astype(np.float32)

    return sample((k, ten(change(k, picture(k, rng, noise)))) for k in range(FRAMES))


def found(look: Look, samples: Samples) -> list[Place]:
    return places(list(measure(look, samples, LOG)))


def only(kinds: list[Place], kind: Kind) -> Place:
    assert [p.kind for p in kinds] == [kind]
    return kinds[0]


PLAIN_CLIPS = {
    "still light": clip(),
    "fine grain": clip(noise=0.004),
    "a pan": clip(lambda k, rgb: np.roll(rgb, k * 2, axis=1)),
    "a slow fade": clip(lambda k, rgb: rgb - k * 0.001),
    "a light that breathes": clip(lambda k, rgb: rgb + 0.004 * np.float32(np.sin(k / 3)), noise=0.002),
    "one frame": sample([(0, picture(0, np.random.default_rng(1)))]),
}


@pytest.mark.parametrize("name", PLAIN_CLIPS)
def test_clips_without_a_fault_stay_silent(name):
    for look in (PLAIN, with_steps({"id": "k", "kind": "saturation", "amount": 1.1})):
        assert found(look, PLAIN_CLIPS[name]) == []


STEEP = {"id": "c", "kind": "contrast", "amount": 2.4, "pivot": 0.38}


def test_highlights_that_clip_for_some_frames_are_found_there_with_their_step():
    def lit(k: int, rgb: np.ndarray) -> np.ndarray:
        out = rgb.copy()
        if 20 <= k < 35:
            out[20:60, 100:200] = 0.70
        return out

    look = with_steps(
        {"id": "k", "kind": "saturation", "amount": 1.05}, {"id": "e", "kind": "exposure", "stops": 2.5}
    )
    samples = clip(lit)
    place = only([p for p in found(look, samples) if p.kind == "white"], "white")
    assert (place.first, place.last) == (20, 34)
    assert "highlights clip" in place.text
    assert "frames 20–34" in place.text
    blamed = cause(look, place, samples, LOG)
    assert blamed is not None
    assert blamed.step == "e"
    assert blamed.strength is not None
    # Eased to that strength the place is gone; a little above it is not.
    assert [p for p in found(eased(look, "e", blamed.strength), samples) if p.kind == "white"] == []
    assert [p for p in found(eased(look, "e", blamed.strength + 0.03), samples) if p.kind == "white"] != []


def test_noise_that_a_lifted_black_wakes_up_is_told_from_what_was_there():
    samples = clip(noise=0.006)
    look = with_steps(STEEP)
    kinds = {p.kind for p in found(look, samples)}
    assert "noise" in kinds
    blamed = cause(look, next(p for p in found(look, samples) if p.kind == "noise"), samples, LOG)
    assert blamed is not None
    assert blamed.step == "c"
    # The same noise without the step is only what the clip has.
    assert found(PLAIN, samples) == []


def test_flicker_is_found_where_the_light_blinks_and_the_look_raises_it():
    def blinks(k: int, rgb: np.ndarray) -> np.ndarray:
        return rgb + (0.008 * (-1) ** k if 30 <= k < 45 else 0.0)

    samples = clip(blinks)
    place = only([p for p in found(with_steps(STEEP), samples) if p.kind == "flicker"], "flicker")
    assert abs(place.first - 29) <= 1
    assert abs(place.last - 44) <= 1
    assert place.amount > 1.4
    assert [p for p in found(PLAIN, samples) if p.kind == "flicker"] == []


def test_a_flash_of_one_frame_is_found_in_that_frame():
    samples = clip(lambda k, rgb: rgb + (0.035 if k == 33 else 0.0))
    place = next(p for p in found(with_steps(STEEP), samples) if p.kind == "flash")
    assert (place.first, place.last) == (33, 33)


def test_a_sky_that_bands_under_a_steep_curve_is_found_and_grain_hides_it():
    def sky(noise: float) -> Samples:
        rng = np.random.default_rng(3)
        codes = 0.50 + 0.012 * ACROSS / WIDE
        return clip(lambda k, rgb: codes[..., None] + rng.normal(0, noise, rgb.shape).astype(np.float32))

    levels = {"id": "l", "kind": "levels", "all": {"in_black": 0.44, "in_white": 0.58}}
    steps = [{"id": "s", "kind": "scene_to_display"}, levels]
    steep = Look.model_validate({"input": LOG, "output": "bt709_display", "steps": steps})
    assert "bands" in {p.kind for p in found(steep, sky(0))}
    assert "bands" not in {p.kind for p in found(PLAIN, sky(0))}
    assert "bands" not in {p.kind for p in found(steep, sky(0.003))}


def test_skin_that_drifts_under_a_split_tint_is_found_where_it_walks_into_the_dark():
    def dark(k: int, rgb: np.ndarray) -> np.ndarray:
        return rgb - np.float32(0.10 if k >= 40 else 0.0)

    def larger(k: int, rgb: np.ndarray) -> np.ndarray:
        out = rgb.copy()
        out[90:178, 40:280] = (0.535, 0.455, 0.41)
        return dark(k, out)

    samples = clip(larger)
    tint = {"id": "z", "kind": "zone_tint", "shadows": {"hue": 130, "amount": 0.5}}
    look = Look.model_validate(
        {"input": LOG, "output": "bt709_display", "steps": [{"id": "s", "kind": "scene_to_display"}, tint]}
    )
    skin = [p for p in found(look, samples) if p.kind == "skin"]
    assert len(skin) == 1
    assert abs(skin[0].first - 40) <= 1
    blamed = cause(look, skin[0], samples, LOG)
    assert blamed is not None
    assert blamed.step == "z"
    assert [p for p in found(PLAIN, samples) if p.kind == "skin"] == []


@given(st.integers(1, 200_000))
@settings(deadline=None)
def test_frames_are_chosen_within_the_clip_in_order_and_with_their_neighbours(frames):
    numbers = chosen(frames)
    assert numbers == tuple(sorted(set(numbers)))
    assert len(numbers) <= 240
    assert numbers[0] >= 0
    assert numbers[-1] < frames
    if frames > 1:
        assert all(n + 1 in numbers or n - 1 in numbers for n in numbers)


def close(some: list[FrameReading], others: list[FrameReading]) -> None:
    def flat(value: Any) -> list[float]:
        inner = value.values() if isinstance(value, dict) else value
        return (
            [x for v in inner for x in flat(v)] if isinstance(value, dict | tuple | list) else [value or 0.0]
        )

    for one, other in zip(some, others, strict=True):
        assert flat(asdict(one)) == pytest.approx(flat(asdict(other)), abs=1e-6)


def test_no_frame_depends_on_how_many_are_measured_at_once(monkeypatch):
    samples = clip(noise=0.004)
    whole = list(measure(PLAIN, samples, LOG))
    monkeypatch.setattr("saucer_core.readings.overtime.measuring.AT_ONCE", 7)
    close(list(measure(PLAIN, samples, LOG)), whole)
    close(list(measure(PLAIN, samples.some(range(20, 30)), LOG))[:9], whole[20:29])


def test_without_a_look_after_is_before():
    for reading in measure(None, clip(noise=0.004), LOG):
        assert reading.before == reading.after


def test_samples_come_back_from_their_file_and_nothing_else_does():
    samples = clip()
    back = Samples.from_bytes(samples.to_bytes())
    assert np.array_equal(back.blocks, samples.blocks)
    assert np.array_equal(back.pieces, samples.pieces)
    with pytest.raises(FileError, match="Take them again"):
        Samples.from_bytes(b"nothing")


@pytest.mark.parametrize(("width", "height"), [(1, 1), (7, 3), (2, 400), (1280, 2)])
def test_pictures_of_any_size_are_sampled(width, height):
    rgb = np.full((height, width, 3), 0.4, np.float32)
    samples = sample([(0, rgb), (1, rgb)])
    assert len(list(measure(PLAIN, samples, LOG))) == 2


def test_apply_measures_a_clip_over_time(tmp_path, capsys):
    look, report, plot = tmp_path / "steep.saucer.json", tmp_path / "report.json", tmp_path / "lines.svg"
    steps = [{"id": "e", "kind": "exposure", "stops": 5}, {"id": "s", "kind": "scene_to_display"}]
    bright = Look.model_validate({"input": LOG, "output": "bt709_display", "steps": steps})
    recipe.write(look, bright, name="Bright", tables=no_tables)
    clip_path = DEMO / "yard_at_dusk_log.mov"
    words = ["apply", look, clip_path, "--over-time", report, "--plot", plot, "--encoding", LOG, "--quiet"]
    assert main([*map(str, words)]) == 0
    capsys.readouterr()
    said = json.loads(report.read_text())
    assert [f["number"] for f in said["frames"]] == list(range(120))
    white = next(p for p in said["places"] if p["kind"] == "white")
    assert white["cause"]["step"] == "e"
    drawn = ElementTree.parse(plot).getroot()
    assert len(drawn.findall(".//{http://www.w3.org/2000/svg}polyline")) == 10
    assert len(drawn.findall(".//{http://www.w3.org/2000/svg}title")) == len(said["places"])


@pytest.mark.parametrize(
    ("words", "said"),
    [
        (["picture.png", "--over-time", "report.json"], "is no clip"),
        (["clip.mov", "--plot", "lines.svg"], "it draws what --over-time measures"),
        (["clip.mov"], "Say it with --output"),
        (["clip.mov", "-o", "out.mov", "--over-time", "report.json"], "measured with --over-time"),
    ],
)
def test_what_cannot_be_measured_over_time_is_said(words, said, tmp_path, capsys, monkeypatch):
    monkeypatch.chdir(tmp_path)
    recipe.write(tmp_path / "look.saucer.json", PLAIN, name="Plain", tables=no_tables)
    assert main(["apply", "look.saucer.json", *words]) != 0
    assert said in capsys.readouterr().err
    assert not (tmp_path / "report.json").exists()
